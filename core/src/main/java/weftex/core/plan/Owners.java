package weftex.core.plan;

import java.io.IOException;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import weftex.core.changeset.Item;
import weftex.core.reference.RowFinder;
import weftex.core.row.Row;
import weftex.core.row.Table;
import weftex.core.row.Value;
import weftex.core.site.ItemNaming;
import weftex.core.site.PartThrough;
import weftex.core.site.Reference;
import weftex.core.site.SiteMap;
import weftex.core.site.TableModel;

/** Goes from a row to the thing that it is a part of, and says what that is called. */
final class Owners {
  /** Details of one page come together, so few rows need be kept. */
  private static final int KEPT = 500;

  /** A part of a part of a thing, and not much further: references may run in a circle. */
  static final int STEPS = 4;

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

  /** The row that another is a part of. */
  record Owner(TableModel model, Row row) {}

  /**
   * The thing that a row is or belongs to; empty if the model names none.
   *
   * @param onSource whether the values are the source's, in whose terms its references are
   */
  Optional<Item> item(TableModel model, List<Value> values, boolean onSource) throws IOException {
    String part = "";
    TableModel at = model;
    List<Value> row = values;
    for (int step = 0; step <= STEPS; step++) {
      Optional<Owner> up = owner(at, row, onSource);
      if (at.item().isPresent() && !(isThrough(at, row) && up.isPresent())) {
        return Optional.of(new Item(kind(at, row, onSource), name(at, row), part));
      }
      if (up.isEmpty()) {
        return Optional.empty();
      }
      part = part(at, row, part);
      at = up.get().model();
      row = up.get().row().values();
    }
    return Optional.empty();
  }

  /** A link between a thing and its part, and what the part is of, need no words of their own. */
  private static String part(TableModel model, List<Value> row, String inner) {
    Optional<PartThrough> through = model.through().filter(t -> t.when().holdsFor(row));
    if (through.isEmpty()) {
      return inner.isEmpty() ? model.word() : inner;
    }
    String word = through.get().word();
    String name = model.item().map(item -> item.nameOf(row)).orElse("");
    return inner.isEmpty() ? word + (name.isEmpty() ? "" : " '" + name + "'") : word + " " + inner;
  }

  private static boolean isThrough(TableModel model, List<Value> row) {
    return model.through().map(through -> through.when().holdsFor(row)).orElse(false);
  }

  private String kind(TableModel model, List<Value> row, boolean onSource) throws IOException {
    ItemNaming naming = model.item().orElseThrow();
    if (naming.kindIn().isEmpty()) {
      return naming.kindOf(row);
    }
    ItemNaming.KindIn in = naming.kindIn().get();
    Optional<TableModel> there = site.find(in.table());
    Optional<Row> user =
        there.isEmpty()
            ? Optional.empty()
            : find(there.get(), List.of(in.by()), Table.pick(row, model.table().key()), onSource);
    return user.map(other -> naming.word(other.values().get(in.column()).display()))
        .orElse(model.table().name());
  }

  /** What a row is called; its key if nothing else names it. */
  private static String name(TableModel model, List<Value> row) {
    String name = model.item().orElseThrow().nameOf(row);
    return name.isEmpty()
        ? String.join(
            ", ", Table.pick(row, model.table().key()).stream().map(Value::display).toList())
        : name;
  }

  /** The row that a row is a part of; empty if it is none, or if that is not there. */
  Optional<Owner> owner(TableModel model, List<Value> row, boolean onSource) throws IOException {
    if (isThrough(model, row)) {
      Optional<Owner> far = through(model, row, onSource);
      if (far.isPresent()) {
        return far;
      }
    }
    Optional<Reference> up = model.partOf();
    return up.isEmpty() ? Optional.empty() : follow(up.get(), row, onSource);
  }

  private Optional<Owner> through(TableModel model, List<Value> row, boolean onSource)
      throws IOException {
    PartThrough through = model.through().orElseThrow();
    TableModel links = site.table(through.table());
    Optional<Row> link =
        find(links, List.of(through.from()), Table.pick(row, model.table().key()), onSource);
    return link.isEmpty() ? Optional.empty() : follow(through.to(), link.get().values(), onSource);
  }

  private Optional<Owner> follow(Reference up, List<Value> row, boolean onSource)
      throws IOException {
    List<Value> key = Table.pick(row, up.columns());
    if (up.isUnset(key)) {
      return Optional.empty();
    }
    TableModel model = site.table(up.target());
    return find(model, up.targetColumns(), key, onSource).map(owner -> new Owner(model, owner));
  }

  private Optional<Row> find(
      TableModel model, List<Integer> columns, List<Value> values, boolean onSource)
      throws IOException {
    List<Object> place = List.of(model.table().name(), columns, values, onSource);
    Optional<Row> known = found.get(place);
    if (known == null) {
      known =
          (onSource ? source : target).find(model.table(), columns, values, 1).stream().findFirst();
      found.put(place, known);
    }
    return known;
  }
}
