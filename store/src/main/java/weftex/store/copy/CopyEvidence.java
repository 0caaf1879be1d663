package weftex.store.copy;

import java.io.IOException;
import java.math.BigInteger;
import java.sql.Connection;
import java.sql.PreparedStatement;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.ArrayList;
import java.util.Collection;
import java.util.List;
import java.util.Objects;
import java.util.Optional;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import weftex.core.derive.Evidence;
import weftex.core.row.Table;
import weftex.store.FailureWords;
import weftex.store.database.Catalog;
import weftex.store.database.Connecting;
import weftex.store.database.Dialect;

/** Asks a copy's data, in one consistent state of it. */
public final class CopyEvidence implements Evidence, AutoCloseable {
  private static final int VALUES_LOOKED_UP = 20_000;
  private static final int SAMPLE = 200;
  private static final int STRUCTURED = 2_000;
  private static final int MEMBERS_LOOKED_UP = 500;
  private static final int LONGEST = 1 << 16;

  private final Connection connection;
  private final Dialect dialect;
  private final Catalog catalog;

  CopyEvidence(Connection connection, Dialect dialect, Catalog catalog) throws SQLException {
    this.connection = connection;
    this.dialect = dialect;
    this.catalog = catalog;
    dialect.beginSnapshot(connection);
  }

  @Override
  public Share keysOf(Table table, int column, Table target) throws IOException {
    String own = name(table, column);
    return share(
        "SELECT COUNT(*), COALESCE(SUM(v.c IN (SELECT "
            + name(target, target.key().get(0))
            + " FROM "
            + real(target)
            + ")), 0), (SELECT COUNT(*) FROM "
            + real(table)
            + " WHERE "
            + own
            + " = 0) FROM (SELECT DISTINCT "
            + own
            + " AS c FROM "
            + real(table)
            + " WHERE "
            + own
            + " <> 0 LIMIT "
            + VALUES_LOOKED_UP
            + ") v");
  }

  @Override
  public Kinds kindsOf(Table table, int column, Table target, int kind) throws IOException {
    String kinds = name(target, kind);
    String sql =
        "SELECT k, n, (SELECT COUNT(*) FROM "
            + real(target)
            + " WHERE "
            + kinds
            + " = k), (SELECT COUNT(*) FROM "
            + real(target)
            + ") FROM (SELECT "
            + kinds
            + " AS k, COUNT(*) AS n FROM "
            + real(target)
            + " WHERE "
            + name(target, target.key().get(0))
            + " IN (SELECT "
            + name(table, column)
            + " FROM "
            + real(table)
            + ") GROUP BY 1 LIMIT 2) weftex_kinds";
    try (Statement statement = connection.createStatement();
        ResultSet rows = statement.executeQuery(sql)) {
      Kinds found = new Kinds("", 0, 0, 0);
      if (rows.next() && rows.getString(1) != null) {
        found = new Kinds(rows.getString(1), rows.getLong(2), rows.getLong(3), rows.getLong(4));
      }
      return rows.next() ? new Kinds("", 0, 0, 0) : found;
    } catch (SQLException e) {
      throw failed(e);
    }
  }

  @Override
  public Share distinct(Table table, int column) throws IOException {
    String own = name(table, column);
    return share(
        "SELECT COUNT(*), COUNT(DISTINCT "
            + own
            + "), 0 FROM "
            + real(table)
            + " WHERE "
            + own
            + " <> ''");
  }

  @Override
  public Share counts(Table table, int column, Table of, int by) throws IOException {
    String own = name(table, column);
    return share(
        "SELECT COUNT(*), COALESCE(SUM("
            + own
            + " = COALESCE(weftex_n, 0)), 0), 0 FROM "
            + real(table)
            + " LEFT JOIN (SELECT "
            + name(of, by)
            + " AS weftex_k, COUNT(*) AS weftex_n FROM "
            + real(of)
            + " GROUP BY 1) weftex_counts ON weftex_k = "
            + name(table, table.key().get(0))
            + " WHERE "
            + own
            + " <> 0");
  }

