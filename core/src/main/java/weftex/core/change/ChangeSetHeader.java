package weftex.core.change;

import java.util.List;
import java.util.Map;
import java.util.Optional;
import weftex.core.row.Column;
import weftex.core.row.Table;
import weftex.core.row.ValueKind;

/**
 * The first line of a change set.
 *
 * @param site the site's name in weftex.yaml
 * @param from the copy that was read, such as {@code staging}
 * @param into the copy that will be written, such as {@code live}
 * @param target what the target is, so that the change set is never applied to another database
 * @param base the name of the base; empty if there was none
 * @param drafted when, as an ISO 8601 instant
 * @param tool the version that wrote it
 * @param selection what was chosen, as option names and what was said for them; empty for all
 *     content
 * @param tables the tables that the changes touch
 * @param receivers the public keys of those for whom it is sealed; none if it is not
 */
public record ChangeSetHeader(
    String site,
    String from,
    String into,
    String target,
    Optional<String> base,
    String drafted,
    String tool,
    Map<String, List<String>> selection,
    List<TableColumns> tables,
    List<String> receivers) {

  /** The format that this version writes and reads. */
  public static final int FORMAT = 4;

  /** The oldest format that is read: its new tables were statements, which are not run any more. */
  public static final int OLDEST = 1;

  public ChangeSetHeader {
    selection = Map.copyOf(selection);
    tables = List.copyOf(tables);
    receivers = List.copyOf(receivers);
  }

  /** A column of a table that the changes touch. */
  public Optional<ColumnType> column(String table, String name) {
    return tables.stream()
        .filter(each -> each.name().equals(table))
        .flatMap(each -> each.columns().stream())
        .filter(column -> column.name().equals(name))
        .findFirst();
  }

  /**
   * The columns of a table as they were when the change set was drafted.
   *
   * @param key names of the key's columns; empty for a table without a key
   * @param number name of the number column; empty if there is none
   * @param columns those that both copies have, in the order of the rows
   * @param others those that only the target has
   */
  public record TableColumns(
      String name, List<String> key, String number, List<ColumnType> columns, List<String> others) {
    public TableColumns {
      key = List.copyOf(key);
      columns = List.copyOf(columns);
      others = List.copyOf(others);
    }

    /** Takes the columns of a table. */
    public static TableColumns of(Table table, List<String> others) {
      return new TableColumns(
          table.name(),
          table.names(table.key()),
          table.isNumbered() ? table.columns().get(table.number()).name() : "",
          table.columns().stream().map(ColumnType::of).toList(),
          others);
    }
  }

  /** A column's name, what it holds, and the target's declaration of it. */
  public record ColumnType(String name, ValueKind kind, int scale, String type) {
    static ColumnType of(Column column) {
      return new ColumnType(column.name(), column.kind(), column.scale(), column.type());
    }
  }
}
