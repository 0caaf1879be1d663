package weftex.store.dump;

import java.util.List;
import weftex.store.database.CatalogTable;

/**
 * What there is to save of a copy.
 *
 * @param tables in the order of their names
 * @param others what is made after the rows: indexes that stand apart, views, triggers
 * @param left what is not saved, in words
 */
public record SavedContents(List<SavedTable> tables, List<Piece> others, List<String> left) {

  /**
   * A table.
   *
   * @param create the statement that makes it, without its rows
   * @param rows the query of its rows, by the columns of its shape; none if it has none of its own
   */
  public record SavedTable(CatalogTable table, String create) {
    public String name() {
      return table.realName();
    }
  }

  /**
   * Something that is made by one statement.
   *
   * @param drop the statement that takes an older one away; empty if that goes with its table
   * @param delimited whether the statement has semicolons within
   */
  public record Piece(Kind kind, String name, String drop, String create, boolean delimited) {}

  /** What a piece is. */
  public enum Kind {
    INDEX,
    VIEW,
    TRIGGER,
    SETTING
  }
}
