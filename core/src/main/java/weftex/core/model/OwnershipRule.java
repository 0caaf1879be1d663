package weftex.core.model;

import com.fasterxml.jackson.annotation.JsonProperty;
import java.util.List;
import java.util.Map;

/**
 * Whose the rows of a table are, and what of them never travels.
 *
 * @param role whose its rows are; null if nobody says
 * @param stays rows that belong to their copy and never travel: column to patterns
 * @param rows rows that are somebody else's than the table's; the first that holds counts
 * @param secret columns that never travel unless they are asked for by name
 */
public record OwnershipRule(
    Role role, Map<String, List<String>> stays, List<RowRule> rows, List<String> secret) {
  static final OwnershipRule NONE = new OwnershipRule(null, null, null, null);

  public OwnershipRule {
    stays = Joined.given(stays);
    rows = Joined.given(rows);
    secret = Joined.given(secret);
  }

  /**
   * Rows that are somebody else's than the rest of their table.
   *
   * @param when columns and the values ({@code *} and {@code ?} match) that tell these rows
   * @param role whose they are
   * @param onlyNew whether that holds for added rows alone: what is in the bin of one copy and was
   *     there before is not
   */
  public record RowRule(
      @JsonProperty(required = true) Map<String, List<String>> when,
      @JsonProperty(required = true) Role role,
      boolean onlyNew) {
    public RowRule {
      when = Map.copyOf(when);
    }
  }

  /** Whose the rows are, unless a rule for rows says otherwise; content if nobody says. */
  public Role roleOrContent() {
    return role == null ? Role.CONTENT : role;
  }

  OwnershipRule withRole(Role said) {
    return new OwnershipRule(said, stays, rows, secret);
  }

  OwnershipRule withStays(Map<String, List<String>> more) {
    return new OwnershipRule(role, Joined.maps(stays, more, Joined::lists), rows, secret);
  }

  /** Its own rules for rows come last: the first that holds counts. */
  OwnershipRule extending(OwnershipRule more) {
    return new OwnershipRule(
        more.role == null ? role : more.role,
        Joined.maps(stays, more.stays, Joined::lists),
        Joined.lists(more.rows, rows),
        Joined.lists(secret, more.secret));
  }
}
