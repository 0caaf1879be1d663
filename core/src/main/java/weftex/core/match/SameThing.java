package weftex.core.match;

import java.io.IOException;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import weftex.core.reference.RowFinder;
import weftex.core.row.Row;
import weftex.core.row.Table;
import weftex.core.row.Value;
import weftex.core.site.Identity;
import weftex.core.site.SiteMap;
import weftex.core.site.TableModel;

/** Whether a row that both copies gave a number is the same thing on either: by what it holds. */
final class SameThing {

  /** How many rows with one identity are looked at singly. */
  private static final int ALIKE_LOOKED_AT = 200;

  private final Fates.Terms terms;
  private final RowFinder source;
  private final RowFinder target;
  private final Newcomers newcomers;
  private final Set<List<Object>> claimed;
  private final SiteMap site;

  SameThing(
      Fates.Terms terms,
      RowFinder source,
      RowFinder target,
      Newcomers newcomers,
      Set<List<Object>> claimed,
      SiteMap site) {
    this.terms = terms;
    this.source = source;
    this.target = target;
    this.newcomers = newcomers;
    this.claimed = claimed;
    this.site = site;
  }

  /**
   * The target's row that is the same thing by its identity. Where several rows share one, such as
   * details of one name, only equal rows are the same thing.
   */
  Optional<Row> same(Newcomer newcomer, TableModel model, List<Value> values) throws IOException {
    Table table = model.table();
    List<Value> identity =
        Table.pick(
            terms.mapped(newcomer.table, values, model.identity().columns()),
            model.identity().columns());
    if (identity.stream().anyMatch(Value::isOpen)) {
      return Optional.empty();
    }
    List<Row> found = new ArrayList<>();
    Set<List<Value>> uses = uses(source, model, Table.pick(values, table.key()));
    for (Row row : target.find(table, model.identity().columns(), identity, ALIKE_LOOKED_AT)) {
      boolean sameUse =
          model.identity().in().isEmpty()
              || uses(target, model, Table.pick(row.values(), table.key())).stream()
                  .anyMatch(uses::contains);
      if (sameUse) {
        found.add(row);
      }
    }
    boolean alone = found.size() == 1 && newcomers.isAlone(model, values);
    List<Value> mapped = alone ? values : terms.mapped(newcomer.table, values);
    for (Row row : found) {
      boolean free =
          !claimed.contains(List.of(newcomer.table, row.key()))
              && (newcomers.removedAt(newcomer.table, row.key()) >= 0
                  || newcomers.addedByTarget(newcomer.table).contains(row.key()));
      if (free && (alone || isEqual(model, mapped, row.values()))) {
        return Optional.of(row);
      }
    }
    return Optional.empty();
  }

  /** What another table says that belongs to a row's identity. */
  Set<List<Value>> uses(RowFinder copy, TableModel model, List<Value> key) throws IOException {
    Set<List<Value>> uses = new HashSet<>();
    if (model.identity().in().isPresent()) {
      Identity.In in = model.identity().in().get();
      Table other = site.table(in.table()).table();
      for (Row row : copy.find(other, List.of(in.by()), key, ALIKE_LOOKED_AT)) {
        uses.add(Table.pick(row.values(), in.columns()));
      }
    }
    return uses;
  }

  static boolean isEqual(TableModel model, List<Value> one, List<Value> other) {
    List<Value> renamed = new ArrayList<>(one);
    renamed.set(model.table().number(), other.get(model.table().number()));
    return model.meanTheSame(renamed, other);
  }
}
