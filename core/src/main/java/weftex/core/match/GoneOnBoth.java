package weftex.core.match;

import java.io.IOException;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import weftex.core.compare.Comparison;
import weftex.core.compare.Difference;
import weftex.core.reference.RowFinder;
import weftex.core.row.Row;
import weftex.core.row.Table;
import weftex.core.row.Value;
import weftex.core.site.TableModel;

/**
 * The parts of things that both copies had and removed, and that one of them has made anew under
 * another number: a detail is the same whatever its number. Where a thing has several of one name,
 * or both copies have made one anew, nobody can say that.
 */
final class GoneOnBoth {
  private final Comparison comparison;
  private final RowFinder target;
  private final Newcomers newcomers;
  private final Fates.Merging merging;
  private final Map<Integer, Map<List<Value>, Gone>> gone = new HashMap<>();
  private final Map<Integer, Set<List<Value>>> added = new HashMap<>();

  /** A row as both copies had it, in the target's terms, and where the log tells of it. */
  private record Gone(long at, List<Value> before) {}

  GoneOnBoth(Comparison comparison, RowFinder target, Newcomers newcomers, Fates.Merging merging) {
    this.comparison = comparison;
    this.target = target;
    this.newcomers = newcomers;
    this.merging = merging;
  }

  /** As both copies had it, in the target's terms, what the source alone has made anew. */
  Optional<List<Value>> before(Newcomer newcomer, TableModel model, List<Value> values)
      throws IOException {
    if (model.parts().of().isEmpty() || !newcomers.isAlone(model, values)) {
      return Optional.empty();
    }
    Map<List<Value>, Gone> ofTable = gone(newcomer.table, model);
    if (ofTable.isEmpty()) {
      return Optional.empty();
    }
    List<Value> identity = identity(newcomer.table, model, values);
    return identity.stream().noneMatch(Value::isOpen)
            && target.count(model.table(), model.identity().columns(), identity) == 0
        ? Optional.ofNullable(ofTable.get(identity)).map(Gone::before)
        : Optional.empty();
  }

  /**
   * What the target alone has made anew of a row that both copies removed.
   *
   * @param at where the log tells of the removal
   */
  Optional<Row> onTarget(long at, Difference row) throws IOException {
    TableModel model = comparison.tables().get(row.table());
    if (model.parts().of().isEmpty() || !model.identity().isOf(row.base().values())) {
      return Optional.empty();
    }
    List<Value> identity = Table.pick(before(row.table(), row.base()), model.identity().columns());
    Gone known = gone(row.table(), model).get(identity);
    boolean alone =
        known != null && known.at() == at && !added(row.table(), model).contains(identity);
    if (!alone) {
      return Optional.empty();
    }
    List<Row> found = target.find(model.table(), model.identity().columns(), identity, 2);
    return found.size() == 1
            && newcomers.addedByTarget(row.table()).contains(found.get(0).key())
            && newcomers.removedAt(row.table(), found.get(0).key()) < 0
            && !merging
                .left()
                .wasLeft(row.table(), Table.pick(found.get(0).values(), model.table().key()))
        ? Optional.of(found.get(0))
        : Optional.empty();
  }

  private List<Value> identity(int table, TableModel model, List<Value> ofSource)
      throws IOException {
    return Table.pick(
        merging.terms().mapped(table, ofSource, model.identity().columns()),
        model.identity().columns());
  }

  private List<Value> before(int table, Row base) throws IOException {
    return merging.left().base(table, base, List.of(), base.values()).values();
  }

  /** The identities of the rows of a table that the source has added, in the target's terms. */
  private Set<List<Value>> added(int table, TableModel model) throws IOException {
    Set<List<Value>> identities = added.get(table);
    if (identities == null) {
      identities = new HashSet<>();
      for (Newcomer newcomer : newcomers.all()) {
        if (newcomer.table == table) {
          List<Value> values = comparison.log().read(newcomer.at).source().values();
          identities.add(identity(table, model, values));
        }
      }
      added.put(table, identities);
    }
    return identities;
  }

  /** The rows of a table by their identity, as far as it is theirs alone. */
  private Map<List<Value>, Gone> gone(int table, TableModel model) throws IOException {
    Map<List<Value>, Gone> ofTable = gone.get(table);
    if (ofTable == null) {
      ofTable = new HashMap<>();
      List<List<Value>> several = new ArrayList<>();
      for (long at : comparison.bySource(table).toArray()) {
        Difference row = comparison.log().read(at);
        if (!row.source().isPresent() && !row.target().isPresent()) {
          List<Value> before = before(table, row.base());
          List<Value> identity = Table.pick(before, model.identity().columns());
          if (ofTable.put(identity, new Gone(at, before)) != null) {
            several.add(identity);
          }
        }
      }
      ofTable.keySet().removeAll(several);
      gone.put(table, ofTable);
    }
    return ofTable;
  }
}
