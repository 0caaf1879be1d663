package weftex.core.decide;

import java.util.HashSet;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import weftex.core.change.RowChange;
import weftex.core.merge.ConflictKind;
import weftex.core.row.RowName;
import weftex.core.row.Value;

/**
 * Gathers the rows that standing rules call things of their own, though both copies added one of
 * that name. What is written then hangs on both copies, so the changes must be planned anew.
 */
public final class TwoThings {
  private final List<StandingRule> rules;
  private final Set<RowName> rows = new HashSet<>();

  public TwoThings(List<StandingRule> rules) {
    this.rules = rules.stream().filter(rule -> rule.column().isEmpty()).toList();
  }

  /** Whether no rule could call any row so. */
  public boolean isNothing() {
    return rules.stream().noneMatch(StandingRule::isBoth);
  }

  /**
   * Sees a change. As elsewhere the first rule that is about it counts.
   *
   * @param number the column that numbers the rows of its table; empty if none does
   */
  public void see(RowChange change, String number) {
    boolean isBothAdded =
        change.conflicts().stream()
            .anyMatch(conflict -> conflict.kind() == ConflictKind.BOTH_ADDED);
    boolean apart =
        isBothAdded
            && rules.stream()
                .filter(rule -> rule.which().chooses(change, change.values(), false))
                .findFirst()
                .filter(StandingRule::isBoth)
                .isPresent();
    if (apart) {
      row(change, number).ifPresent(rows::add);
    }
  }

  /**
   * The row of a change on the source.
   *
   * @param number the column that numbers the rows of its table; empty if none does
   */
  public static Optional<RowName> row(RowChange change, String number) {
    Value own = change.own().getOrDefault(number, change.key().get(number));
    return own instanceof Value.Whole whole
        ? Optional.of(new RowName(change.table(), whole.number()))
        : Optional.empty();
  }

  /** What was gathered. */
  public Set<RowName> rows() {
    return Set.copyOf(rows);
  }
}
