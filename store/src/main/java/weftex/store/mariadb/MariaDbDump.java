package weftex.store.mariadb;

import java.nio.charset.StandardCharsets;
import java.sql.Connection;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import weftex.core.row.Column;
import weftex.core.row.Value;
import weftex.store.FailureWords;
import weftex.store.Refusal;
import weftex.store.database.Catalog;
import weftex.store.database.CatalogTable;
import weftex.store.database.CopySpec;
import weftex.store.dump.DumpDialect;
import weftex.store.dump.Restoring;
import weftex.store.dump.SavedContents;
import weftex.store.dump.SavedContents.Piece;
import weftex.store.dump.SavedContents.SavedTable;
import weftex.store.sqltext.SqlOut;

/** A MariaDB copy as plain SQL. */
public final class MariaDbDump implements DumpDialect {
  /** Values are written as they are, also those that a strict server would not take again. */
  static final String MODE = "NO_AUTO_VALUE_ON_ZERO,ALLOW_INVALID_DATES,NO_ENGINE_SUBSTITUTION";

  private static final byte[] NULL = ascii("NULL");
  private static final byte[][] ESCAPES = escapes();

  @Override
  public boolean isFor(CopySpec spec) {
    return spec instanceof CopySpec.Server;
  }

  @Override
  public String client(CopySpec spec) {
    return "mariadb --default-character-set=utf8mb4 DATABASE";
  }

  @Override
  public boolean escapesByBackslash() {
    return true;
  }

  @Override
  public boolean hasDelimiters() {
    return true;
  }

  @Override
  public List<String> first() {
    return List.of(
        "SET NAMES utf8mb4",
        "SET @weftex_mode = @@sql_mode, @weftex_zone = @@time_zone, @weftex_keys ="
            + " @@foreign_key_checks, @weftex_unique = @@unique_checks",
        "SET sql_mode = '"
            + MODE
            + "', time_zone = '+00:00', foreign_key_checks = 0, unique_checks = 0");
  }

  @Override
  public List<String> last() {
    return List.of(
        "SET sql_mode = @weftex_mode, time_zone = @weftex_zone, foreign_key_checks ="
            + " @weftex_keys, unique_checks = @weftex_unique");
  }

  @Override
  public SavedContents contents(Connection connection, CopySpec spec) throws SQLException {
    Catalog catalog = new MariaDbCatalog(connection, (CopySpec.Server) spec).read(true).ofOneSite();
    List<SavedTable> tables = new ArrayList<>();
    for (CatalogTable table : catalog.all()) {
      tables.add(new SavedTable(table, StoredCode.shown(connection, "TABLE", table.realName(), 2)));
    }
    List<String> left = new ArrayList<>();
    Map<String, String> views = new LinkedHashMap<>();
    for (Map.Entry<String, String> other : catalog.notHandled().entrySet()) {
      String name = spec.prefix() + other.getKey();
      if (other.getValue().equals("a view")) {
        views.put(name, StoredCode.shown(connection, "VIEW", name, 2));
      } else {
        left.add(name + ", " + other.getValue());
      }
    }
    List<Piece> pieces = new ArrayList<>(StoredCode.views(views));
    pieces.addAll(StoredCode.triggers(connection, spec, catalog));
    return new SavedContents(tables, pieces, left);
  }

  @Override
  public void literal(SqlOut out, Column column, Value value) {
    if (value.isNull()) {
      out.put(NULL);
    } else if (value instanceof Value.Whole || value instanceof Value.Decimal) {
      out.put(value.display());
    } else if (value instanceof Value.Text text) {
      // The server converts what it sends to UTF-8.
      out.quoted(text.utf8(), ESCAPES);
    } else if (value instanceof Value.Binary binary) {
      hex(out, binary.bytes());
    } else {
      throw new IllegalArgumentException("can't be written: " + value);
    }
  }

  private static void hex(SqlOut out, byte[] bytes) {
    if (bytes.length == 0) {
      out.put("''");
    } else {
      out.put("0x").hex(bytes);
    }
  }

  private static byte[][] escapes() {
    byte[][] escapes = new byte[128][];
    escapes['\''] = ascii("\\'");
    escapes['\\'] = ascii("\\\\");
    escapes['\n'] = ascii("\\n");
    escapes['\r'] = ascii("\\r");
    escapes[0] = ascii("\\0");
    escapes[26] = ascii("\\Z");
    return escapes;
  }

  private static byte[] ascii(String text) {
    return text.getBytes(StandardCharsets.US_ASCII);
  }

  static String quotedText(String text) {
    return "'" + text.replace("\\", "\\\\").replace("'", "\\'") + "'";
  }

  static String quoted(String name) {
    return "`" + name.replace("`", "``") + "`";
  }

  @Override
  public void makeScratch(CopySpec scratch) throws Refusal {
    CopySpec.Server server = (CopySpec.Server) scratch;
    try (Connection connection = ServerLogin.withoutDatabase(server);
        Statement statement = connection.createStatement()) {
      statement.execute(
          "CREATE DATABASE IF NOT EXISTS "
              + quoted(server.database())
              + " DEFAULT CHARACTER SET utf8mb4");
    } catch (SQLException e) {
      throw new Refusal(
          Refusal.Kind.UNREACHABLE,
          "The database "
              + server.database()
              + " for the rows of "
              + scratch.place()
              + " can't be made on "
              + server.address()
              + ": "
              + FailureWords.of(e)
              + ". Nothing was changed.",
          "Make it by hand and give its user all rights to it, name another server under 'scratch' in"
              + " weftex.yaml, or write 'scratch: private' there: Weftex then starts one of its own.",
          e);
    }
  }

  @Override
  public void dropScratch(CopySpec scratch) throws Refusal {
    CopySpec.Server server = (CopySpec.Server) scratch;
    try (Connection connection = ServerLogin.withoutDatabase(server);
        Statement statement = connection.createStatement()) {
      statement.execute("DROP DATABASE IF EXISTS " + quoted(server.database()));
    } catch (SQLException e) {
      // Without the right to it an empty one stays, as somebody may have made it by hand.
      return;
    }
  }

  @Override
  public void emptyScratch(Connection connection) throws SQLException {
    List<String> names = new ArrayList<>();
    try (Statement statement = connection.createStatement()) {
      statement.execute("SET foreign_key_checks = 0");
      try (ResultSet rows =
          statement.executeQuery(
              "SELECT TABLE_NAME FROM information_schema.TABLES WHERE TABLE_SCHEMA = DATABASE()")) {
        while (rows.next()) {
          names.add(rows.getString(1));
        }
      }
      for (String name : names) {
        statement.execute("DROP TABLE IF EXISTS " + quoted(name));
      }
    }
  }

  @Override
  public Restoring restoring(CopySpec spec) {
    return new MariaDbRestoring((CopySpec.Server) spec);
  }
}
