package weftex.core.select;

import java.math.BigInteger;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.regex.Pattern;
import weftex.core.change.Change;
import weftex.core.change.Item;
import weftex.core.change.SchemaChange;
import weftex.core.change.Trace;
import weftex.core.model.Role;
import weftex.core.row.Glob;
import weftex.core.row.Table;
import weftex.core.row.Value;
import weftex.core.site.TableModel;

/**
 * Which tables, rows and things are chosen. Without any table pattern every content table is; what
 * is live's own, and noise, is only chosen by the exact name of its table or by {@code with}. Row
 * filters narrow the tables that they name.
 *
 * @param tables patterns with {@code *} and {@code ?}; empty for all content
 * @param without patterns of tables that are left out
 * @param with what is brought though it is not content: names of tables, or of kinds of things
 * @param rows filters; a row of a filtered table must pass one of that table's filters
 * @param withoutRows filters of rows that are left out
 * @param things what else there is to say of the things that rows are or belong to
 * @param members which members of structured values
 * @param newTables only tables that the target lacks, or all but those; empty for either
 */
public record Selection(
    List<String> tables,
    List<String> without,
    List<String> with,
    List<RowFilter> rows,
    List<RowFilter> withoutRows,
    ThingFilter things,
    MemberFilter members,
    Optional<Boolean> newTables) {

  /** Everything that is content. */
  public static final Selection CONTENT =
      new Selection(
          List.of(),
          List.of(),
          List.of(),
          List.of(),
          List.of(),
          ThingFilter.ALL,
          MemberFilter.ALL,
          Optional.empty());

  public Selection {
    tables = List.copyOf(tables);
    without = List.copyOf(without);
    with = List.copyOf(with);
    rows = List.copyOf(rows);
    withoutRows = List.copyOf(withoutRows);
  }

  /** The same, of one table alone. */
  public Selection of(String table) {
    return new Selection(
        List.of(table), List.of(), with, rows, withoutRows, things, members, Optional.empty());
  }

  /**
   * Some rows of a table: {@code posts:12}, {@code posts:12-20}, {@code options:blogname} or {@code
   * posts.post_status=draft}; values may hold {@code *} and {@code ?}.
   *
   * @param column empty for the table's key
   * @param first the value, or the first of a range of whole numbers
   * @param last the last of the range; empty for one value
   */
  public record RowFilter(String table, String column, String first, Optional<String> last) {

    private static final Pattern BY_VALUE =
        Pattern.compile("([^.:=]+)\\.([^=:]+)=(.*)", Pattern.DOTALL);
    private static final Pattern BY_KEY = Pattern.compile("([^.:=]+):(.+)", Pattern.DOTALL);
    private static final Pattern RANGE = Pattern.compile("(\\d+)-(\\d+)");

    /**
     * Reads the written form; a list of keys gives several filters.
     *
     * @throws IllegalArgumentException with a sentence, if it is not of that form
     */
    public static List<RowFilter> parse(String text) {
      var byValue = BY_VALUE.matcher(text);
      if (byValue.matches()) {
        return List.of(
            new RowFilter(byValue.group(1), byValue.group(2), byValue.group(3), Optional.empty()));
      }
      var byKey = BY_KEY.matcher(text);
      if (!byKey.matches()) {
        throw new IllegalArgumentException(
            "'"
                + text
                + "' names no rows: write table:key, table:first-last or table.column=value");
      }
      List<RowFilter> filters = new ArrayList<>();
      for (String key : byKey.group(2).split(",")) {
        var range = RANGE.matcher(key.strip());
        filters.add(
            range.matches()
                ? new RowFilter(byKey.group(1), "", range.group(1), Optional.of(range.group(2)))
                : new RowFilter(byKey.group(1), "", key.strip(), Optional.empty()));
      }
      return filters;
    }

    boolean accepts(Table shape, List<Value> values) {
      if (column.isEmpty()) {
        return shape.key().stream().map(values::get).anyMatch(this::accepts);
      }
      return shape.position(column).map(i -> accepts(values.get(i))).orElse(false);
    }

    /** Whether a row is meant that is known by its columns. */
    boolean accepts(String ofTable, Map<String, Value> key, Map<String, Value> values) {
      if (!table.equals(ofTable)) {
        return false;
      }
      if (column.isEmpty()) {
        return key.values().stream().anyMatch(this::accepts);
      }
      Value value = values.getOrDefault(column, key.get(column));
      return value != null && accepts(value);
    }

    private boolean accepts(Value value) {
      if (last.isPresent()) {
        return value instanceof Value.Whole whole
            && whole.number().compareTo(new BigInteger(first)) >= 0
            && whole.number().compareTo(new BigInteger(last.get())) <= 0;
      }
      return Glob.matches(first, value.display());
    }
  }

  /** Whether rows of a table are chosen, as far as the table says it. */
  public boolean chooses(TableModel model) {
    return isIncluded(model)
        && (model.ownership().role() == Role.CONTENT
            || tables.contains(model.table().name())
            || brings(model, model.ownership().role(), Optional.empty()));
  }

  /** Whether a table is chosen for itself, whatever its rows. */
  public boolean choosesWhole(TableModel model) {
    return isIncluded(model) && !things.picks() && (rows.isEmpty() || !tables.isEmpty());
  }

  /** Whether a table is chosen by being new on the target, or not. */
  public boolean choosesTable(boolean isNew) {
    return newTables.map(wanted -> wanted == isNew).orElse(true);
  }

  /** Whether a row that is not content is brought all the same. */
  private boolean brings(TableModel model, Role role, Optional<Item> item) {
    // Naming a table brings what the whole table is; its noisy rows are named by what they are.
    String table = role == model.ownership().role() ? model.table().name() : "";
    return with.stream()
        .anyMatch(
            pattern ->
                !table.isEmpty() && Glob.matches(pattern, table)
                    || role != Role.CONTENT && pattern.equals(role.words())
                    || item.map(thing -> isCalled(pattern, thing)).orElse(false));
  }

  /** Whether a column that never travels is asked for by name. */
  public boolean asksFor(String table, String column) {
    return with.contains(table + "." + column);
  }

  /** Whether a pattern is that of a thing: its kind, or its kind and name. */
  private static boolean isCalled(String pattern, Item thing) {
    int colon = pattern.indexOf(':');
    String kind = colon < 0 ? pattern : pattern.substring(0, colon);
    return (Glob.matches(kind, thing.kind()) || Glob.matches(kind, thing.kind() + "s"))
        && (colon < 0 || Glob.matches(pattern.substring(colon + 1), thing.name()));
  }

  private boolean isIncluded(TableModel model) {
    return isIncluded(model.table().name());
  }

  private boolean isIncluded(String name) {
    boolean included = tables.isEmpty() || tables.stream().anyMatch(p -> Glob.matches(p, name));
    return included && without.stream().noneMatch(p -> Glob.matches(p, name));
  }

  /**
   * Whether a row stays out only because of whose it is.
   *
   * @param role whose it is
   * @param item the thing that it is or belongs to; empty if nobody says
   */
  public boolean leavesOut(TableModel model, Role role, Optional<Item> item) {
    boolean byExactName = tables.contains(model.table().name()) && role == model.ownership().role();
    return role != Role.CONTENT && !byExactName && !brings(model, role, item);
  }

  /**
   * Whether a row is chosen, whosever it is.
   *
   * @param values its values on the source, or on the target if the source has removed it
   */
  public boolean chooses(TableModel model, List<Value> values) {
    if (!isIncluded(model)
        || withoutRows.stream()
            .anyMatch(
                filter ->
                    filter.table().equals(model.table().name())
                        && filter.accepts(model.table(), values))) {
      return false;
    }
    List<RowFilter> own =
        rows.stream().filter(filter -> filter.table().equals(model.table().name())).toList();
    if (own.isEmpty()) {
      return rows.isEmpty() || !tables.isEmpty();
    }
    return own.stream().anyMatch(filter -> filter.accepts(model.table(), values));
  }

  /**
   * Every table pattern that is written in this selection, for saying which of them match nothing.
   */
  public List<String> writtenPatterns() {
    List<String> written = new ArrayList<>(tables);
    written.addAll(without);
    rows.forEach(filter -> written.add(filter.table()));
    withoutRows.forEach(filter -> written.add(filter.table()));
    return written;
  }

  /** Whether rows are chosen or left out by what is in their columns. */
  public boolean asksForValues() {
    return !rows.isEmpty() || !withoutRows.isEmpty();
  }

  /**
   * Whether a change of a change set is chosen.
   *
   * @param values of its row, if {@link #asksForValues}
   * @param ofNewTable whether its table is made by the same change set
   */
  public boolean chooses(Change change, Map<String, Value> values, boolean ofNewTable) {
    if (!isIncluded(change.table()) || !choosesTable(ofNewTable)) {
      return false;
    }
    if (withoutRows.stream().anyMatch(f -> f.accepts(change.table(), change.key(), values))) {
      return false;
    }
    List<RowFilter> own =
        rows.stream().filter(filter -> filter.table().equals(change.table())).toList();
    boolean byRow =
        own.isEmpty()
            ? rows.isEmpty() || !tables.isEmpty()
            : own.stream().anyMatch(f -> f.accepts(change.table(), change.key(), values));
    return byRow && things.accepts(change.item(), change.trace());
  }

  /** Whether a new table or column of a change set is chosen. */
  public boolean chooses(SchemaChange change) {
    return isIncluded(change.table())
        && choosesTable(change.column().isEmpty())
        && rows.isEmpty()
        && things.accepts(Optional.of(change.item()), Trace.NONE);
  }
}
