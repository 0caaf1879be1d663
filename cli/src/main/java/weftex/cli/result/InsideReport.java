package weftex.cli.result;

import java.io.IOException;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import weftex.core.moving.Malformed;
import weftex.core.moving.Suspicion;
import weftex.core.plan.Plan;
import weftex.store.compare.ComparisonRun;

/**
 * What was done, and what was left, inside the values that move.
 *
 * @param addresses what was mapped to the target's addresses, by table and column
 * @param malformed values that claim a format and are not well-formed, so that nothing inside was
 *     touched
 * @param followed numbers that are taken for references by the names of their members
 * @param suspicions numbers that may be references which nobody declared
 */
public record InsideReport(
    List<Mapped> addresses,
    List<Malformed> malformed,
    List<Suspicion> followed,
    List<Suspicion> suspicions) {

  /**
   * Addresses in a column.
   *
   * @param rows how many rows have one there
   * @param hits how many there are
   * @param forms how many, by form
   */
  public record Mapped(
      String table, String column, long rows, long hits, Map<String, Long> forms) {}

  public static InsideReport of(ComparisonRun run, Plan plan) throws IOException {
    List<Mapped> mapped =
        run.mapped().mapped(plan::moves).stream()
            .map(
                m -> {
                  Map<String, Long> forms = new TreeMap<>();
                  m.forms().forEach((form, count) -> forms.put(form.label(), count));
                  long hits = forms.values().stream().mapToLong(Long::longValue).sum();
                  return new Mapped(m.table(), m.column(), m.rows(), hits, forms);
                })
            .toList();
    return new InsideReport(mapped, plan.malformed(), plan.followed(), plan.suspicions());
  }
}
