package weftex.store.mariadb;

import java.sql.Connection;
import java.sql.PreparedStatement;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import weftex.store.database.Catalog;
import weftex.store.database.CopySpec;
import weftex.store.dump.SavedContents.Kind;
import weftex.store.dump.SavedContents.Piece;
import weftex.store.schema.SqlTokens;

/** Views and triggers as a dump holds them. */
final class StoredCode {

  private StoredCode() {}

  /** A view that names another one comes after it. */
  static List<Piece> views(Map<String, String> views) {
    List<Piece> ordered = new ArrayList<>();
    Map<String, String> rest = new LinkedHashMap<>(views);
    while (!rest.isEmpty()) {
      String next =
          rest.keySet().stream()
              .filter(name -> !namesAny(rest.get(name), name, rest))
              .findFirst()
              .orElse(rest.keySet().iterator().next());
      ordered.add(
          new Piece(
              Kind.VIEW,
              next,
              "DROP VIEW IF EXISTS " + MariaDbDump.quoted(next),
              rest.remove(next),
              false));
    }
    return ordered;
  }

  static boolean namesAny(String view, String own, Map<String, String> others) {
    return SqlTokens.of(view, true).stream()
        .anyMatch(t -> t.isName() && !t.text().equals(own) && others.containsKey(t.text()));
  }

  static List<Piece> triggers(Connection connection, CopySpec spec, Catalog catalog)
      throws SQLException {
    List<String> names = new ArrayList<>();
    try (PreparedStatement query =
        connection.prepareStatement(
            "SELECT TRIGGER_NAME, EVENT_OBJECT_TABLE FROM information_schema.TRIGGERS WHERE"
                + " TRIGGER_SCHEMA = DATABASE() ORDER BY EVENT_OBJECT_TABLE, ACTION_TIMING,"
                + " EVENT_MANIPULATION, ACTION_ORDER")) {
      try (ResultSet rows = query.executeQuery()) {
        while (rows.next()) {
          String table = rows.getString(2);
          if (table.startsWith(spec.prefix())
              && catalog.find(table.substring(spec.prefix().length())).isPresent()) {
            names.add(rows.getString(1));
          }
        }
      }
    }
    List<Piece> pieces = new ArrayList<>();
    for (String name : names) {
      String mode = shown(connection, "TRIGGER", name, 2);
      pieces.add(
          new Piece(
              Kind.SETTING, name, "", "SET sql_mode = " + MariaDbDump.quotedText(mode), false));
      pieces.add(new Piece(Kind.TRIGGER, name, "", shown(connection, "TRIGGER", name, 3), true));
    }
    if (!names.isEmpty()) {
      pieces.add(
          new Piece(Kind.SETTING, "", "", "SET sql_mode = '" + MariaDbDump.MODE + "'", false));
    }
    return pieces;
  }

  static String shown(Connection connection, String what, String name, int column)
      throws SQLException {
    try (Statement statement = connection.createStatement();
        ResultSet rows =
            statement.executeQuery("SHOW CREATE " + what + " " + MariaDbDump.quoted(name))) {
      rows.next();
      return rows.getString(column);
    }
  }
}
