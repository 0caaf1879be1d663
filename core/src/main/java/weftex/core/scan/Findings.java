package weftex.core.scan;

import java.util.ArrayList;
import java.util.Comparator;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import weftex.core.model.Role;

/** What is wrong in a copy: all of it counted, the first of each sort kept. */
public final class Findings {
  private final int kept;
  private final Map<Place, Group> groups = new LinkedHashMap<>();

  /**
   * @param kept how many of each sort are kept
   */
  public Findings(int kept) {
    this.kept = kept;
  }

  /** A sort of findings: one kind in one column, of content or of what is not. */
  public record Place(FindingKind kind, String table, String column, Role role) {}

  /**
   * Findings of a sort.
   *
   * @param rows in how many rows
   * @param hits how many there are; for leftovers by form, else under an empty name
   * @param first the first of them
   */
  public record Sort(Place place, long rows, Map<String, Long> hits, List<Finding> first) {}

  private static final class Group {
    private long rows;
    private String lastKey = "";
    private final Map<String, Long> hits = new LinkedHashMap<>();
    private final List<Finding> first = new ArrayList<>();
  }

  /**
   * Notes a finding.
   *
   * @param form the sort of hit; empty for none
   */
  public void add(Finding finding, String form) {
    Group group =
        groups.computeIfAbsent(
            new Place(finding.kind(), finding.table(), finding.column(), finding.role()),
            unused -> new Group());
    if (group.rows == 0 || !group.lastKey.equals(finding.key())) {
      group.rows++;
      group.lastKey = finding.key();
    }
    group.hits.merge(form, 1L, Long::sum);
    if (group.first.size() < kept) {
      group.first.add(finding);
    }
  }

  /** Notes something that has no form. */
  void add(Finding finding) {
    add(finding, "");
  }

  /** All sorts, by kind, table and column. */
  public List<Sort> sorts() {
    return groups.entrySet().stream()
        .map(
            entry ->
                new Sort(
                    entry.getKey(),
                    entry.getValue().rows,
                    Map.copyOf(entry.getValue().hits),
                    List.copyOf(entry.getValue().first)))
        .sorted(
            Comparator.comparing((Sort sort) -> sort.place().kind())
                .thenComparing(sort -> sort.place().role())
                .thenComparing(sort -> sort.place().table())
                .thenComparing(sort -> sort.place().column()))
        .toList();
  }
}
