package weftex.cli.config;

import java.time.Instant;
import java.util.ArrayList;
import java.util.Collections;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import weftex.core.decide.StandingRule;
import weftex.core.yaml.Nearest;
import weftex.store.Refusal;

/** Reads what weftex.yaml says once for all: selections and rules. */
final class StandingReader {
  private static final List<String> KEEPS = List.of("live", "staging", StandingRule.BOTH);

  private final CopyReader.Problems problems;

  StandingReader(CopyReader.Problems problems) {
    this.problems = problems;
  }

  /** The selections, by name. */
  Map<String, SelectionWords> selections(PairFile said) throws Refusal {
    Map<String, SelectionWords> selections = new LinkedHashMap<>();
    if (said.standing().selections() == null) {
      return selections;
    }
    for (Map.Entry<String, Map<String, List<String>>> entry :
        said.standing().selections().entrySet()) {
      String name = entry.getKey();
      if (entry.getValue() == null) {
        throw problems.wrong("'selections." + name + "' is missing");
      }
      for (String word : entry.getValue().keySet()) {
        if (!SelectionWords.WORDS.containsKey(word)) {
          throw problems.wrong(
              "selection '"
                  + name
                  + "' says '"
                  + word
                  + "', which nothing can be chosen by"
                  + Nearest.to(word, SelectionWords.WORDS.keySet())
                      .map(near -> "; did you mean '" + near + "'?")
                      .orElse(""));
        }
      }
      selections.put(name, checked("selection '" + name + "'", entry.getValue()));
    }
    return Collections.unmodifiableMap(selections);
  }

  private SelectionWords checked(String what, Map<String, List<String>> said) throws Refusal {
    SelectionWords words = new SelectionWords(said);
    try {
      words.selection(Instant.EPOCH);
    } catch (Refusal e) {
      throw problems.wrong(what + ": " + e.reason());
    }
    return words;
  }

  /** The rules, in their order. */
  List<StandingRule> rules(PairFile said) throws Refusal {
    List<StandingRule> rules = new ArrayList<>();
    for (PairFile.RuleEntry entry :
        said.standing().rules() == null ? List.<PairFile.RuleEntry>of() : said.standing().rules()) {
      rules.add(rule(rules.size() + 1, entry));
    }
    return rules;
  }

  private StandingRule rule(int number, PairFile.RuleEntry entry) throws Refusal {
    boolean leaveOut = Boolean.TRUE.equals(entry.leaveOut());
    if (leaveOut == (entry.keep() != null)) {
      throw problems.wrong(
          "rule " + number + " needs either 'keep' (live, staging or both) or 'leave-out: true'");
    }
    if (entry.keep() != null && !KEEPS.contains(entry.keep())) {
      throw problems.wrong(
          "rule " + number + " keeps '" + entry.keep() + "'; say live, staging or both");
    }
    if (leaveOut && entry.column() != null) {
      throw problems.wrong(
          "rule " + number + " leaves out a column; only whole changes can be left out");
    }
    Map<String, List<String>> about = new LinkedHashMap<>();
    put(about, "item", entry.item());
    put(about, "tables", entry.tables());
    put(about, "rows", entry.rows());
    put(about, "path", entry.path());
    if (about.isEmpty()) {
      throw problems.wrong(
          "rule "
              + number
              + " says nothing of what it is about: 'item', 'tables', 'rows' or 'path'");
    }
    return new StandingRule(
        number,
        checked("rule " + number, about).selection(Instant.EPOCH),
        Optional.ofNullable(entry.column()),
        Optional.ofNullable(entry.keep()),
        entry.why() == null ? words(about, entry) : entry.why());
  }

  private static void put(Map<String, List<String>> about, String word, List<String> values) {
    if (values != null && !values.isEmpty()) {
      about.put(word, values);
    }
  }

  /** A rule in words, for whoever gave no reason. */
  private static String words(Map<String, List<String>> about, PairFile.RuleEntry entry) {
    String what =
        about.values().stream()
            .map(values -> String.join(", ", values))
            .collect(java.util.stream.Collectors.joining("; "));
    return entry.keep() == null
        ? "always left out: " + what
        : "in conflicts, "
            + (entry.keep().equals(StandingRule.BOTH)
                ? "both sides of "
                : entry.keep() + "'s side of ")
            + what
            + (entry.column() == null ? "" : " in " + entry.column());
  }
}
