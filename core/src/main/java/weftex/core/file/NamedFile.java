package weftex.core.file;

import java.util.ArrayList;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import weftex.core.change.Action;
import weftex.core.change.Item;
import weftex.core.change.RowChange;
import weftex.core.merge.ConflictKind;

/** A file that rows name. */
final class NamedFile {
  final Set<Integer> changes = new LinkedHashSet<>();
  final List<Sight.Namer> rows = new ArrayList<>();
  Optional<Item> item = Optional.empty();

  /** Whether the row is the file's own, and no text that links to it. */
  private boolean own;

  /** Whether the file belongs to rows, all of which are new. */
  private boolean allNew = true;

  boolean isNew() {
    return own && allNew;
  }

  private static boolean isNew(RowChange change) {
    return change.action() == Action.ADD
        || change.conflicts().stream().anyMatch(c -> c.kind() == ConflictKind.BOTH_ADDED);
  }

  void add(RowChange change, Sight.Namer row, boolean isOwn) {
    changes.add(change.id());
    rows.add(row);
    allNew &= !isOwn || isNew(change);
    if (item.isEmpty() || isOwn && !own) {
      item = change.item();
    }
    own |= isOwn;
  }
}
