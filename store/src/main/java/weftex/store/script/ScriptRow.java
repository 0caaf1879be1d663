package weftex.store.script;

import java.io.IOException;
import java.math.BigInteger;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import weftex.core.change.Action;
import weftex.core.row.Column;
import weftex.core.row.Table;
import weftex.core.row.Value;
import weftex.core.row.ValueKind;
import weftex.store.Refusal;
import weftex.store.database.CatalogTable;
import weftex.store.receipt.Effect;
import weftex.store.receipt.ReceiptRows;
import weftex.store.sqltext.SqlOut;

/**
 * A row of a merge in the words of SQL: how it is told, that it is as it must be, and how it is
 * written.
 *
 * @param words those of the kind of database
 * @param before its values before, by column; empty for a row that is added
 * @param after its values after; empty for a row that is removed
 */
record ScriptRow(
    ScriptWords words,
    Action action,
    CatalogTable table,
    Map<String, Value> key,
    Map<String, Value> before,
    Map<String, Value> after) {
  /** Longer ones are written row by row. */
  private static final int TOGETHER = 1 << 13;

  /** A row that a merge touched. */
  static ScriptRow of(ScriptWords words, ReceiptRows.Touched row, CatalogTable table) {
    return new ScriptRow(words, row.action(), table, row.key(), row.before(), row.after());
  }

  /** What followed from a merge. */
  static ScriptRow of(ScriptWords words, Effect effect, CatalogTable table) {
    Action action =
        effect.isMade() ? Action.ADD : effect.isRemoved() ? Action.REMOVE : Action.UPDATE;
    return new ScriptRow(words, action, table, effect.key(), effect.before(), effect.after());
  }

  /** The same, taken back: of an updated row only what was written. */
  ScriptRow back() {
    return switch (action) {
      case ADD -> new ScriptRow(words, Action.REMOVE, table, key, after, before);
      case REMOVE -> new ScriptRow(words, Action.ADD, table, key, after, before);
      case UPDATE ->
          new ScriptRow(words, action, table, key, only(after, moved()), only(before, moved()));
    };
  }

  private Table shape() {
    return table.table();
  }

  private Column column(String name) {
    return shape().columns().get(shape().position(name).orElseThrow());
  }

  private static Map<String, Value> only(Map<String, Value> values, Set<String> columns) {
    Map<String, Value> some = new LinkedHashMap<>(values);
    some.keySet().retainAll(columns);
    return some;
  }

  /** The columns that an update writes. */
  private Set<String> moved() {
    Set<String> moved = new LinkedHashSet<>();
    after.forEach(
        (column, value) -> {
          if (!value.matches(before.getOrDefault(column, Value.NULL))) {
            moved.add(column);
          }
        });
    return moved;
  }

  /** Whether nothing of it is written. */
  boolean isNothing() {
    return action == Action.UPDATE && moved().isEmpty();
  }

  /** The table and the key, as a person reads them. */
  String name() {
    return table.realName() + " " + keyText();
  }

  String keyText() {
    return Value.display(key.values());
  }

  /** Whether the row is there, before it is written or after. */
  boolean isThere(boolean first) {
    return action != (first ? Action.ADD : Action.REMOVE);
  }

  /** That the row is the one of this key. */
  void key(SqlOut sql) {
    String and = "";
    for (Map.Entry<String, Value> cell : key.entrySet()) {
      sql.put(and).put(words.quoted(cell.getKey())).put(" = ");
      words.literal(sql, column(cell.getKey()), cell.getValue());
      and = " AND ";
    }
  }

  /** That it is as it must be, before it is written or after; of an update what was written. */
  void isAs(SqlOut sql, boolean first) throws Refusal {
    key(sql);
    for (Map.Entry<Column, Value> cell : compared(first).entrySet()) {
      if (cell.getValue() instanceof Value.Digest && !words.comparesDigests()) {
        throw notWhole(cell.getKey().name());
      }
      words.same(sql, cell.getKey(), cell.getValue());
    }
  }

  /** What must be as it is here, besides the key. */
  private Map<Column, Value> compared(boolean first) {
    Map<Column, Value> compared = new LinkedHashMap<>();
    if (isThere(first)) {
      Map<String, Value> values =
          first ? before : action == Action.UPDATE ? only(after, moved()) : after;
      values.forEach(
          (name, value) ->
              shape()
                  .position(name)
                  .filter(at -> !shape().key().contains(at))
                  .ifPresent(at -> compared.put(shape().columns().get(at), value)));
    }
    return compared;
  }

  /**
   * The same of many rows, column by column, which a server reads in a third of the time.
   *
   * @param rows of which each {@link #isComparedWith} the first
   */
  static void areAs(SqlOut sql, List<ScriptRow> rows, boolean first) {
    ScriptRow one = rows.get(0);
    String key = one.words.quoted(one.number().orElseThrow().name());
    String comma = key + " IN (";
    Map<Column, Map<BigInteger, Value>> columns = new LinkedHashMap<>();
    for (ScriptRow row : rows) {
      BigInteger number = row.numbered();
      sql.put(comma).put(number.toString());
      comma = ", ";
      row.compared(first)
          .forEach(
              (column, value) ->
                  columns
                      .computeIfAbsent(column, ignored -> new LinkedHashMap<>())
                      .put(number, value));
    }
    sql.put(")");
    columns.forEach((column, values) -> one.words.same(sql, column, key, values));
  }

  /** The column of whole numbers that is the key. */
  private Optional<Column> number() {
    return shape().key().size() == 1
        ? Optional.of(shape().columns().get(shape().key().get(0)))
            .filter(column -> column.kind() == ValueKind.WHOLE)
        : Optional.empty();
  }

  private BigInteger numbered() {
    return ((Value.Whole) key.values().iterator().next()).number();
  }

  /** Whether one comparison by column takes this row and another one. */
  boolean isComparedWith(ScriptRow other, boolean first) {
    return table == other.table
        && isThere(first) == other.isThere(first)
        && isComparedByColumn(first)
        && other.isComparedByColumn(first)
        && compared(first).keySet().equals(other.compared(first).keySet());
  }

  /** Values of which a choice of many is what each is alone. */
  private boolean isComparedByColumn(boolean first) {
    return words.comparesByColumn()
        && number().isPresent()
        && key.values().stream().allMatch(Value.Whole.class::isInstance)
        && compared(first).values().stream()
            .allMatch(
                value ->
                    value.isNull()
                        || value instanceof Value.Whole
                        || value instanceof Value.Digest
                        || value instanceof Value.Text text && text.utf8().length <= TOGETHER);
  }

  /** The statement that writes it, as long as the guard stands. */
  void write(SqlOut sql) throws Refusal {
    switch (action) {
      case ADD -> insert(sql, "INSERT INTO ");
      case UPDATE -> update(sql);
      case REMOVE -> {
        sql.put("DELETE FROM ").put(words.quoted(table.realName())).put(" WHERE ");
        key(sql);
        sql.put(words.ifGoing());
      }
    }
  }

  private void insert(SqlOut sql, String how) throws Refusal {
    List<Column> columns = new ArrayList<>();
    for (Column column : shape().columns()) {
      if (!column.generated() && after.containsKey(column.name())) {
        columns.add(column);
      }
    }
    sql.put(how).put(words.quoted(table.realName())).put(" (");
    sql.put(String.join(", ", columns.stream().map(c -> words.quoted(c.name())).toList()));
    String comma = ") SELECT ";
    for (Column column : columns) {
      sql.put(comma);
      literal(sql, column, after.get(column.name()));
      comma = ", ";
    }
    sql.put(words.whereGoing());
  }

  private void update(SqlOut sql) throws Refusal {
    update(sql, List.of(this));
  }

  /**
   * One statement that updates rows of which each {@link #goesWith} the first.
   *
   * @param rows at least one
   */
  static void update(SqlOut sql, List<ScriptRow> rows) throws Refusal {
    ScriptRow first = rows.get(0);
    Set<String> moved = first.moved();
    ScriptWords words = first.words;
    sql.put("UPDATE ").put(words.quoted(first.table.realName()));
    String comma = " SET ";
    for (Column column : first.shape().columns()) {
      String name = words.quoted(column.name());
      if (moved.contains(column.name())) {
        sql.put(comma).put(name).put(" = ");
        values(sql, column, rows);
        comma = ", ";
      } else if (column.touched()) {
        // What the server would touch by itself stays.
        sql.put(comma).put(name).put(" = ").put(name);
        comma = ", ";
      }
    }
    String or = " WHERE ((";
    for (ScriptRow row : rows) {
      sql.put(or);
      row.key(sql);
      or = ") OR (";
    }
    sql.put("))").put(words.ifGoing());
  }

  private static void values(SqlOut sql, Column column, List<ScriptRow> rows) throws Refusal {
    if (rows.size() == 1) {
      rows.get(0).literal(sql, column, rows.get(0).after.get(column.name()));
      return;
    }
    sql.put("CASE");
    for (ScriptRow row : rows) {
      sql.put(" WHEN ");
      row.key(sql);
      sql.put(" THEN ");
      row.literal(sql, column, row.after.get(column.name()));
    }
    sql.put(" END");
  }

  /**
   * Whether one statement can update this row and another one: the same columns, of which none may
   * be unique, since a statement takes rows in an order of its own, and values that are in a choice
   * what they are alone.
   */
  boolean goesWith(ScriptRow other) {
    return action == Action.UPDATE
        && other.action == Action.UPDATE
        && table == other.table
        && moved().equals(other.moved())
        && isPlain()
        && other.isPlain();
  }

  private boolean isPlain() {
    Set<String> moved = moved();
    boolean unique =
        shape().uniqueKeys().stream()
            .flatMap(List::stream)
            .map(shape().columns()::get)
            .anyMatch(column -> column.generated() || moved.contains(column.name()));
    return !unique && moved.stream().allMatch(name -> isPlain(column(name), after.get(name)));
  }

  private static boolean isPlain(Column column, Value value) {
    return value.isNull()
        || value instanceof Value.Whole
        || value instanceof Value.Text text && text.utf8().length <= TOGETHER
        || value instanceof Value.Decimal && column.kind() == ValueKind.DECIMAL;
  }

  /**
   * The statements that make what follows from a merge: a counter moves by as much, what else there
   * is is written where it is as it was.
   *
   * @param next takes the statement that was gathered
   */
  void follow(SqlOut sql, MergeScript.Next next) throws IOException, Refusal {
    if (action != Action.UPDATE) {
      if (action == Action.ADD) {
        insert(sql, words.insertOrPass());
      } else {
        write(sql);
      }
      next.next();
      return;
    }
    for (Map.Entry<String, Value> cell : after.entrySet()) {
      Column column = column(cell.getKey());
      String name = words.quoted(column.name());
      Value was = before.get(cell.getKey());
      sql.put("UPDATE ").put(words.quoted(table.realName())).put(" SET ").put(name).put(" = ");
      boolean counts = was instanceof Value.Whole && cell.getValue() instanceof Value.Whole;
      if (counts) {
        sql.put(name).put(" + (").put(cell.getValue().display()).put(" - ");
        sql.put(was.display()).put(")");
      } else {
        literal(sql, column, cell.getValue());
      }
      sql.put(" WHERE ");
      key(sql);
      if (!counts) {
        words.same(sql, column, was);
      }
      sql.put(words.ifGoing());
      next.next();
    }
  }

  private void literal(SqlOut sql, Column column, Value value) throws Refusal {
    if (value instanceof Value.Digest) {
      throw notWhole(column.name());
    }
    words.literal(sql, column, value);
  }

  private Refusal notWhole(String column) {
    return new Refusal(
        Refusal.Kind.PROTECTED,
        "The value of "
            + column
            + " in "
            + name()
            + " is too long to be kept whole in a receipt. Nothing was written.",
        "Write the whole copy with 'weftex apply -o'.");
  }
}
