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
import weftex.core.site.Role;
import weftex.core.site.SiteMap;
import weftex.core.site.TableModel;

/** Goes from a row to the thing that it is a part of: what that is called, and whose it is. */
final class Owners {
  /** Details of one page come together, so few rows need be kept. */
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

  Owners(SiteMap site, RowFinder source, RowFinder target) {
    this.site = site;
    this.source = source;
    this.target = target;
  }

  /** A row of some table. */
  private record Step(TableModel model, List<Value> row) {}

  /**
   * The thing that a row is or belongs to; empty if the model names none.
   *
   * @param onSource whether the values are the source's, in whose terms its references are
   */
  Optional<Item> item(TableModel model, List<Value> values, boolean onSource) throws IOException {
    String part = "";
    Optional<Step> at = Optional.of(new Step(model, values));
    for (int step = 0; at.isPresent() && step < STEPS; step++) {
      TableModel own = at.get().model();
      List<Value> row = at.get().row();
      if (own.item().isPresent()) {
        return Optional.of(
            new Item(own.item().get().kindOf(row), own.item().get().nameOf(row), part));
      }
      part = part.isEmpty() ? own.word() : part;
      at = owner(at.get(), onSource);
    }
    return Optional.empty();
  }

  /**
   * Whose a row is: what it says itself, or else what the thing says that it is a part of.
   *
   * @param onSource whether the values are the source's
   */
  Role role(TableModel model, List<Value> values, boolean onSource) throws IOException {
    Optional<Step> at = Optional.of(new Step(model, values));
    for (int step = 0; at.isPresent() && step < STEPS; step++) {
      Role role = at.get().model().role(at.get().row());
      if (role != Role.CONTENT) {
        return role;
      }
      at = owner(at.get(), onSource);
    }
    return Role.CONTENT;
  }

  private Optional<Step> owner(Step at, boolean onSource) throws IOException {
    Optional<Reference> up = at.model().partOf();
    if (up.isEmpty()) {
      return Optional.empty();
    }
    List<Value> key = Table.pick(at.row(), up.get().columns());
    if (up.get().isUnset(key)) {
      return Optional.empty();
    }
    List<Object> place = List.of(up.get().target(), key, onSource);
    TableModel model = site.table(up.get().target());
    Optional<Row> known = found.get(place);
    if (known == null) {
      known =
          (onSource ? source : target)
              .find(model.table(), up.get().targetColumns(), key, 1).stream().findFirst();
      found.put(place, known);
    }
    return known.map(row -> new Step(model, row.values()));
  }
}
