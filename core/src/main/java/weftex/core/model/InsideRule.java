package weftex.core.model;

import java.util.List;
import java.util.Map;
import weftex.core.value.Format;

/**
 * What is inside a column's values, as a model file says it.
 *
 * @param when the rule holds for rows whose columns have one of these values ({@code *} and {@code
 *     ?} match); for all rows if empty
 * @param sibling the rule holds only if another row says so
 * @param format how the values are written; detected if nobody says
 * @param refers where numbers of rows stand
 * @param markup whether the model's {@code markup} places hold here too
 * @param sets paths of lists whose order means nothing
 * @param units paths of members that are one thing: what both copies changed there is never mixed
 */
public record InsideRule(
    Map<String, List<String>> when,
    SiblingRule sibling,
    Format format,
    List<PlaceRule> refers,
    boolean markup,
    List<String> sets,
    List<String> units) {

  public InsideRule {
    when = when == null ? Map.of() : Map.copyOf(when);
    format = format == null ? Format.AUTO : format;
    refers = refers == null ? List.of() : List.copyOf(refers);
    sets = sets == null ? List.of() : List.copyOf(sets);
    units = units == null ? List.of() : List.copyOf(units);
  }

  /**
   * Another row of the same table that must be there.
   *
   * @param same columns in which it equals this row
   * @param with values that it has in other columns
   */
  public record SiblingRule(List<String> same, Map<String, String> with) {
    public SiblingRule {
      same = same == null ? List.of() : List.copyOf(same);
      with = with == null ? Map.of() : Map.copyOf(with);
      if (same.isEmpty() || with.isEmpty()) {
        throw new IllegalArgumentException(
            "'sibling' needs 'same' (columns) and 'with' (values of other columns)");
      }
    }
  }
}
