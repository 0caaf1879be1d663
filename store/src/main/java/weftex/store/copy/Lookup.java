package weftex.store.copy;

import java.math.BigInteger;
import java.sql.PreparedStatement;
import java.sql.ResultSet;
import java.sql.Statement;
import java.util.ArrayList;
import java.util.Collection;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeMap;
import weftex.core.row.Table;
import weftex.store.Refusal;
import weftex.store.database.CatalogTable;
import weftex.store.database.Dialect;

/** Single values of a copy, outside of any snapshot. */
public final class Lookup {
  private static final int KEYS_AT_ONCE = 500;

  private final Copy copy;
  private final Dialect dialect;

  Lookup(Copy copy) {
    this.copy = copy;
    this.dialect = copy.dialect();
  }

  /**
   * Reads one cell as text.
   *
   * @param where values of other columns that tell its row
   * @return empty if there is no such table, column or row, or if it is NULL
   */
  public Optional<String> cell(String table, Map<String, String> where, String column)
      throws Refusal {
    Optional<CatalogTable> found = copy.catalog().find(table);
    List<String> columns = new ArrayList<>(where.keySet());
    if (found.isEmpty()
        || found.get().table().position(column).isEmpty()
        || !columns.stream().allMatch(c -> found.get().table().position(c).isPresent())) {
      return Optional.empty();
    }
    String sql =
        "SELECT "
            + dialect.quote(column)
            + " FROM "
            + dialect.quote(found.get().realName())
            + " WHERE "
            + String.join(" AND ", columns.stream().map(c -> dialect.quote(c) + " = ?").toList());
    return copy.ask(
        connection -> {
          try (PreparedStatement statement = connection.prepareStatement(sql)) {
            for (int i = 0; i < columns.size(); i++) {
              statement.setString(i + 1, where.get(columns.get(i)));
            }
            try (ResultSet rows = statement.executeQuery()) {
              return rows.next() ? Optional.ofNullable(rows.getString(1)) : Optional.empty();
            }
          }
        });
  }

  /**
   * Reads one column of the rows that have one of some values in another.
   *
   * @return by that value; none if there is no such table or column
   */
  public Map<String, String> cells(String table, String by, List<String> values, String column)
      throws Refusal {
    Optional<CatalogTable> found = copy.catalog().find(table);
    if (values.isEmpty()
        || found.isEmpty()
        || found.get().table().positionsOrNone(List.of(by, column)).isEmpty()) {
      return Map.of();
    }
    String sql =
        "SELECT "
            + dialect.quote(by)
            + ", "
            + dialect.quote(column)
            + " FROM "
            + dialect.quote(found.get().realName())
            + " WHERE "
            + dialect.quote(by)
            + " IN (?"
            + ", ?".repeat(values.size() - 1)
            + ")";
    return copy.ask(
        connection -> {
          try (PreparedStatement statement = connection.prepareStatement(sql)) {
            for (int i = 0; i < values.size(); i++) {
              statement.setString(i + 1, values.get(i));
            }
            Map<String, String> cells = new TreeMap<>();
            try (ResultSet rows = statement.executeQuery()) {
              while (rows.next()) {
                cells.put(rows.getString(1), String.valueOf(rows.getString(2)));
              }
            }
            return cells;
          }
        });
  }

  /** Which of some whole-number keys of a table are there; none if there is no such table. */
  public Set<BigInteger> present(String table, Collection<BigInteger> keys) throws Refusal {
    Optional<CatalogTable> found =
        copy.catalog().find(table).filter(t -> t.table().key().size() == 1);
    Set<BigInteger> present = new HashSet<>();
    if (found.isEmpty()) {
      return present;
    }
    Table shape = found.get().table();
    String key = dialect.quote(shape.columns().get(shape.key().get(0)).name());
    List<BigInteger> all = List.copyOf(keys);
    return copy.ask(
        connection -> {
          for (int i = 0; i < all.size(); i += KEYS_AT_ONCE) {
            List<BigInteger> some = all.subList(i, Math.min(all.size(), i + KEYS_AT_ONCE));
            String sql =
                "SELECT "
                    + key
                    + " FROM "
                    + dialect.quote(found.get().realName())
                    + " WHERE "
                    + key
                    + " IN ("
                    + String.join(", ", some.stream().map(BigInteger::toString).toList())
                    + ")";
            try (Statement statement = connection.createStatement();
                ResultSet rows = statement.executeQuery(sql)) {
              while (rows.next()) {
                present.add(new BigInteger(rows.getString(1)));
              }
            }
          }
          return present;
        });
  }

  /** Counts the rows of a table. */
  public long count(CatalogTable table) throws Refusal {
    return copy.ask(
        connection -> {
          try (Statement statement = connection.createStatement();
              ResultSet rows =
                  statement.executeQuery(
                      "SELECT COUNT(*) FROM " + dialect.quote(table.realName()))) {
            rows.next();
            return rows.getLong(1);
          }
        });
  }
}
