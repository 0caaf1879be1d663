package weftex.core.row;

import java.util.List;

/**
 * A declared foreign key.
 *
 * @param columns the referring columns, in the order of {@code targetColumns}
 * @param table the table referred to, without prefix
 * @param targetColumns the columns referred to
 */
public record ForeignKey(List<String> columns, String table, List<String> targetColumns) {
  public ForeignKey {
    columns = List.copyOf(columns);
    targetColumns = List.copyOf(targetColumns);
    if (columns.isEmpty() || columns.size() != targetColumns.size()) {
      throw new IllegalArgumentException("a foreign key needs as many columns as it refers to");
    }
  }
}
