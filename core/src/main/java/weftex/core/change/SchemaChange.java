package weftex.core.change;

import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import weftex.core.row.Value;
import weftex.core.schema.ColumnShape;
import weftex.core.schema.IndexShape;
import weftex.core.schema.TableShape;

/**
 * A table or column that the source has, that neither the base nor the target has, and that is made
 * on the target before any row is written. A server commits what makes it by itself, so it is no
 * part of the transaction. It is data: each database's own room makes the statements of it.
 *
 * @param id its number in the change set, from 1; schema changes stand before all rows
 * @param table without prefix
 * @param made what is made
 */
public record SchemaChange(int id, String table, Made made) {

  /** What is made. */
  public sealed interface Made {

    /** A whole table. */
    record NewTable(TableShape shape) implements Made {}

    /**
     * A column of a table that is there.
     *
     * @param after the column that stands before it; empty if that is not there
     * @param indexes to be made with it, and to go before it
     * @param fill what it holds in rows that nobody wrote
     */
    record NewColumn(
        ColumnShape shape, Optional<String> after, List<IndexShape> indexes, Value fill)
        implements Made {
      public NewColumn {
        indexes = List.copyOf(indexes);
      }
    }

    /**
     * What an older version noted as statements, which are not run any more: it is known by its
     * name alone, and can be taken away where it is certain that nobody has used it.
     *
     * @param column empty for a table
     */
    record Named(Optional<String> column, List<String> indexes) implements Made {
      public Named {
        indexes = List.copyOf(indexes);
      }
    }
  }

  /** The new column; empty for a whole new table. */
  public Optional<String> column() {
    if (made instanceof Made.NewColumn column) {
      return Optional.of(column.shape().name());
    }
    return made instanceof Made.Named named ? named.column() : Optional.empty();
  }

  /** The same change under another number. */
  public SchemaChange numbered(int number) {
    return new SchemaChange(number, table, made);
  }

  /** What it does, as files say it. */
  public String does() {
    return column().isPresent() ? "add-column" : "create-table";
  }

  /** How a person sees it. */
  public Item item() {
    return column()
        .map(name -> new Item("column", table + "." + name, ""))
        .orElseGet(() -> new Item("table", table, ""));
  }

  /** What is made, in lines for a person. */
  public List<String> words() {
    if (made instanceof Made.NewTable table) {
      return table.shape().words();
    }
    List<String> words = new ArrayList<>();
    if (made instanceof Made.NewColumn column) {
      words.add(column.shape().words());
      column.indexes().forEach(index -> words.add(index.words()));
    }
    return words;
  }
}
