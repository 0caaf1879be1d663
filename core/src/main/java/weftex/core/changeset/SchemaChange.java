package weftex.core.changeset;

import java.util.List;
import java.util.Optional;

/**
 * A table or column that the source has, that neither the base nor the target has, and that is made
 * on the target before any row is written. A server commits such a statement by itself, so it is no
 * part of the transaction.
 *
 * @param id its number in the change set, from 1; schema changes stand before all rows
 * @param table without prefix
 * @param column the new column; empty for a whole new table
 * @param statements what makes it, in this order, with the names that tables have on the target
 * @param indexes indexes that are made with a new column, by name, and must go before it
 * @param fill what a new column holds in rows that nobody wrote, as an SQL literal
 */
public record SchemaChange(
    int id,
    String table,
    Optional<String> column,
    List<String> statements,
    List<String> indexes,
    String fill) {

  public SchemaChange {
    statements = List.copyOf(statements);
    indexes = List.copyOf(indexes);
  }

  /** The same change under another number. */
  public SchemaChange numbered(int number) {
    return new SchemaChange(number, table, column, statements, indexes, fill);
  }

  /** What it does, as files say it. */
  public String does() {
    return column.isPresent() ? "add-column" : "create-table";
  }

  /** How a person sees it. */
  public Item item() {
    return column
        .map(name -> new Item("column", table + "." + name, ""))
        .orElseGet(() -> new Item("table", table, ""));
  }
}
