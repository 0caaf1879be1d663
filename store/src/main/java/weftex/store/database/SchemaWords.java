package weftex.store.database;

import java.sql.Connection;
import java.sql.SQLException;
import java.util.ArrayList;
import java.util.HexFormat;
import java.util.List;
import java.util.Optional;
import java.util.function.UnaryOperator;
import weftex.core.change.SchemaChange;
import weftex.core.row.Column;
import weftex.core.row.Value;
import weftex.core.schema.ColumnShape;
import weftex.core.schema.IndexShape;
import weftex.core.schema.ReferenceShape;
import weftex.core.schema.TableShape;
import weftex.store.Refusal;

/** How a database describes, makes and takes away tables and columns. */
public interface SchemaWords {
  /** How a default of the time of writing to the millisecond is written where text holds it. */
  String MILLISECONDS = "%Y-%m-%dT%H:%M:%fZ";

  /** A name as both databases take it. */
  default String quoted(String name) {
    return "`" + name.replace("`", "``") + "`";
  }

  /** What follows the columns of the table in which Weftex keeps what it applied. */
  String ledgerOptions();

  /** Whether a backslash in a string takes the next character as it is. */
  boolean escapesByBackslash();

  /** The statements that made a table: itself first, then indexes that stand apart. */
  List<String> definition(Connection connection, String realTable) throws SQLException;

  /**
   * What a new column holds in rows that nobody wrote.
   *
   * @param type the column as the copy's catalog has it
   * @return empty if the server would work it out, or would refuse the column
   */
  Optional<Value> fill(Connection connection, ColumnShape shape, Column type) throws SQLException;

  /**
   * The statements that make a table, all of it quoted or checked.
   *
   * @param names gives a table its prefix
   */
  default List<String> createTable(
      String realTable, TableShape shape, UnaryOperator<String> names) {
    List<String> elements = new ArrayList<>();
    List<String> apart = new ArrayList<>();
    shape.columns().forEach(column -> elements.add(column(column, shape)));
    for (IndexShape index : shape.indexes()) {
      index(realTable, index, shape, elements, apart);
    }
    for (ReferenceShape reference : shape.references()) {
      elements.add(
          "FOREIGN KEY "
              + quoted(reference.columns())
              + " REFERENCES "
              + quoted(names.apply(reference.table()))
              + (reference.targets().isEmpty() ? "" : " " + quoted(reference.targets()))
              + consequence(" ON DELETE ", reference.onDelete())
              + consequence(" ON UPDATE ", reference.onUpdate()));
    }
    List<String> statements = new ArrayList<>();
    statements.add(
        "CREATE TABLE "
            + quoted(realTable)
            + " (\n  "
            + String.join(",\n  ", elements)
            + "\n)"
            + options(shape));
    statements.addAll(apart);
    return statements;
  }

  /**
   * The statements that make a new table or column.
   *
   * @param prefix what the names of the copy's tables begin with
   * @throws Refusal if an older version drafted it, as statements
   */
  default List<String> making(SchemaChange change, String prefix) throws Refusal {
    String realTable = prefix + change.table();
    if (change.made() instanceof SchemaChange.Made.NewTable table) {
      return createTable(realTable, table.shape(), name -> prefix + name);
    }
    if (change.made() instanceof SchemaChange.Made.NewColumn column) {
      return addColumn(realTable, column);
    }
    throw new Refusal(
        Refusal.Kind.WRONG_INPUT,
        "Change "
            + change.id()
            + " of the change set would make "
            + change.item().words()
            + " by a statement, as an older version wrote it; statements of a file are not run. Nothing was changed.",
        "Draft again with 'weftex draft --again'.");
  }

  private static String consequence(String before, ReferenceShape.Consequence consequence) {
    return consequence == ReferenceShape.Consequence.NONE ? "" : before + consequence.words();
  }

  /** Names in parentheses. */
  default String quoted(List<String> names) {
    return "(" + String.join(", ", names.stream().map(this::quoted).toList()) + ")";
  }

  /** A text as a literal. */
  String literal(String text);

  /** A value as a literal of a column's type. */
  default String literal(Value value, ColumnShape column) {
    if (value.isNull()) {
      return "NULL";
    }
    if (value instanceof Value.Whole whole && column.type().startsWith("bit")) {
      return "b'" + whole.number().toString(2) + "'";
    }
    if (value instanceof Value.Binary bytes) {
      return "X'" + HexFormat.of().formatHex(bytes.bytes()) + "'";
    }
    return value instanceof Value.Whole || value instanceof Value.Decimal
        ? value.display()
        : literal(value.display());
  }

  /** A column as a statement defines it. */
  String column(ColumnShape column, TableShape table);

  /** An index, inside of the statement that makes its table or in one of its own. */
  void index(
      String realTable,
      IndexShape index,
      TableShape table,
      List<String> elements,
      List<String> apart);

  /** The columns of an index. */
  default String parts(IndexShape index) {
    return "("
        + String.join(
            ", ",
            index.parts().stream()
                .map(
                    part ->
                        quoted(part.column())
                            + part.length().map(length -> "(" + length + ")").orElse("")
                            + part.collation().map(name -> " COLLATE " + name).orElse("")
                            + (part.descending() ? " DESC" : ""))
                .toList())
        + ")";
  }

  /** What stands behind the columns of a new table. */
  String options(TableShape shape);

  /** The statements that add a column. */
  List<String> addColumn(String realTable, SchemaChange.Made.NewColumn column);

  /** The statements that take a column away, and its indexes before. */
  List<String> dropColumn(String realTable, String column, List<String> indexes);

  /** Rights that this needs and the user lacks. */
  List<String> missingRights(Connection connection, CopySpec spec) throws SQLException;

  /** Keeps everybody else from writing a table, until {@link #unlock}. */
  void lock(Connection connection, String realTable) throws SQLException;

  /** Ends what {@link #lock} began; what was done stays done. */
  void unlock(Connection connection) throws SQLException;
}
