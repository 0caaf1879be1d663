package weftex.core.site;

import com.fasterxml.jackson.annotation.JsonIgnore;
import com.fasterxml.jackson.annotation.JsonProperty;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.function.BinaryOperator;
import java.util.stream.Stream;

/**
 * What a model says of a table.
 *
 * @param role whose its rows are; content if nobody says
 * @param number the column that numbers the rows, where the schema does not show it; empty if none
 * @param identity columns by which two rows are the same thing whatever their number; a row in
 *     which one of them is empty has no identity
 * @param identityIn columns of another table that belong to the identity; null for none
 * @param identityUnless rows that have no identity: column to patterns
 * @param references columns that hold the number of a row elsewhere
 * @param stays rows that belong to their copy and never travel: column to patterns
 * @param inside what is inside the values of a column
 * @param permanent columns that identify a row for the outside world: left alone where the target
 *     has the row
 * @param item how a person calls a row; null if the table's rows have no name of their own
 * @param partOf the column that refers to the row of another table that these rows are a part of
 * @param partThrough rows that are a part of something by a row of a table of links; null for none
 * @param word what such a part is called, such as {@code detail}
 * @param columns columns that are not merged like others
 * @param rows rows that are somebody else's than the table's; the first that holds counts
 * @param counters columns that hold how many rows there are elsewhere
 * @param secret columns that never travel unless they are asked for by name
 * @param clear values that are made empty on the target after an apply
 * @param files columns that name files of the copy
 * @param personal columns of personal data, which a report leaves out
 * @param prefixed columns of names that may begin with the copy's own prefix of table names
 * @param masked columns of personal data whose values on staging are made up; no model says that
 */
