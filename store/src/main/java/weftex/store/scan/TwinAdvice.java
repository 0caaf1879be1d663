package weftex.store.scan;

import java.io.IOException;
import java.math.BigInteger;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import weftex.core.row.Row;
import weftex.core.row.RowName;
import weftex.core.row.Table;
import weftex.core.row.Value;
import weftex.core.scan.OtherCopy;
import weftex.core.site.TableModel;
import weftex.store.Refusal;
import weftex.store.copy.Copy;
import weftex.store.copy.Pairing;
import weftex.store.database.CopySpec;
import weftex.store.rows.Snapshot;

/**
 * Looks on the other copy for what is twice on this one. It is asked only then, and where it can't
 * be reached nothing is advised.
 */
final class TwinAdvice implements OtherCopy.Counterpart, AutoCloseable {
  private static final int LOOKED_AT = 3;

  private final CopySpec other;
  private final Map<RowName, BigInteger> known;
  private Optional<Snapshot> rows;

  /**
   * @param known the other copy's IDs of rows of this one, as merges know them
   */
  TwinAdvice(CopySpec other, Map<RowName, BigInteger> known) {
    this.other = other;
    this.known = known;
  }

  @Override
  public String advice(TableModel model, List<Integer> columns, List<Value> one, List<Value> two)
      throws IOException {
    Table table = model.table();
    RowName first = name(table, one);
    RowName second = name(table, two);
    if (known.containsKey(first) || known.containsKey(second)) {
      boolean isFirst = known.containsKey(first);
      return paired(
          known.get(isFirst ? first : second), isFirst ? first : second, isFirst ? second : first);
    }
    Optional<BigInteger> there = onOther(table, columns, two);
    if (there.isEmpty()) {
      return "";
    }
    if (there.get().equals(first.number()) || there.get().equals(second.number())) {
      boolean isFirst = there.get().equals(first.number());
      return paired(there.get(), isFirst ? first : second, isFirst ? second : first);
    }
    return "'weftex draft"
        + (other.name().equals("live") ? " --into staging" : "")
        + " --same "
        + new RowName(table.name(), there.get()).words()
        + "="
        + first.number()
        + "' makes "
        + other.name()
        + "'s one with the first, and the second can go";
  }

  private String paired(BigInteger there, RowName stays, RowName goes) {
    return other.name()
        + "'s "
        + there
        + " is "
        + stays.words()
        + ", so "
        + goes.words()
        + " can go";
  }

  private static RowName name(Table table, List<Value> row) {
    return new RowName(table.name(), ((Value.Whole) row.get(table.number())).number());
  }

  private Optional<BigInteger> onOther(Table table, List<Integer> columns, List<Value> row)
      throws IOException {
    if (reached().isEmpty()) {
      return Optional.empty();
    }
    List<Row> found = reached().get().find(table, columns, Table.pick(row, columns), LOOKED_AT);
    return found.size() == 1
        ? Optional.of(name(table, found.get(0).values()).number())
        : Optional.empty();
  }

  private Optional<Snapshot> reached() throws IOException {
    if (rows == null) {
      try {
        Copy copy = Copy.reach(other);
        rows = Optional.of(copy.snapshot(Pairing.of(copy, copy).targetLayouts()));
      } catch (Refusal e) {
        rows = Optional.empty();
      }
    }
    return rows;
  }

  @Override
  public void close() throws IOException {
    if (rows != null && rows.isPresent()) {
      rows.get().close();
    }
  }
}
