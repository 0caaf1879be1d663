package weftex.store.mariadb;

import java.sql.Connection;
import java.sql.PreparedStatement;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeMap;
import weftex.core.row.Column;
import weftex.core.row.Table;
import weftex.core.row.ValueKind;
import weftex.store.FailureWords;
import weftex.store.Refusal;
import weftex.store.database.Catalog;
import weftex.store.database.CatalogTable;
import weftex.store.database.Connecting;
import weftex.store.database.CopySpec;
import weftex.store.dump.Restoring;
import weftex.store.schema.SqlTokens;
import weftex.store.sqltext.SavedStatement;

/**
 * Loads tables under other names into the same database, and switches by one RENAME TABLE, which
 * other connections see as one step. Triggers, whose names exist once in a database, are missing
 * for the moment of the switch.
 */
final class MariaDbRestoring implements Restoring {
  private static final int LONGEST_NAME = 64;
  private static final int LOCK_SECONDS = 30;

  private final CopySpec.Server spec;
  private final List<SavedStatement> afterSwitch = new ArrayList<>();
  private List<String> tables = List.of();
  private Connection connection;

  MariaDbRestoring(CopySpec.Server spec) {
    this.spec = spec;
  }

  private Connection connection() throws SQLException {
    if (connection == null) {
      try {
        connection = Connecting.open(spec);
      } catch (Refusal e) {
        throw new SQLException(e.reason(), e);
      }
      run("SET SESSION lock_wait_timeout = " + LOCK_SECONDS);
    }
    return connection;
  }

  private void run(String sql) throws SQLException {
    try (Statement statement = connection().createStatement()) {
      statement.execute(sql);
    }
  }

  private List<String> ask(String sql) throws SQLException {
    try (Statement statement = connection().createStatement();
        ResultSet rows = statement.executeQuery(sql)) {
      List<String> answers = new ArrayList<>();
      while (rows.next()) {
        answers.add(rows.getString(1));
      }
      return answers;
    }
  }

  private Map<String, CatalogTable> present() throws SQLException {
    Catalog catalog = new MariaDbCatalog(connection(), spec).read(true).ofOneSite();
    Map<String, CatalogTable> present = new TreeMap<>();
    catalog.all().forEach(table -> present.put(table.realName(), table));
    return present;
  }

  /** Tables whose names begin with a word and then as the copy's own do, by their own names. */
  private List<String> beside(String word) throws SQLException {
    return ask(
            "SELECT TABLE_NAME FROM information_schema.TABLES WHERE TABLE_SCHEMA = DATABASE() AND"
                + " TABLE_TYPE <> 'VIEW' ORDER BY TABLE_NAME")
        .stream()
        .filter(name -> name.startsWith(word + spec.prefix()))
        .map(name -> name.substring(word.length()))
        .toList();
  }

  @Override
  public List<String> obstacles(List<String> wanted) throws SQLException {
    List<String> all = new ArrayList<>(present().keySet());
    wanted.stream().filter(name -> !all.contains(name)).forEach(all::add);
    List<String> obstacles = new ArrayList<>();
    List<String> names = new ArrayList<>(all);
    new MariaDbTriggers(connection()).of(all).forEach(trigger -> names.add(trigger.name()));
    for (String name : names) {
      if (Catalog.ASIDE.length() + name.length() > LONGEST_NAME) {
        obstacles.add("the name " + name + " is too long to be set aside");
      }
    }
    List<String> missing =
        MariaDbRights.missing(
            connection(), spec, List.of("CREATE", "DROP", "ALTER", "INSERT", "SELECT"));
    if (!missing.isEmpty()) {
      obstacles.add("its user lacks the right to " + String.join(", ", missing));
    }
    try (PreparedStatement query =
            connection()
                .prepareStatement(
                    "SELECT TABLE_NAME, REFERENCED_TABLE_NAME FROM"
                        + " information_schema.KEY_COLUMN_USAGE WHERE REFERENCED_TABLE_SCHEMA ="
                        + " DATABASE()");
        ResultSet rows = query.executeQuery()) {
      while (rows.next()) {
        String from = rows.getString(1);
        boolean outside = !all.contains(from) && !Catalog.isBeside(from);
        if (outside && all.contains(rows.getString(2))) {
          obstacles.add(
              "the table "
                  + from
                  + ", which is none of its own, refers to "
                  + rows.getString(2)
                  + " by a foreign key");
        }
      }
    }
    return obstacles;
  }

  @Override
  public void begin(List<String> wanted) throws SQLException {
    this.tables = List.copyOf(wanted);
    drop(Catalog.NEW);
  }

