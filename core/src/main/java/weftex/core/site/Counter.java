package weftex.core.site;

import java.util.List;
import java.util.Map;
import java.util.Optional;

/**
 * A column that holds how many rows there are elsewhere, resolved as far as tables are there.
 *
 * @param column its position
 * @param of the table whose rows are counted
 * @param by position there of the column that holds the key of the counting row
 * @param where positions there and the values of which a counted row has one
 * @param through a row that a counted row must refer to
 */
public record Counter(
    int column, String of, int by, Map<Integer, List<String>> where, Optional<Through> through) {

  public Counter {
    where = Map.copyOf(where);
  }

  /**
   * A row that a counted row refers to by its key.
   *
   * @param column position in the counted table
   * @param to the table referred to
   * @param where positions there and the values of which the row has one
   */
  public record Through(int column, String to, Map<Integer, List<String>> where) {
    public Through {
      where = Map.copyOf(where);
    }
  }
}
