package weftex.store.database;

import java.util.ArrayList;
import java.util.Collections;
import java.util.List;
import java.util.Optional;
import weftex.core.row.Column;
import weftex.core.row.Table;

/**
 * How a table is read: which columns, and in which order of keys.
 *
 * @param table the columns to read
 * @param realName with the copy's prefix
 * @param keyParts how each key column is ordered; for a table without a key, how each column is
 * @param rows a query that gives the rows, if they are not simply those of the table
 */
public record Layout(Table table, String realName, List<KeyPart> keyParts, Optional<String> rows) {
  public Layout {
    keyParts = List.copyOf(keyParts);
  }

  /** A table that is read as it is. */
  public Layout(Table table, String realName, List<KeyPart> keyParts) {
    this(table, realName, keyParts, Optional.empty());
  }

  /** A table whose rows are not merged with those of another copy, so that no key is made. */
  public static Layout alone(CatalogTable table) {
    Table shape = table.table();
    int keys = shape.hasKey() ? shape.key().size() : shape.columns().size();
    return new Layout(shape, table.realName(), Collections.nCopies(keys, KeyPart.NUMBER));
  }

  /** The same rows in some of their columns. */
  public Layout with(Table narrower) {
    return new Layout(narrower, realName, keyParts, rows);
  }

  /** What the rows are selected from. */
  public String from(Dialect dialect) {
    String name = dialect.quote(realName);
    return rows.map(query -> "(" + query + ") " + name).orElse(name);
  }

  /** Positions of the columns by which rows are ordered. */
  public List<Integer> orderColumns() {
    if (table.hasKey()) {
      return table.key();
    }
    List<Integer> all = new ArrayList<>();
    for (int i = 0; i < table.columns().size(); i++) {
      all.add(i);
    }
    return all;
  }

  /** Whether the order is that of a single whole number. */
  public boolean isByNumber() {
    return keyParts.size() == 1 && keyParts.get(0).style() == KeyPart.Style.NUMBER;
  }

  /** The SELECT of all columns and then the sort keys. */
  public String select(Dialect dialect) {
    List<String> expressions = columns(dialect);
    List<Integer> order = orderColumns();
    for (int i = 0; i < order.size(); i++) {
      if (keyParts.get(i).style() != KeyPart.Style.NUMBER) {
        expressions.add(dialect.keyExpression(table.columns().get(order.get(i)), keyParts.get(i)));
      }
    }
    return "SELECT " + String.join(", ", expressions) + " FROM " + from(dialect);
  }

  private List<String> columns(Dialect dialect) {
    List<String> expressions = new ArrayList<>();
    for (Column column : table.columns()) {
      expressions.add(dialect.readExpression(column));
    }
    return expressions;
  }

  /** The ORDER BY that goes with {@link #select}. */
  public String orderBy(Dialect dialect) {
    List<String> expressions = new ArrayList<>();
    List<Integer> order = orderColumns();
    for (int i = 0; i < order.size(); i++) {
      Column column = table.columns().get(order.get(i));
      expressions.add(
          keyParts.get(i).style() == KeyPart.Style.NUMBER
              ? dialect.quote(column.name())
              : dialect.keyExpression(column, keyParts.get(i)));
    }
    return " ORDER BY " + String.join(", ", expressions);
  }
}
