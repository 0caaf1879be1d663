package weftex.cli.result;

import java.util.List;
import java.util.Map;
import java.util.Optional;
import weftex.core.model.Role;
import weftex.core.scan.Finding;
import weftex.core.scan.FindingKind;
import weftex.core.scan.Findings;
import weftex.store.scan.FolderScan;

/**
 * What is wrong in a copy.
 *
 * @param sorts by kind, table and column
 * @param folders what is in the folders of files, if that was asked for
 * @param notLookedFor what could not be looked for, and why
 */
public record ScanReport(
    String copy,
    String place,
    int tables,
    long rows,
    List<Sort> sorts,
    Optional<FolderScan> folders,
    Map<String, String> notLookedFor) {

  /**
   * Findings of one kind in one column.
   *
   * @param whose {@code content}, {@code live's own} or {@code noise}
   * @param hits for leftovers by the form of the address
   * @param first the first of them
   */
  public record Sort(
      String kind,
      String means,
      String table,
      String column,
      String whose,
      long rows,
      Map<String, Long> hits,
      List<First> first) {

    public static Sort of(Findings.Sort sort) {
      FindingKind kind = sort.place().kind();
      return new Sort(
          kind.label(),
          kind.words(),
          sort.place().table(),
          sort.place().column(),
          sort.place().role().words(),
          sort.rows(),
          sort.hits(),
          sort.first().stream().map(First::of).toList());
    }

    /** Whether it hurts nobody. */
    public boolean isNoise() {
      return whose.equals(Role.NOISE.words());
    }

    /** Whether it may be meant so. */
    public boolean isPerhaps() {
      return kind.equals(FindingKind.MENTION.label());
    }
  }

  /** One finding. */
  public record First(String key, String what) {
    public static First of(Finding finding) {
      return new First(finding.key(), finding.what());
    }
  }

  /** Whether nothing was found that is certain and not noise. */
  public boolean isClean() {
    return sorts.stream().allMatch(sort -> sort.isNoise() || sort.isPerhaps());
  }
}
