package weftex.cli.config;

import java.io.IOException;
import java.io.OutputStream;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardCopyOption;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.stream.Collectors;
import weftex.store.Refusal;
import weftex.store.state.Files0600;

/** Writes a selection under a name into weftex.yaml, and leaves every other line as it is. */
public final class SelectionSaver {
  private SelectionSaver() {}

  /**
   * Checks whether a selection can be saved, before what it is used for is done.
   *
   * @param environment where passwords may be, so that the new file can be read before it counts
   * @throws Refusal if the name is taken or can't be one, or if nothing is chosen
   */
  public static void check(
      Path file, String name, SelectionWords words, Map<String, String> environment)
      throws Refusal {
    if (!name.matches("[A-Za-z][A-Za-z0-9_-]*")) {
      throw refusal(
          "'" + name + "' can't be the name of a selection.",
          "Use letters, digits, - and _, beginning with a letter.");
    }
    if (words.isEmpty()) {
      throw refusal("Nothing is chosen that could be saved.", "Say what, such as --item 'page:*'.");
    }
    if (PairReader.read(file, environment).selections().containsKey(name)) {
      throw refusal(
          "weftex.yaml has a selection '" + name + "' already.",
          "Take another name, or change it in the file.");
    }
  }

  /**
   * Saves what was checked.
   *
   * @throws Refusal if the file would not be understood afterwards
   */
  public static void save(
      Path file, String name, SelectionWords words, Map<String, String> environment)
      throws Refusal, IOException {
    List<String> lines =
        new ArrayList<>(
            new String(Files.readAllBytes(file), StandardCharsets.UTF_8).lines().toList());
    int at = heading(lines);
    if (at < 0) {
      lines.add("");
      lines.add("# What is chosen together; 'weftex draft --selection NAME' takes it.");
      lines.add("selections:");
      at = lines.size() - 1;
    }
    lines.add(at + 1, "  " + name + ": {" + inside(words) + "}");
    Path partial = file.resolveSibling(file.getFileName() + ".partial");
    try (OutputStream out = Files0600.create(partial)) {
      out.write((String.join("\n", lines) + "\n").getBytes(StandardCharsets.UTF_8));
    }
    try {
      PairReader.read(partial, environment);
    } catch (Refusal e) {
      Files.delete(partial);
      throw new Refusal(
          Refusal.Kind.WRONG_INPUT,
          "The selection can't be written into weftex.yaml as the file is, and was not saved.",
          "Write it by hand under 'selections:'; docs/configuration.md shows how.");
    }
    Files.setPosixFilePermissions(partial, Files.getPosixFilePermissions(file));
    Files.move(partial, file, StandardCopyOption.ATOMIC_MOVE, StandardCopyOption.REPLACE_EXISTING);
  }

  /** The line that selections stand under, or -1. */
  private static int heading(List<String> lines) {
    for (int i = 0; i < lines.size(); i++) {
      if (lines.get(i).matches("selections:\\s*(#.*)?")) {
        return i;
      }
    }
    return -1;
  }

  private static String inside(SelectionWords words) {
    return SelectionWords.WORDS.keySet().stream()
        .filter(words.said()::containsKey)
        .map(
            word ->
                word
                    + ": "
                    + (SelectionWords.isFlag(word)
                        ? "true"
                        : words.said().get(word).stream()
                            .map(value -> "\"" + escaped(value) + "\"")
                            .collect(Collectors.joining(", ", "[", "]"))))
        .collect(Collectors.joining(", "));
  }

  private static String escaped(String value) {
    return value.replace("\\", "\\\\").replace("\"", "\\\"");
  }

  private static Refusal refusal(String what, String next) {
    return new Refusal(Refusal.Kind.WRONG_INPUT, what + " Nothing was changed.", next);
  }
}
