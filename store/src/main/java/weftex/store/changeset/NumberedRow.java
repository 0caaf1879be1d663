package weftex.store.changeset;

import java.util.Optional;
import weftex.core.change.Action;
import weftex.core.change.Change;
import weftex.core.row.RowName;
import weftex.core.row.Value;

/**
 * A numbered row that a change adds.
 *
 * @param renumbered whether another row has or had its number on the target
 * @param comesBack whether it is to have the number that it had on the target before
 */
public record NumberedRow(RowName row, boolean renumbered, boolean comesBack) {

  /** The row that a change adds; empty if it adds none, or one without a number. */
  static Optional<NumberedRow> of(Change change) {
    if (change.fresh().isPresent()) {
      return Optional.of(new NumberedRow(change.fresh().get(), change.renumbered(), false));
    }
    if (change.action() != Action.ADD || change.key().size() != 1) {
      return Optional.empty();
    }
    Value key = change.key().values().iterator().next();
    return key instanceof Value.Whole number
        ? Optional.of(new NumberedRow(new RowName(change.table(), number.number()), false, true))
        : Optional.empty();
  }
}
