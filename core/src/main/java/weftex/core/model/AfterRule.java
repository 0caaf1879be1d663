package weftex.core.model;

import com.fasterxml.jackson.annotation.JsonProperty;
import java.util.List;
import java.util.Map;

/**
 * What follows from an apply in a table.
 *
 * @param counters columns that hold how many rows there are elsewhere
 * @param clear values that are made empty on the target
 */
public record AfterRule(Map<String, CounterRule> counters, List<ClearRule> clear) {
  static final AfterRule NONE = new AfterRule(null, null);

  public AfterRule {
    counters = Joined.given(counters);
    clear = Joined.given(clear);
  }

  /**
   * What a counter counts.
   *
   * @param of the table whose rows are counted
   * @param by its column that holds the key of the counting row
   * @param where values of its columns that a counted row has
   * @param through another table that a counted row must refer to; null for none
   */
  public record CounterRule(
      @JsonProperty(required = true) String of,
      @JsonProperty(required = true) String by,
      Map<String, List<String>> where,
      Through through) {
    public CounterRule {
      where = Joined.given(where);
    }

    /**
     * A row that a counted row refers to.
     *
     * @param column of the counted row
     * @param to the table it refers to by its key
     * @param where values that the row there has
     */
    public record Through(
        @JsonProperty(required = true) String column,
        @JsonProperty(required = true) String to,
        Map<String, List<String>> where) {
      public Through {
        where = Joined.given(where);
      }
    }
  }

  /**
   * Values that are made empty after an apply, since the site makes them anew. Their rows never
   * travel.
   *
   * @param when columns and the values that tell the rows; all rows if empty
   * @param column what is made empty
   * @param after tables of which one must have been written to; any if none is named
   * @param of a column that refers: only rows that refer to a row that was written, or of which a
   *     part was; empty for all
   */
  public record ClearRule(
      Map<String, List<String>> when,
      @JsonProperty(required = true) String column,
      List<String> after,
      String of) {
    public ClearRule {
      when = Joined.given(when);
      of = Joined.given(of);
      if (when.isEmpty() && of.isEmpty()) {
        throw new IllegalArgumentException("'clear' needs 'when' or 'of' to tell its rows");
      }
      after = Joined.given(after);
    }
  }

  AfterRule extending(AfterRule more) {
    return new AfterRule(Joined.maps(counters, more.counters), Joined.lists(clear, more.clear));
  }
}
