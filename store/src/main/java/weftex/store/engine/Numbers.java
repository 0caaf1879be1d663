package weftex.store.engine;

import java.math.BigInteger;
import java.nio.charset.StandardCharsets;
import java.sql.SQLException;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import weftex.core.row.Column;
import weftex.core.row.RowName;
import weftex.core.row.Table;
import weftex.core.row.Value;
import weftex.core.row.ValueKind;
import weftex.store.Refusal;
import weftex.store.database.WriteTable;
import weftex.store.rows.WriteTransaction;

/** The numbers that added rows get on the target: their own where it is free, else the next. */
public final class Numbers {
  private static final int ASKED_AT_ONCE = 500;

  private final Map<RowName, BigInteger> numbers = new LinkedHashMap<>();
  private final Set<RowName> reserved;
  private final long spare;

  private Numbers(Set<RowName> reserved, long spare) {
    this.reserved = reserved;
    this.spare = spare;
  }

  /**
   * Settles the numbers inside the transaction.
   *
   * @param fresh the added rows, in the order of applying
   * @param reserved numbers of the target that none of them gets: of rows that come back, or that
   *     another row had
   * @param spare how many numbers are left free for others, since time passes before the rows are
   *     there; 0 if it does not
   */
  public static Numbers settle(
      WriteTransaction transaction,
      TargetTables tables,
      List<RowName> fresh,
      Set<RowName> reserved,
      long spare)
      throws SQLException, Refusal {
    Numbers settled = new Numbers(reserved, spare);
    Map<String, List<RowName>> byTable = new LinkedHashMap<>();
    fresh.forEach(row -> byTable.computeIfAbsent(row.table(), name -> new ArrayList<>()).add(row));
    for (Map.Entry<String, List<RowName>> entry : byTable.entrySet()) {
      settled.settle(transaction, tables.table(entry.getKey()), entry.getValue());
    }
    return settled;
  }

  private void settle(WriteTransaction transaction, WriteTable table, List<RowName> rows)
      throws SQLException {
    Set<BigInteger> taken = new LinkedHashSet<>();
    for (int i = 0; i < rows.size(); i += ASKED_AT_ONCE) {
      List<RowName> some = rows.subList(i, Math.min(rows.size(), i + ASKED_AT_ONCE));
      taken.addAll(transaction.taken(table, some.stream().map(RowName::number).toList()));
    }
    for (RowName row : rows) {
      if (spare > 0 || reserved.contains(row)) {
        taken.add(row.number());
      }
    }
    BigInteger next = BigInteger.ZERO;
    if (!taken.isEmpty()) {
      next = transaction.nextNumber(table).add(BigInteger.valueOf(spare));
      for (RowName row : rows) {
        next = next.max(row.number().add(BigInteger.ONE));
      }
      for (RowName row : reserved) {
        next =
            row.table().equals(rows.get(0).table())
                ? next.max(row.number().add(BigInteger.ONE))
                : next;
      }
    }
    for (RowName row : rows) {
      boolean own = !taken.contains(row.number());
      numbers.put(row, own ? row.number() : next);
      next = own ? next : next.add(BigInteger.ONE);
    }
  }

  BigInteger of(RowName row) {
    BigInteger number = numbers.get(row);
    if (number == null) {
      throw new IllegalStateException("no number was settled for " + row);
    }
    return number;
  }

  /** The rows that did not get their own number, with the one they got. */
  public Map<RowName, BigInteger> renumbered() {
    Map<RowName, BigInteger> renumbered = new LinkedHashMap<>();
    numbers.forEach(
        (row, number) -> {
          if (!row.number().equals(number)) {
            renumbered.put(row, number);
          }
        });
    return renumbered;
  }

  /** The values with numbers in place of symbolic references. */
  public Map<String, Value> resolve(Table table, Map<String, Value> values) {
    Map<String, Value> resolved = new LinkedHashMap<>();
    values.forEach((name, value) -> resolved.put(name, resolve(table, name, value)));
    return resolved;
  }

  /** The same without what refers to rows that are not added. */
  public Map<String, Value> resolveKnown(Table table, Map<String, Value> values) {
    Map<String, Value> known = new LinkedHashMap<>(values);
    known
        .values()
        .removeIf(
            value ->
                value instanceof Value.Fresh fresh && !numbers.containsKey(fresh.row())
                    || value instanceof Value.Pending pending && !isKnown(pending));
    return resolve(table, known);
  }

  private boolean isKnown(Value.Pending pending) {
    boolean[] known = {true};
    pending.settled(
        row -> {
          known[0] &= numbers.containsKey(row);
          return numbers.getOrDefault(row, BigInteger.ZERO);
        });
    return known[0];
  }

  /** A value with the number that an added row gets in place of its name. */
  public Value resolve(Table table, String name, Value value) {
    if (value instanceof Value.Pending pending) {
      return pending.settled(this::of);
    }
    if (!(value instanceof Value.Fresh fresh)) {
      return value;
    }
    BigInteger number = of(fresh.row());
    Column column = table.columns().get(table.position(name).orElseThrow());
    return column.kind() == ValueKind.TEXT
        ? new Value.Text(number.toString().getBytes(StandardCharsets.US_ASCII))
        : new Value.Whole(number);
  }
}
