package weftex.store.schema;

import java.util.Optional;
import weftex.core.row.Column;
import weftex.store.copy.Copy;
import weftex.store.database.CatalogTable;

/** Why a column that only the source has is not added to a table of the target. */
final class NotAdded {

  private final Copy source;
  private final Copy target;

  NotAdded(Copy source, Copy target) {
    this.source = source;
    this.target = target;
  }

  /**
   * Why not; empty where it can be.
   *
   * @param filled whether it is known what older rows hold in it
   */
  Optional<String> why(CatalogTable from, CatalogTable into, Column column, boolean filled) {
    boolean onTarget = into.table().position(column.name()).isPresent();
    return whyNot(from, column, filled, onTarget)
        .or(() -> onTarget ? Optional.empty() : versioned(into));
  }

  /** Why no column is added to a table that keeps its history; empty if it does not. */
  private Optional<String> versioned(CatalogTable into) {
    return into.versioned()
        ? Optional.of(
            "only on "
                + source.name()
                + "; the table is system-versioned on "
                + target.name()
                + ", where a new column would alter its history")
        : Optional.empty();
  }

  private Optional<String> whyNot(
      CatalogTable from, Column column, boolean filled, boolean onTarget) {
    if (!filled) {
      return Optional.of(
          (onTarget ? "on both copies, not in the base" : "only on " + source.name())
              + ", and what it holds in older rows is worked out by the server");
    }
    boolean key =
        from.table().key().stream()
            .anyMatch(i -> from.table().columns().get(i).name().equals(column.name()));
    if (!from.table().hasKey()) {
      return Optional.of("only on " + source.name() + ", in a table without a key");
    }
    if (key) {
      return Optional.of("only on " + source.name() + ", and part of the key");
    }
    return !onTarget && source.isStrict() != target.isStrict()
        ? Optional.of("only on " + source.name() + ", whose database is of another kind")
        : Optional.empty();
  }
}
