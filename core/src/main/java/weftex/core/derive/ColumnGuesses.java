package weftex.core.derive;

import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.util.Collection;
import java.util.List;
import java.util.Locale;
import weftex.core.row.Table;
import weftex.core.value.Structure;
import weftex.core.value.Syntax;

/** What the values of a column show that it holds. */
final class ColumnGuesses {

  private static final double COUNTS = 0.9;
  private static final double STRUCTURED = 0.3;

  private final Collection<Table> all;
  private final ReferenceGuesser references;
  private final Evidence evidence;

  ColumnGuesses(Collection<Table> all, ReferenceGuesser references, Evidence evidence) {
    this.all = all;
    this.references = references;
    this.evidence = evidence;
  }

  void counter(Table table, int column, List<DerivedTable.Guess> guesses) throws IOException {
    String name = ReferredTable.column(table, column).toLowerCase(Locale.ROOT);
    List<Table> likelyFirst =
        all.stream()
            .sorted(
                java.util.Comparator.comparing(
                    (Table of) ->
                        !name.contains(ReferredTable.singular(of.name().toLowerCase(Locale.ROOT)))))
            .toList();
    for (Table of : likelyFirst) {
      for (int by = 0; by < of.columns().size(); by++) {
        boolean refers = references.refers(of, by, table);
        if (!refers || of.name().equals(table.name())) {
          continue;
        }
        Evidence.Share share = evidence.counts(table, column, of, by);
        if (share.isAtLeast(COUNTS)) {
          guesses.add(
              new DerivedTable.Guess(
                  "counters",
                  ReferredTable.column(table, column)
                      + ": {of: "
                      + of.name()
                      + ", by: "
                      + ReferredTable.column(of, by)
                      + "}",
                  "it equals the rows of " + of.name() + " in " + share.percent() + " % of rows"));
          return;
        }
      }
    }
  }

  void format(Table table, int column, List<DerivedTable.Guess> guesses) throws IOException {
    List<String> sample = evidence.sample(table, column);
    long serialized = sample.stream().filter(v -> isWritten(v, Syntax.SERIALIZED)).count();
    long json = sample.stream().filter(v -> isWritten(v, Syntax.JSON)).count();
    if (!sample.isEmpty() && serialized + json >= STRUCTURED * sample.size()) {
      guesses.add(
          new DerivedTable.Guess(
              "",
              "",
              ReferredTable.column(table, column)
                  + " holds "
                  + (serialized >= json ? "serialised values" : "JSON")
                  + " ("
                  + Math.max(serialized, json)
                  + " of "
                  + sample.size()
                  + " looked at), which is detected automatically; IDs of rows inside need 'inside'"));
    }
  }

  static boolean isWritten(String value, Syntax syntax) {
    return value.length() > 2
        && Structure.detect(value.getBytes(StandardCharsets.UTF_8))
            .map(structure -> structure.syntax() == syntax)
            .orElse(false);
  }
}
