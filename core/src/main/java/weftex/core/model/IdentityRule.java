package weftex.core.model;

import com.fasterxml.jackson.annotation.JsonProperty;
import java.util.List;
import java.util.Map;

/**
 * By what two rows of a table are the same thing, whatever their numbers.
 *
 * @param columns the columns; a row in which one of them is empty has no identity
 * @param in columns of another table that belong to the identity; null for none
 * @param unless rows that have no identity: column to patterns
 */
public record IdentityRule(List<String> columns, In in, Map<String, List<String>> unless) {
  static final IdentityRule NONE = new IdentityRule(null, null, null);

  public IdentityRule {
    columns = Joined.given(columns);
    unless = Joined.given(unless);
  }

  /**
   * A row of another table without which a row is not known: a term is its slug and its use.
   *
   * @param table the other table
   * @param by its column that refers to these rows
   * @param columns its columns that belong to the identity
   */
  public record In(
      @JsonProperty(required = true) String table,
      @JsonProperty(required = true) String by,
      @JsonProperty(required = true) List<String> columns) {
    public In {
      columns = List.copyOf(columns);
    }
  }

  IdentityRule extending(IdentityRule more) {
    return new IdentityRule(
        more.columns.isEmpty() ? columns : more.columns,
        more.in == null ? in : more.in,
        Joined.maps(unless, more.unless, Joined::lists));
  }
}
