package weftex.cli.result;

import java.io.IOException;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.function.Predicate;
import weftex.core.derive.GuessedReference;
import weftex.core.plan.LeftOut;
import weftex.core.plan.Plan;
import weftex.core.site.SiteMap;
import weftex.store.compare.ComparisonRun;

/**
 * What of a plan is not content.
 *
 * @param leftOut what stays out because it is live's own or noise
 * @param brought what is live's own and goes along since it was asked for: how many rows, by kind
 * @param unknown tables that differ and that no model names
 */
public record RolesReport(List<Left> leftOut, Map<String, Long> brought, List<Unknown> unknown) {

  /**
   * A table that differs and that no model names.
   *
   * @param takenFor {@code content}, {@code live's own} or {@code noise}
   * @param evidence what speaks for that; empty if nothing does
   * @param references columns that are taken for references, each with its evidence
   */
  public record Unknown(String table, String takenFor, String evidence, List<String> references) {

    /** Those of a site, by name. */
    public static List<Unknown> of(
        SiteMap site, Map<String, List<GuessedReference>> references, Predicate<String> wanted) {
      return site.unknown().entrySet().stream()
          .filter(entry -> wanted.test(entry.getKey()))
          .map(
              entry ->
                  new Unknown(
                      entry.getKey(),
                      entry.getValue().role().words(),
                      entry.getValue().evidence(),
                      references.getOrDefault(entry.getKey(), List.of()).stream()
                          .map(Unknown::words)
                          .toList()))
          .toList();
    }

    private static String words(GuessedReference guess) {
      return guess.column() + " refers to " + guess.to() + " (" + guess.why() + ")";
    }
  }

  /**
   * Changes that stay out.
   *
   * @param whose {@code live's own} or {@code noise}
   * @param kind what they are called, or their table
   */
  public record Left(String whose, String kind, long rows) {
    public static Left of(LeftOut left) {
      return new Left(left.role().words(), left.kind(), left.changes());
    }
  }

  public static RolesReport of(ComparisonRun run, Plan plan) throws IOException {
    Set<String> differing = new HashSet<>(run.noise());
    for (int i = 0; i < run.comparison().tables().size(); i++) {
      if (run.comparison().bySource(i).findAny().isPresent()) {
        differing.add(run.comparison().tables().get(i).table().name());
      }
    }
    return new RolesReport(
        plan.leftOut().stream().map(Left::of).toList(),
        plan.brought(),
        Unknown.of(run.site(), run.guessedReferences(), differing::contains));
  }
}
