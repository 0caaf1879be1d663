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
 * @param undescribed other tables that differ, of which only whose they are is said
 */
public record RolesReport(
    List<Left> leftOut,
    Map<String, Long> brought,
    List<Unknown> unknown,
    List<Undescribed> undescribed) {

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
                      words(references.getOrDefault(entry.getKey(), List.of()))))
          .toList();
    }
  }

  /**
   * A table of which only whose it is is said, and whose references are found by evidence.
   *
   * @param references columns that are taken for references, each with its evidence
   */
  public record Undescribed(String table, List<String> references) {

    /** Those of a site that have such references, by name. */
    public static List<Undescribed> of(
        SiteMap site, Map<String, List<GuessedReference>> references, Predicate<String> wanted) {
      return references.entrySet().stream()
          .filter(entry -> wanted.test(entry.getKey()))
          .filter(entry -> !site.unknown().containsKey(entry.getKey()))
          .map(entry -> new Undescribed(entry.getKey(), words(entry.getValue())))
          .toList();
    }
  }

  private static List<String> words(List<GuessedReference> references) {
    return references.stream()
        .map(guess -> guess.column() + " refers to " + guess.to() + " (" + guess.why() + ")")
        .toList();
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
    Set<String> differing = new HashSet<>(run.tables().noise());
    for (int i = 0; i < run.comparison().tables().size(); i++) {
      if (run.comparison().tally(i).isDifferent()) {
        differing.add(run.comparison().tables().get(i).table().name());
      }
    }
    return new RolesReport(
        plan.leftOut().stream().map(Left::of).toList(),
        plan.brought(),
        Unknown.of(run.site(), run.tables().guessedReferences(), differing::contains),
        Undescribed.of(run.site(), run.tables().guessedReferences(), differing::contains));
  }
}