  private Share share(String sql) throws IOException {
    try (Statement statement = connection.createStatement();
        ResultSet rows = statement.executeQuery(sql)) {
      rows.next();
      return new Share(rows.getLong(1), rows.getLong(2), rows.getLong(3));
    } catch (SQLException e) {
      throw failed(e);
    }
  }

  @Override
  public boolean has(Table table, int column, String value) throws IOException {
    String sql = "SELECT 1 FROM " + real(table) + " WHERE " + name(table, column) + " = ? LIMIT 1";
    try (PreparedStatement statement = connection.prepareStatement(sql)) {
      statement.setString(1, value);
      try (ResultSet rows = statement.executeQuery()) {
        return rows.next();
      }
    } catch (SQLException e) {
      throw failed(e);
    }
  }

  @Override
  public List<String> values(Table table, int column) throws IOException {
    return texts(
        "SELECT DISTINCT " + name(table, column) + " FROM " + real(table) + " LIMIT " + SAMPLE);
  }

  @Override
  public List<String> sample(Table table, int column) throws IOException {
    String own = name(table, column);
    return texts(
        "SELECT " + own + " FROM " + real(table) + " WHERE " + own + " <> '' LIMIT " + SAMPLE);
  }

  @Override
  public Share keysAmong(Collection<BigInteger> numbers, Table target) throws IOException {
    List<String> looked =
        numbers.stream().limit(MEMBERS_LOOKED_UP).map(BigInteger::toString).toList();
    if (looked.isEmpty()) {
      return new Share(0, 0, 0);
    }
    return share(
        "SELECT "
            + looked.size()
            + ", COUNT(*), 0 FROM "
            + real(target)
            + " WHERE "
            + name(target, target.key().get(0))
            + " IN ("
            + String.join(", ", looked)
            + ")");
  }

  @Override
  public double density(Table table) throws IOException {
    Share share =
        share(
            "SELECT COALESCE(MAX("
                + name(table, table.key().get(0))
                + "), 0), COUNT(*), 0 FROM "
                + real(table));
    return share.of() == 0 ? 1 : (double) share.found() / share.of();
  }

  @Override
  public List<Structured> structured(Table table, int column, Optional<Integer> naming)
      throws IOException {
    String own = name(table, column);
    String sql =
        "SELECT "
            + own
            + ", "
            + naming.map(i -> name(table, i)).orElse("''")
            + " FROM "
            + real(table)
            + " WHERE "
            + Stream.of("a:%", "O:%", "{%", "[%")
                .map(sign -> own + " LIKE '" + sign + "'")
                .collect(Collectors.joining(" OR "))
            + " LIMIT "
            + STRUCTURED;
    try (Statement statement = connection.createStatement();
        ResultSet rows = statement.executeQuery(sql)) {
      List<Structured> values = new ArrayList<>();
      while (rows.next()) {
        String value = rows.getString(1);
        if (value.length() <= LONGEST) {
          values.add(new Structured(Objects.requireNonNullElse(rows.getString(2), ""), value));
        }
      }
      return values;
    } catch (SQLException e) {
      throw failed(e);
    }
  }

  private List<String> texts(String sql) throws IOException {
    try (Statement statement = connection.createStatement();
        ResultSet rows = statement.executeQuery(sql)) {
      List<String> values = new ArrayList<>();
      while (rows.next()) {
        String value = Objects.requireNonNullElse(rows.getString(1), "");
        values.add(value.length() > LONGEST ? value.substring(0, LONGEST) : value);
      }
      return values;
    } catch (SQLException e) {
      throw failed(e);
    }
  }

  private static IOException failed(SQLException e) {
    return new IOException("looking for evidence failed: " + FailureWords.of(e), e);
  }

  private String real(Table table) {
    return dialect.quote(catalog.find(table.name()).orElseThrow().realName());
  }

  private String name(Table table, int column) {
    return dialect.quote(table.columns().get(column).name());
  }

  @Override
  public void close() {
    Connecting.close(connection);
  }
}
