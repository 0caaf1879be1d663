package weftex.core.plan;

import java.io.IOException;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import weftex.core.changeset.Item;
import weftex.core.row.Row;
import weftex.core.row.Table;
import weftex.core.row.Value;
import weftex.core.site.Reference;
import weftex.core.site.SiteMap;
import weftex.core.site.TableModel;

/** Names the things that rows are or belong to. */
final class Items {
  /** Details of one page come together, so few names need be kept. */
  private static final int KEPT = 500;

  /** A part of a part of a thing, and no further: references may run in a circle. */
  private static final int STEPS = 3;

  private final SiteMap site;
  private final RowFinder source;
  private final RowFinder target;
  private final Map<List<Object>, Optional<Row>> found =
      new LinkedHashMap<>() {
        private static final long serialVersionUID = 1;

        @Override
        protected boolean removeEldestEntry(Map.Entry<List<Object>, Optional<Row>> eldest) {
          return size() > KEPT;
        }
      };

  Items(SiteMap site, RowFinder source, RowFinder target) {
    this.site = site;
    this.source = source;
    this.target = target;
  }

  /**
   * The thing that a row is or belongs to; empty if the model names none.
   *
   * @param onSource whether the values are the source's, in whose terms its references are
   */
  Optional<Item> of(TableModel model, List<Value> values, boolean onSource) throws IOException {
    String part = "";
    TableModel at = model;
    List<Value> row = values;
    for (int step = 0; step < STEPS; step++) {
      if (at.item().isPresent()) {
        return Optional.of(
            new Item(at.item().get().kindOf(row), at.item().get().nameOf(row), part));
      }
      Optional<Reference> up = at.partOf();
      if (up.isEmpty()) {
        return Optional.empty();
      }
      part = part.isEmpty() ? at.word() : part;
      Optional<Row> owner = owner(up.get(), Table.pick(row, up.get().columns()), onSource);
      if (owner.isEmpty()) {
        return Optional.empty();
      }
      at = site.table(up.get().target());
      row = owner.get().values();
    }
    return Optional.empty();
  }

  private Optional<Row> owner(Reference up, List<Value> key, boolean onSource) throws IOException {
    if (up.isUnset(key)) {
      return Optional.empty();
    }
    List<Object> place = List.of(up.target(), key, onSource);
    Optional<Row> known = found.get(place);
    if (known == null) {
      Table table = site.table(up.target()).table();
      known =
          (onSource ? source : target).find(table, up.targetColumns(), key, 1).stream().findFirst();
      found.put(place, known);
    }
    return known;
  }
}
