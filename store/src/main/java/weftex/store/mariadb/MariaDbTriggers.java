package weftex.store.mariadb;

import java.sql.Connection;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import weftex.store.schema.SqlTokens;

/**
 * Triggers of tables that change places. Their names exist once in a database, so each goes before
 * its table is renamed, and is made anew afterwards.
 */
final class MariaDbTriggers {
  private final Connection connection;

  MariaDbTriggers(Connection connection) {
    this.connection = connection;
  }

  /** A trigger with the statement that makes it and the SQL mode that this was said in. */
  record TriggerText(String name, String table, String mode, String sql) {}

  /** A new name for what stands at a token. */
  interface NewName {
    /** The name in a token's place; empty if it stays. */
    String of(int token);
  }

  /** Those of some tables, in the order in which they act. */
  List<TriggerText> of(List<String> tables) throws SQLException {
    List<TriggerText> found = new ArrayList<>();
    Map<String, String> names = new LinkedHashMap<>();
    try (Statement statement = connection.createStatement();
        ResultSet rows =
            statement.executeQuery(
                "SELECT TRIGGER_NAME, EVENT_OBJECT_TABLE FROM information_schema.TRIGGERS WHERE"
                    + " TRIGGER_SCHEMA = DATABASE() ORDER BY EVENT_OBJECT_TABLE, ACTION_TIMING,"
                    + " EVENT_MANIPULATION, ACTION_ORDER")) {
      while (rows.next()) {
        if (tables.contains(rows.getString(2))) {
          names.put(rows.getString(1), rows.getString(2));
        }
      }
    }
    for (Map.Entry<String, String> name : names.entrySet()) {
      try (Statement statement = connection.createStatement();
          ResultSet rows =
              statement.executeQuery("SHOW CREATE TRIGGER " + MariaDbDump.quoted(name.getKey()))) {
        rows.next();
        found.add(
            new TriggerText(name.getKey(), name.getValue(), rows.getString(2), rows.getString(3)));
      }
    }
    return found;
  }

  /** Renames tables without their triggers, which come back if that fails. */
  void rename(List<TriggerText> triggers, List<String> renames) throws SQLException {
    List<TriggerText> gone = new ArrayList<>();
    try {
      for (TriggerText trigger : triggers) {
        run("DROP TRIGGER " + MariaDbDump.quoted(trigger.name()));
        gone.add(trigger);
      }
      run("RENAME TABLE " + String.join(", ", renames));
    } catch (SQLException e) {
      for (TriggerText trigger : gone) {
        make(trigger, trigger.name(), trigger.table());
      }
      throw e;
    }
  }

  /** Makes a trigger under another name for a table under another name. */
  void make(TriggerText trigger, String name, String table) throws SQLException {
    List<SqlTokens.Token> tokens = SqlTokens.of(trigger.sql(), true);
    int[] ons = {0};
    String sql =
        replaced(
            trigger.sql(),
            tokens,
            i -> {
              boolean after = i > 0 && tokens.get(i).isName();
              if (after && tokens.get(i - 1).is("TRIGGER")) {
                return name;
              }
              return after && tokens.get(i - 1).is("ON") && ons[0]++ == 0 ? table : "";
            });
    run("SET @weftex_before = @@sql_mode");
    run("SET sql_mode = " + MariaDbDump.quotedText(trigger.mode()));
    run(sql);
    run("SET sql_mode = @weftex_before");
  }

  /** A statement in which names are others. */
  static String replaced(String sql, List<SqlTokens.Token> tokens, NewName names) {
    StringBuilder out = new StringBuilder();
    int at = 0;
    for (int i = 0; i < tokens.size(); i++) {
      String name = names.of(i);
      if (!name.isEmpty()) {
        int from = tokens.get(i).from();
        boolean bare = Character.isLetter(sql.charAt(from)) && name.matches("\\w+");
        out.append(sql, at, from).append(bare ? name : MariaDbDump.quoted(name));
        at = tokens.get(i).to();
      }
    }
    return out.append(sql.substring(at)).toString();
  }

  private void run(String sql) throws SQLException {
    try (Statement statement = connection.createStatement()) {
      statement.execute(sql);
    }
  }
}
