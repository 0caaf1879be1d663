package weftex.cli.workplace;

import java.util.Arrays;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.stream.Stream;
import org.apache.commons.cli.CommandLine;
import org.apache.commons.cli.Option;
import org.apache.commons.cli.Options;
import weftex.cli.config.SelectionWords;
import weftex.core.yaml.Nearest;
import weftex.store.Refusal;

/** The options that choose tables, rows and things. */
public final class SelectionOptions {
  private static final Map<String, String> ARGUMENTS =
      Map.of(
          "both", "ROWS", "same", "PAIRS", "with", "WHAT", "item", "THING", "rows", "ROWS", "since",
          "WHEN", "until", "WHEN", "member", "MEMBER");

  private SelectionOptions() {}

  /** All of them, for commands that compare. */
  public static void addTo(Options options) {
    addChoosing(options);
    SelectionWords.WORDS.forEach((word, meaning) -> options.addOption(option(word, meaning)));
  }

  /** Those that choose among changes that are there already. */
  public static void addChoosing(Options options) {
    SelectionWords.WORDS.forEach(
        (word, meaning) -> {
          if (!SelectionWords.OF_COMPARISONS.contains(word)) {
            options.addOption(option(word, meaning));
          }
        });
    options.addOption(
        Option.builder()
            .longOpt("selection")
            .hasArg()
            .argName("NAME")
            .desc("what weftex.yaml has under this name, in addition to the other options")
            .get());
  }

  /** Their names, under the heading that they have in a list of options. */
  public static Map<String, List<String>> heading(String... others) {
    return Map.of(
        "which changes",
        Stream.of(SelectionWords.WORDS.keySet().stream(), Stream.of("selection"), Stream.of(others))
            .flatMap(names -> names)
            .toList());
  }

  private static Option option(String word, String meaning) {
    Option.Builder option = Option.builder().longOpt(word).desc(meaning);
    if (SelectionWords.isFlag(word)) {
      return option.get();
    }
    if (SelectionWords.isList(word)) {
      return option
          .hasArgs()
          .valueSeparator(',')
          .argName(ARGUMENTS.getOrDefault(word, "PATTERNS"))
          .get();
    }
    String plain = word.replace("without-", "");
    return option.hasArg().argName(ARGUMENTS.getOrDefault(plain, "PATTERN")).get();
  }

  /** Whether anything is chosen on the command line. */
  public static boolean isSaid(CommandLine line) {
    return line.hasOption("selection")
        || SelectionWords.WORDS.keySet().stream().anyMatch(line::hasOption);
  }

  /** Whether anything is chosen that an earlier draft has settled. */
  public static boolean isChosen(CommandLine line) {
    return line.hasOption("selection")
        || SelectionWords.WORDS.keySet().stream()
            .anyMatch(word -> !word.equals(SelectionWords.BOTH) && line.hasOption(word));
  }

  /**
   * What is said on the command line, and under the name that it asks for.
   *
   * @param named the selections of weftex.yaml
   */
  static SelectionWords read(CommandLine line, Map<String, SelectionWords> named) throws Refusal {
    Map<String, List<String>> said = new LinkedHashMap<>();
    for (String word : SelectionWords.WORDS.keySet()) {
      if (line.hasOption(word)) {
        said.put(word, SelectionWords.isFlag(word) ? List.of("yes") : values(line, word));
      }
    }
    SelectionWords words = new SelectionWords(said);
    for (String name : values(line, "selection")) {
      if (!named.containsKey(name)) {
        throw new Refusal(
            Refusal.Kind.WRONG_INPUT,
            "weftex.yaml has no selection '" + name + "'. Nothing was changed.",
            named.isEmpty()
                ? "Save one with 'weftex draft --item ... --save-selection NAME'."
                : Nearest.to(name, named.keySet())
                    .map(near -> "Did you mean '" + near + "'?")
                    .orElse("It has " + String.join(", ", named.keySet()) + "."));
      }
      words = named.get(name).and(words);
    }
    return words;
  }

  public static Option tables(String description) {
    return option("tables", description);
  }

  public static List<String> values(CommandLine line, String option) {
    String[] values = line.getOptionValues(option);
    return values == null ? List.of() : Arrays.stream(values).map(String::strip).toList();
  }
}