  private void drop(String word) throws SQLException {
    List<String> leftOver = beside(word);
    if (leftOver.isEmpty()) {
      return;
    }
    run("SET foreign_key_checks = 0");
    for (String name : leftOver) {
      run("DROP TABLE " + MariaDbDump.quoted(word + name));
    }
  }

  @Override
  public void execute(SavedStatement statement) throws SQLException {
    switch (statement.kind()) {
      case TABLE -> run(tableBeside(statement.text(), statement.table()));
      case ROWS ->
          run(
              "INSERT INTO "
                  + MariaDbDump.quoted(Catalog.NEW + statement.table())
                  + statement.text().substring(statement.body()));
      case SETTING -> {
        run(statement.text());
        afterSwitch.add(statement);
      }
      case VIEW, TRIGGER -> afterSwitch.add(statement);
      case INDEX -> throw new SQLException("an index stands apart from its table");
      case SEQUENCE, NOTHING -> {}
    }
  }

  /**
   * The same table under its name for the time before the switch; constraints, too, have others.
   */
  private String tableBeside(String sql, String table) {
    List<SqlTokens.Token> tokens = SqlTokens.of(sql, true);
    return MariaDbTriggers.replaced(
        sql,
        tokens,
        i -> {
          String name = tokens.get(i).text();
          boolean named = i > 0 && tokens.get(i).isName();
          if (named && tokens.get(i - 1).is("TABLE") && name.equals(table)
              || named && tokens.get(i - 1).is("REFERENCES") && tables.contains(name)) {
            return Catalog.NEW + name;
          }
          boolean key =
              named
                  && tokens.get(i - 1).is("CONSTRAINT")
                  && i + 1 < tokens.size()
                  && tokens.get(i + 1).is("FOREIGN");
          // The server renames those of its own naming along with the table.
          return !key ? "" : name.startsWith(table + "_ibfk_") ? Catalog.NEW + name : freed(name);
        });
  }

  /** A name that no constraint has: the present table has the constraint's own until the switch. */
  private static String freed(String name) {
    String mark = "_" + Long.toString(System.nanoTime() & 0xFFFFFFFL, 36);
    return name.substring(0, Math.min(name.length(), LONGEST_NAME - mark.length())) + mark;
  }

  @Override
  public Map<String, Long> counts() throws SQLException {
    Map<String, Long> counts = new LinkedHashMap<>();
    for (String name : beside(Catalog.NEW)) {
      counts.put(name, count(Catalog.NEW + name));
    }
    return counts;
  }

  private long count(String table) throws SQLException {
    return Long.parseLong(ask("SELECT COUNT(*) FROM " + MariaDbDump.quoted(table)).get(0));
  }

  @Override
  public Map<String, Since> since() throws SQLException {
    Map<String, Since> all = new LinkedHashMap<>();
    for (CatalogTable table : present().values()) {
      Table shape = table.table();
      if (shape.name().equals(Catalog.LEDGER)) {
        continue;
      }
      boolean loaded = tables.contains(table.realName());
      Since since =
          loaded && shape.hasKey()
              ? sinceByKey(table.realName(), shape)
              : new Since(
                  count(table.realName()) - (loaded ? count(Catalog.NEW + table.realName()) : 0),
                  0);
      if (!since.isNothing()) {
        all.put(table.realName(), since);
      }
    }
    return all;
  }

  private Since sinceByKey(String realName, Table shape) throws SQLException {
    Set<String> there =
        new HashSet<>(
            ask(
                "SELECT COLUMN_NAME FROM information_schema.COLUMNS WHERE TABLE_SCHEMA = DATABASE() AND TABLE_NAME = "
                    + MariaDbDump.quotedText(Catalog.NEW + realName)));
    List<String> key = new ArrayList<>();
    List<String> same = new ArrayList<>();
    for (int i = 0; i < shape.columns().size(); i++) {
      Column column = shape.columns().get(i);
      String name = MariaDbDump.quoted(column.name());
      boolean bytes = column.kind() == ValueKind.TEXT || column.kind() == ValueKind.BINARY;
      String as = bytes ? "BINARY " : "";
      if (shape.key().contains(i)) {
        key.add("here." + name + " = there." + name);
      }
      if (there.contains(column.name())) {
        same.add(as + "here." + name + " <=> " + as + "there." + name);
      }
    }
    String first = MariaDbDump.quoted(shape.columns().get(shape.key().get(0)).name());
    String sql =
        "SELECT COALESCE(SUM(there."
            + first
            + " IS NULL), 0), COALESCE(SUM(there."
            + first
            + " IS NOT NULL AND NOT ("
            + String.join(" AND ", same)
            + ")), 0) FROM "
            + MariaDbDump.quoted(realName)
            + " here LEFT JOIN "
            + MariaDbDump.quoted(Catalog.NEW + realName)
            + " there ON "
            + String.join(" AND ", key);
    try (Statement statement = connection().createStatement();
        ResultSet rows = statement.executeQuery(sql)) {
      rows.next();
      return new Since(rows.getLong(1), rows.getLong(2));
    }
  }

