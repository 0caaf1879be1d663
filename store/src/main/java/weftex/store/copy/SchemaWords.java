package weftex.store.copy;

import java.sql.Connection;
import java.sql.SQLException;
import java.util.List;
import java.util.Optional;
import weftex.core.row.Column;

/** How a database describes, makes and takes away tables and columns. */
interface SchemaWords {

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
   * What a new column holds in rows that nobody wrote, as a literal.
   *
   * @return empty if the server would work it out, or would refuse the column
   */
  Optional<String> fill(Connection connection, TableDefinition table, Column column)
      throws SQLException;

  /**
   * The statements that add a column.
   *
   * @param definition the column's name and type
   * @param after the column that stands before it; empty if that is not there
   * @param indexes to be made with it; {@code apart} are whole statements
   */
  List<String> addColumn(
      String realTable,
      String definition,
      Optional<String> after,
      List<TableDefinition.Index> indexes,
      List<String> apart);

  /** The statements that take a column away, and its indexes before. */
  List<String> dropColumn(String realTable, String column, List<String> indexes);

  /** The condition that a value is not the literal. */
  String differs(String column, String literal);

  /** Rights that this needs and the user lacks. */
  List<String> missingRights(Connection connection, CopySpec spec) throws SQLException;

  /** Keeps everybody else from writing a table, until {@link #unlock}. */
  void lock(Connection connection, String realTable) throws SQLException;

  /** Ends what {@link #lock} began; what was done stays done. */
  void unlock(Connection connection) throws SQLException;
}