public record TableRule(
    Role role,
    String number,
    List<String> identity,
    IdentityInRule identityIn,
    Map<String, List<String>> identityUnless,
    Map<String, ReferenceRule> references,
    Map<String, List<String>> stays,
    Map<String, List<InsideRule>> inside,
    List<String> permanent,
    ItemRule item,
    String partOf,
    PartThroughRule partThrough,
    String word,
    Map<String, ColumnRule> columns,
    List<RowRule> rows,
    Map<String, CounterRule> counters,
    List<String> secret,
    List<ClearRule> clear,
    List<FileRule> files,
    List<PersonalRule> personal,
    Map<String, PrefixRule> prefixed,
    @JsonIgnore List<PersonalRule> masked) {

  static final TableRule NONE =
      new TableRule(
          null, null, null, null, null, null, null, null, null, null, null, null, null, null, null,
          null, null, null, null, null, null, null);

  public TableRule {
    number = number == null ? "" : number;
    identity = identity == null ? List.of() : List.copyOf(identity);
    identityUnless = identityUnless == null ? Map.of() : Map.copyOf(identityUnless);
    references = references == null ? Map.of() : Map.copyOf(references);
    stays = stays == null ? Map.of() : Map.copyOf(stays);
    inside = inside == null ? Map.of() : Map.copyOf(inside);
    permanent = permanent == null ? List.of() : List.copyOf(permanent);
    partOf = partOf == null ? "" : partOf;
    word = word == null ? "" : word;
    columns = columns == null ? Map.of() : Map.copyOf(columns);
    rows = rows == null ? List.of() : List.copyOf(rows);
    counters = counters == null ? Map.of() : Map.copyOf(counters);
    secret = secret == null ? List.of() : List.copyOf(secret);
    clear = clear == null ? List.of() : List.copyOf(clear);
    files = files == null ? List.of() : List.copyOf(files);
    personal = personal == null ? List.of() : List.copyOf(personal);
    prefixed = prefixed == null ? Map.of() : Map.copyOf(prefixed);
    masked = masked == null ? List.of() : List.copyOf(masked);
  }

  /** Whose the table's rows are, unless a rule for rows says otherwise. */
  public Role roleOrContent() {
    return role == null ? Role.CONTENT : role;
  }

  /**
   * A reference that the schema does not declare.
   *
   * @param to the table referred to, without prefix
   * @param column the column there; empty for its key
   * @param unset the value that refers to nothing, such as {@code 0}; empty if only NULL does
   */
  public record ReferenceRule(
      @JsonProperty(required = true) String to, String column, String unset) {
    public ReferenceRule {
      column = column == null ? "" : column;
      unset = unset == null ? "" : unset;
    }
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

  /**
   * Rows that are a part of something by a row of a table of links.
   *
   * @param when columns and the values that tell these rows
   * @param table the table of links
   * @param from its column that holds the part's key
   * @param to its column that refers to what it is a part of
   * @param word what such a part is called, such as {@code entry}
   */
  public record PartThroughRule(
      @JsonProperty(required = true) Map<String, List<String>> when,
      @JsonProperty(required = true) String table,
      @JsonProperty(required = true) String from,
      @JsonProperty(required = true) String to,
      @JsonProperty(required = true) String word) {
    public PartThroughRule {
      when = Map.copyOf(when);
    }
  }

  /**
   * A row of another table without which a row is not known: a term is its slug and its use.
   *
   * @param table the other table
   * @param by its column that refers to these rows
   * @param columns its columns that belong to the identity
   */
  public record IdentityInRule(
      @JsonProperty(required = true) String table,
      @JsonProperty(required = true) String by,
      @JsonProperty(required = true) List<String> columns) {
    public IdentityInRule {
      columns = List.copyOf(columns);
    }
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
      where = where == null ? Map.of() : Map.copyOf(where);
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
        where = where == null ? Map.of() : Map.copyOf(where);
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
      when = when == null ? Map.of() : Map.copyOf(when);
      of = of == null ? "" : of;
      if (when.isEmpty() && of.isEmpty()) {
        throw new IllegalArgumentException("'clear' needs 'when' or 'of' to tell its rows");
      }
      after = after == null ? List.of() : List.copyOf(after);
    }
  }

  /**
   * Names that may begin with the copy's own prefix of table names, which is another one on the
   * other copy.
   *
   * @param names what stands behind the prefix in names that always have it; {@code *} and {@code
   *     ?} match
   * @param except names that begin so on every copy
   */
  public record PrefixRule(List<String> names, List<String> except) {
    public PrefixRule {
      names = names == null ? List.of() : List.copyOf(names);
      except = except == null ? List.of() : List.copyOf(except);
    }

    /** A name of one copy as the other has it. */
    public String mapped(String name, String from, String into) {
      if (!name.startsWith(from)) {
        return name;
      }
      String rest = name.substring(from.length());
      boolean always = names.stream().anyMatch(pattern -> Glob.matches(pattern, rest));
      return always || except.stream().noneMatch(pattern -> Glob.matches(pattern, name))
          ? into + rest
          : name;
    }
  }

  /** Whether it says what its rows mean, and not only whose they are. */
  boolean describes() {
    TableRule whose =
        new TableRule(
            role, null, null, null, null, null, stays, null, null, null, null, null, null, null,
            rows, null, null, null, null, personal, null, null);
    return !equals(whose);
  }

  /** The same with a word on whose its rows are. */
  TableRule withRole(Role said) {
    return extending(
        new TableRule(
            said, null, null, null, null, null, null, null, null, null, null, null, null, null,
            null, null, null, null, null, null, null, null));
  }

  /** The same with more rows that belong to their copy. */
  TableRule withStays(Map<String, List<String>> more) {
    return extending(
        new TableRule(
            null, null, null, null, null, null, more, null, null, null, null, null, null, null,
            null, null, null, null, null, null, null, null));
  }

  /** The same with columns whose values on one copy are made up. */
  TableRule withMasked(List<PersonalRule> made) {
    return extending(
        new TableRule(
            null, null, null, null, null, null, null, null, null, null, null, null, null, null,
            null, null, null, null, null, null, null, made));
  }

  /** This rule with what another says, too; where both say one thing, the other's counts. */
  TableRule extending(TableRule more) {
    return new TableRule(
        more.role == null ? role : more.role,
        more.number.isEmpty() ? number : more.number,
        more.identity.isEmpty() ? identity : more.identity,
        more.identityIn == null ? identityIn : more.identityIn,
        both(identityUnless, more.identityUnless, TableRule::joined),
        both(references, more.references, (one, other) -> other),
        both(stays, more.stays, TableRule::joined),
        both(inside, more.inside, TableRule::joined),
        joined(permanent, more.permanent),
        more.item == null ? item : more.item,
        more.partOf.isEmpty() ? partOf : more.partOf,
        more.partThrough == null ? partThrough : more.partThrough,
        more.word.isEmpty() ? word : more.word,
        both(columns, more.columns, (one, other) -> other),
        joined(more.rows, rows),
        both(counters, more.counters, (one, other) -> other),
        joined(secret, more.secret),
        joined(clear, more.clear),
        joined(files, more.files),
        joined(personal, more.personal),
        both(prefixed, more.prefixed, (one, other) -> other),
        joined(masked, more.masked));
  }

  private static <T> List<T> joined(List<T> one, List<T> other) {
    return Stream.concat(one.stream(), other.stream()).distinct().toList();
  }

  private static <T> Map<String, T> both(
      Map<String, T> one, Map<String, T> other, BinaryOperator<T> where) {
    Map<String, T> all = new LinkedHashMap<>(one);
    new HashMap<>(other).forEach((key, value) -> all.merge(key, value, where));
    return all;
  }
}