  @Override
  public void switchOver() throws SQLException, Refusal {
    drop(Catalog.ASIDE);
    List<String> present = List.copyOf(present().keySet());
    MariaDbTriggers triggers = new MariaDbTriggers(connection());
    List<MariaDbTriggers.TriggerText> before = triggers.of(present);
    List<String> renames = new ArrayList<>();
    present.forEach(name -> renames.add(rename(name, Catalog.ASIDE + name)));
    tables.forEach(name -> renames.add(rename(Catalog.NEW + name, name)));
    triggers.rename(before, renames);
    String doing = "the tables that are set aside";
    try {
      for (MariaDbTriggers.TriggerText trigger : before) {
        triggers.make(trigger, Catalog.ASIDE + trigger.name(), Catalog.ASIDE + trigger.table());
      }
      for (SavedStatement statement : afterSwitch) {
        doing = statement.text();
        if (statement.kind() == SavedStatement.Kind.VIEW) {
          run("DROP VIEW IF EXISTS " + MariaDbDump.quoted(viewName(statement.text())));
        }
        run(statement.text());
      }
    } catch (SQLException e) {
      throw new Refusal(
          Refusal.Kind.PROTECTED,
          spec.name()
              + " is restored, but what follows its tables failed at '"
              + doing.substring(0, Math.min(80, doing.length())).replaceAll("\\s+", " ")
              + "': "
              + FailureWords.of(e)
              + ".",
          "Make it by hand from the file, or go back with 'weftex restore "
              + spec.name()
              + " --back'.",
          e);
    }
  }

  private static String rename(String from, String to) {
    return MariaDbDump.quoted(from) + " TO " + MariaDbDump.quoted(to);
  }

  private static String viewName(String sql) {
    List<SqlTokens.Token> tokens = SqlTokens.of(sql, true);
    for (int i = 1; i < tokens.size(); i++) {
      if (tokens.get(i - 1).is("VIEW")) {
        return tokens.get(i).text();
      }
    }
    return "";
  }

  @Override
  public boolean hasAside() throws SQLException {
    return !beside(Catalog.ASIDE).isEmpty();
  }

  @Override
  public void back() throws SQLException, Refusal {
    drop(Catalog.NEW);
    List<String> present = List.copyOf(present().keySet());
    List<String> aside = beside(Catalog.ASIDE);
    MariaDbTriggers triggers = new MariaDbTriggers(connection());
    List<MariaDbTriggers.TriggerText> ofPresent = triggers.of(present);
    List<MariaDbTriggers.TriggerText> ofAside =
        triggers.of(aside.stream().map(name -> Catalog.ASIDE + name).toList());
    List<String> renames = new ArrayList<>();
    present.forEach(name -> renames.add(rename(name, Catalog.NEW + name)));
    aside.forEach(name -> renames.add(rename(Catalog.ASIDE + name, name)));
    triggers.rename(ofPresent, renames);
    for (MariaDbTriggers.TriggerText trigger : ofAside) {
      String table = trigger.table().substring(Catalog.ASIDE.length());
      try {
        run("DROP TRIGGER " + MariaDbDump.quoted(trigger.name()));
        triggers.make(trigger, trigger.name().substring(Catalog.ASIDE.length()), table);
      } catch (SQLException e) {
        throw new Refusal(
            Refusal.Kind.PROTECTED,
            "The tables of "
                + spec.name()
                + " are back in their place, but the trigger "
                + trigger.name()
                + " of "
                + table
                + " could not be made: "
                + FailureWords.of(e)
                + ".",
            "Make it by hand from the newest file that 'weftex history' lists.",
            e);
      }
    }
    drop(Catalog.NEW);
  }

  @Override
  public void dropAside() throws SQLException {
    drop(Catalog.ASIDE);
  }

  @Override
  public void close() throws SQLException {
    if (connection != null) {
      try {
        drop(Catalog.NEW);
      } finally {
        Connecting.close(connection);
      }
    }
  }
}
