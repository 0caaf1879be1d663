package weftex.cli.result;

import com.fasterxml.jackson.annotation.JsonTypeInfo;
import com.fasterxml.jackson.annotation.JsonTypeName;
import com.fasterxml.jackson.annotation.JsonUnwrapped;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import weftex.cli.session.Took;
import weftex.core.row.Value;
import weftex.core.scan.FindingKind;
import weftex.store.apply.ApplyOutcome;
import weftex.store.engine.Drift;
import weftex.store.receipt.Effect;
import weftex.store.scan.TouchedScan;

/** What became of an apply; {@code outcome} says which in JSON. */
@JsonTypeInfo(use = JsonTypeInfo.Id.NAME, property = "outcome")
public sealed interface ApplyReport {

  /** Which change set, and between which copies. */
  record Where(String file, String from, String into) {}

  /** How many rows. */
  record Counts(long adds, long updates, long removes) {}

  /**
   * What came of the changes.
   *
   * @param altered rows in which the server itself changed more
   * @param followed what followed from them
   * @param touched what was wrong in the touched rows, by kind of finding
   * @param steps what is left for a person
   */
  record Aftermath(
      List<Drift> altered,
      List<Followed> followed,
      Map<String, Touched> touched,
      List<String> steps) {}

  /**
   * The changes are made.
   *
   * @param took how long it took, and how large the receipt is
   * @param schema new tables and columns, in words
   * @param files what became of files
   * @param renumbered rows that got another number, by their names
   */
  @JsonTypeName("applied")
  record Applied(
      @JsonUnwrapped Where where,
      String receipt,
      Took took,
      List<String> schema,
      @JsonUnwrapped Counts counts,
      ApplyOutcome.FileCounts files,
      Map<String, String> renumbered,
      @JsonUnwrapped Things made,
      @JsonUnwrapped Aftermath after)
      implements ApplyReport {}

  /** They had been made before. */
  @JsonTypeName("already-applied")
  record AlreadyApplied(@JsonUnwrapped Where where, String receipt, String at)
      implements ApplyReport {}

  /** There was nothing to make. */
  @JsonTypeName("nothing")
  record Nothing(@JsonUnwrapped Where where) implements ApplyReport {}

  /** Rows changed since the review, so nothing was written. */
  @JsonTypeName("drifted")
  record Drifted(@JsonUnwrapped Where where, List<Drift> drifts, long moreDrifts)
      implements ApplyReport {}

  /**
   * What was made or taken back, as a person sees it.
   *
   * @param thingsBeyond how many more rows there are than those of these things
   */
  record Things(List<Made> things, long thingsBeyond) {
    public static final Things NONE = new Things(List.of(), 0);
  }

  /**
   * A thing that was made, changed or removed.
   *
   * @param id its ID on the target where that is another than on the source; empty otherwise
   */
  record Made(@JsonUnwrapped ItemReport item, String id) {}

  /** In how many of the touched rows something was wrong before, was expected to be, and is now. */
  record Touched(long before, long forecast, long after) {
    public static Map<String, Touched> of(
        TouchedScan.Difference difference, Map<FindingKind, Long> forecast) {
      Map<String, Touched> touched = new LinkedHashMap<>();
      for (FindingKind kind : FindingKind.values()) {
        long before = difference.before().getOrDefault(kind, 0L);
        long after = difference.after().getOrDefault(kind, 0L);
        long expected = forecast.getOrDefault(kind, 0L);
        if (before + expected + after > 0) {
          touched.put(kind.label(), new Touched(before, expected, after));
        }
      }
      return touched;
    }
  }

  /**
   * A column that followed from the changes.
   *
   * @param column empty for whole rows
   * @param does {@code recounted}, {@code emptied}, {@code written}, {@code made} or {@code
   *     removed}
   */
  record Followed(String table, String column, String does, long rows) {
    public static List<Followed> of(List<Effect> effects) {
      Map<List<String>, Long> rows = new LinkedHashMap<>();
      for (Effect effect : effects) {
        if (effect.isMade() || effect.isRemoved()) {
          String does = effect.isMade() ? "made" : "removed";
          rows.merge(List.of(effect.table(), "", does), 1L, Long::sum);
          continue;
        }
        effect
            .after()
            .forEach(
                (column, now) ->
                    rows.merge(List.of(effect.table(), column, does(now)), 1L, Long::sum));
      }
      return rows.entrySet().stream()
          .map(
              entry ->
                  new Followed(
                      entry.getKey().get(0),
                      entry.getKey().get(1),
                      entry.getKey().get(2),
                      entry.getValue()))
          .toList();
    }

    private static String does(Value now) {
      boolean empty = now.isNull() || now.equals(Value.text(""));
      return empty ? "emptied" : now instanceof Value.Text ? "written" : "recounted";
    }
  }
}
