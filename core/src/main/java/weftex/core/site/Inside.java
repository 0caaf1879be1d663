package weftex.core.site;

import java.util.List;
import java.util.Map;
import java.util.Optional;
import weftex.core.model.PlaceRule;
import weftex.core.row.Value;
import weftex.core.value.Format;

/**
 * What is inside a column's values, resolved to positions.
 *
 * @param column the column
 * @param when tells the rows for which it holds
 * @param sibling the row that must be there
 * @param format how the values are written
 * @param places where numbers of rows stand, those of running text included
 * @param sets paths of lists whose order means nothing
 * @param units paths of members that are one thing
 * @param guessed whether no model says it, but the names of members
 */
public record Inside(
    int column,
    Condition when,
    Optional<Sibling> sibling,
    Format format,
    List<PlaceRule> places,
    List<String> sets,
    List<String> units,
    boolean guessed) {

  /**
   * A row of the same table.
   *
   * @param same positions in which it equals this row
   * @param with positions and values that it has there
   */
  public record Sibling(List<Integer> same, Map<Integer, String> with) {}

  public Inside {
    places = List.copyOf(places);
    sets = List.copyOf(sets);
    units = List.copyOf(units);
  }

  /** Whether it holds for a row with these values, as far as the row itself says. */
  public boolean holdsFor(List<Value> row) {
    return when.holdsFor(row);
  }
}
