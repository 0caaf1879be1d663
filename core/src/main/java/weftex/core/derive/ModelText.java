package weftex.core.derive;

import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;

/** Writes guesses as a model file, with the evidence as comments. */
public final class ModelText {
  private ModelText() {}

  /**
   * Writes.
   *
   * @param name the model's name
   * @param parent the built-in model that it adds to; empty for none
   */
  public static String write(String name, String parent, List<DerivedTable> tables) {
    StringBuilder out = new StringBuilder();
    out.append(
        "# A start, guessed from the schema and the data: go through it line by line. The comments say what each guess\n");
    out.append("# rests on; docs/site-models.md describes the rules.\n");
    out.append("model: ").append(name).append('\n');
    if (!parent.isEmpty()) {
      out.append("extends: ").append(parent).append('\n');
    }
    out.append(tables.isEmpty() ? "tables: {}\n" : "tables:\n");
    for (DerivedTable table : tables) {
      table(table, out);
    }
    return out.toString();
  }

  private static void table(DerivedTable table, StringBuilder out) {
    Map<String, List<DerivedTable.Guess>> byKey = new LinkedHashMap<>();
    for (DerivedTable.Guess guess : table.rules()) {
      byKey.computeIfAbsent(guess.key(), unused -> new ArrayList<>()).add(guess);
    }
    List<DerivedTable.Guess> remarks = byKey.getOrDefault("", List.of());
    byKey.remove("");
    out.append("  ").append(table.name()).append(byKey.isEmpty() ? ": {}\n" : ":\n");
    for (DerivedTable.Guess remark : remarks) {
      out.append("    # ").append(remark.why()).append('\n');
    }
    Map<String, List<DerivedTable.Guess>> inside = new LinkedHashMap<>(byKey);
    inside.keySet().removeIf(key -> !key.startsWith(DerivedTable.INSIDE));
    byKey.keySet().removeAll(inside.keySet());
    rules(byKey, out);
    inside(inside, out);
  }

  private static void inside(Map<String, List<DerivedTable.Guess>> byColumn, StringBuilder out) {
    out.append(byColumn.isEmpty() ? "" : "    inside:\n");
    byColumn.forEach(
        (key, guesses) -> {
          // A list of comments alone would be no list.
          boolean only = guesses.stream().allMatch(guess -> guess.entry().startsWith("#"));
          out.append("      ").append(key.substring(DerivedTable.INSIDE.length()));
          out.append(only ? ": []\n" : ":\n");
          for (DerivedTable.Guess guess : guesses) {
            out.append("        # ").append(guess.why()).append('\n');
            out.append("        ").append(guess.entry()).append('\n');
          }
        });
  }

  private static void rules(Map<String, List<DerivedTable.Guess>> byKey, StringBuilder out) {
    byKey.forEach(
        (key, guesses) -> {
          DerivedTable.Guess first = guesses.get(0);
          boolean map = key.equals("references") || key.equals("columns") || key.equals("counters");
          if (!map) {
            out.append("    # ").append(first.why()).append('\n');
            out.append("    ").append(key).append(": ").append(first.entry()).append('\n');
            return;
          }
          out.append("    ").append(key).append(":\n");
          for (DerivedTable.Guess guess : guesses) {
            out.append("      # ").append(guess.why()).append('\n');
            out.append("      ").append(guess.entry()).append('\n');
          }
        });
  }
}
