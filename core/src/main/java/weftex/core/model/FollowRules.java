package weftex.core.model;

import com.fasterxml.jackson.annotation.JsonProperty;
import java.util.List;
import java.util.Map;
import weftex.core.row.Glob;
import weftex.core.row.Value;

/**
 * What follows from an apply.
 *
 * @param steps what is left for a person
 * @param appointments rows that must be entered in a table of appointments
 * @param along rows that go along with another row's status
 * @param schemaVersions rows that say in which state the tables are
 */
public record FollowRules(
    List<StepRule> steps,
    List<AppointmentRule> appointments,
    List<AlongRule> along,
    List<SchemaVersionRule> schemaVersions) {
  public FollowRules {
    steps = Joined.given(steps);
    appointments = Joined.given(appointments);
    along = Joined.given(along);
    schemaVersions = Joined.given(schemaVersions);
  }

  FollowRules extending(FollowRules more) {
    return new FollowRules(
        Joined.lists(steps, more.steps),
        Joined.lists(appointments, more.appointments),
        Joined.lists(along, more.along),
        Joined.lists(schemaVersions, more.schemaVersions));
  }

  /**
   * What is left for a person after an apply.
   *
   * @param say the step, as a sentence
   * @param after tables of which one must have been written to; any if none is named
   * @param where values that the written row has
   */
  public record StepRule(
      @JsonProperty(required = true) String say,
      List<String> after,
      Map<String, List<String>> where,
      boolean files) {
    public StepRule {
      after = after == null ? List.of() : List.copyOf(after);
      where = where == null ? Map.of() : Map.copyOf(where);
    }

    /** Whether a written row calls for it. */
    public boolean isDue(String table, Map<String, Value> row) {
      return (after.isEmpty() || after.contains(table)) && isTold(where, row);
    }
  }

  /**
   * Rows that must be entered in a table of appointments, which is one serialised value.
   *
   * @param of the table of the rows
   * @param where values that such a row has
   * @param at the column with the time, in UTC
   * @param hook what is called then, with the row's number
   * @param in the cell that holds the appointments
   */
  public record AppointmentRule(
      @JsonProperty(required = true) String of,
      @JsonProperty(required = true) Map<String, List<String>> where,
      @JsonProperty(required = true) String at,
      @JsonProperty(required = true) String hook,
      @JsonProperty(required = true) SiteModel.AddressRule in) {
    public AppointmentRule {
      where = Map.copyOf(where);
    }

    /** Whether a row is to be entered. */
    public boolean isDue(String table, Map<String, Value> row) {
      return of.equals(table) && isTold(where, row) && row.containsKey(at);
    }
  }

  /**
   * Rows that go along with another row's status, as the CMS itself has it: the comments of a page
   * that goes into the bin.
   *
   * @param of the table of the row with the status
   * @param when values that it has then
   * @param rows which rows go along
   * @param remembered where the site keeps what they were before: a serialised map from their
   *     numbers, in a row that is there as long as the status is
   */
  public record AlongRule(
      @JsonProperty(required = true) String of,
      @JsonProperty(required = true) Map<String, List<String>> when,
      @JsonProperty(required = true) Rows rows,
      @JsonProperty(required = true) Memory remembered) {
    public AlongRule {
      when = Map.copyOf(when);
    }

    /**
     * Rows of a numbered table.
     *
     * @param by the column that refers to the row with the status
     * @param becomes what they have in {@code column} as long as it lasts
     */
    public record Rows(
        @JsonProperty(required = true) String table,
        @JsonProperty(required = true) String by,
        @JsonProperty(required = true) String column,
        @JsonProperty(required = true) String becomes) {}

    /**
     * A row of a numbered table.
     *
     * @param by the column that refers to the row with the status
     * @param where values that tell it among others
     */
    public record Memory(
        @JsonProperty(required = true) String table,
        @JsonProperty(required = true) String by,
        @JsonProperty(required = true) Map<String, String> where,
        @JsonProperty(required = true) String column) {
      public Memory {
        where = Map.copyOf(where);
      }
    }

    /** Whether a row has the status. */
    public boolean isTold(Map<String, Value> row) {
      return FollowRules.isTold(when, row);
    }
  }

  /**
   * Rows that say in which state the tables are, so that they go wherever whole tables go.
   *
   * @param where values ({@code *} and {@code ?} match) that tell them
   */
  public record SchemaVersionRule(
      @JsonProperty(required = true) String table,
      @JsonProperty(required = true) Map<String, List<String>> where) {
    public SchemaVersionRule {
      where = Map.copyOf(where);
    }
  }

  private static boolean isTold(Map<String, List<String>> where, Map<String, Value> row) {
    return where.entrySet().stream()
        .allMatch(
            entry ->
                row.containsKey(entry.getKey())
                    && entry.getValue().stream()
                        .anyMatch(p -> Glob.of(p).matches(row.get(entry.getKey()))));
  }
}
