package weftex.core.changeset;

import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import weftex.core.merge.ConflictKind;
import weftex.core.row.RowName;
import weftex.core.row.Value;

/**
 * One change of one row of the target. Maps go from column to value, in the table's column order.
 *
 * @param id its number in the change set, from 1
 * @param table without prefix
 * @param key the row's key on the target; for an added row, the key that it has on the source
 * @param before the target's row as it was seen; empty for an added row
 * @param after the whole row for an added one, the changed columns for an updated one, else empty.
 *     Clashing columns are not in here but in {@code conflicts}
 * @param drafted the source's own values, in the target's terms, of columns that get others: merged
 *     inside, clashing, or decided, unless a conflict has the same, see {@link #own}
 * @param conflicts what needs a decision
 * @param fresh the name by which other changes refer to this added, numbered row
 * @param renumbered whether the row's own number is taken on the target
 * @param offered whether the change was not chosen but is needed by one that was: it is left out
 *     until somebody decides to bring it along
 * @param with the change of the thing that this row is a part of or goes with; if that is not made,
 *     this one is left out without a question
 * @param alongWith the chosen change that needs this one, if nobody chose this one by itself
 * @param needs changes without which this one can't be made
 * @param item the thing that the row is or belongs to, if the site model names one
 * @param hangers for a removed row: how many rows of the target refer to it and stay, by reference
 * @param trace where its thing is seen, and who last worked on it
 */
public record RowChange(
    int id,
    Action action,
    String table,
    Map<String, Value> key,
    Map<String, Value> before,
    Map<String, Value> after,
    Map<String, Value> drafted,
    List<Conflict> conflicts,
    Optional<RowName> fresh,
    boolean renumbered,
    boolean offered,
    Optional<Integer> with,
    Optional<Integer> alongWith,
    List<Need> needs,
    Map<Hanger, Long> hangers,
    Optional<Item> item,
    Trace trace) {

  public RowChange {
    conflicts = List.copyOf(conflicts);
    needs = List.copyOf(needs);
  }

  /** A change in which every column that is written gets the source's own value. */
  public RowChange(
      int id,
      Action action,
      String table,
      Map<String, Value> key,
      Map<String, Value> before,
      Map<String, Value> after,
      List<Conflict> conflicts,
      Optional<RowName> fresh,
      boolean renumbered,
      boolean offered,
      Optional<Integer> with,
      Optional<Integer> alongWith,
      List<Need> needs,
      Map<Hanger, Long> hangers,
      Optional<Item> item,
      Trace trace) {
    this(
        id,
        action,
        table,
        key,
        before,
        after,
        Map.of(),
        conflicts,
        fresh,
        renumbered,
        offered,
        with,
        alongWith,
        needs,
        hangers,
        item,
        trace);
  }

  /**
   * A change without which another can't be made.
   *
   * @param change its id
   * @param orElse what the other one is in conflict with if it is left out
   * @param columns the columns of the other one that need it; empty if all of it does
   */
  public record Need(int change, ConflictKind orElse, List<String> columns) {
    public Need {
      columns = List.copyOf(columns);
    }
  }

  /**
   * A reference by which rows hang on a removed one, written {@code comments.post_id=ID}.
   *
   * @param table the table that refers
   * @param columns its columns
   * @param targetColumns the columns of the removed row that they equal, in the same order
   */
  public record Hanger(String table, List<String> columns, List<String> targetColumns) {

    /** Reads the written form. */
    public static Hanger parse(String text) {
      int equals = text.indexOf('=');
      int dot = text.indexOf('.');
      if (dot < 1 || equals < dot) {
        throw new IllegalArgumentException("not a reference: " + text);
      }
      return new Hanger(
          text.substring(0, dot),
          List.of(text.substring(dot + 1, equals).split("\\+")),
          List.of(text.substring(equals + 1).split("\\+")));
    }

    @Override
    public String toString() {
      return table + "." + String.join("+", columns) + "=" + String.join("+", targetColumns);
    }
  }

  /** The same change with other values. */
  public RowChange withValues(
      Map<String, Value> newBefore, Map<String, Value> newAfter, List<Conflict> newConflicts) {
    return new RowChange(
        id,
        action,
        table,
        key,
        newBefore,
        newAfter,
        drafted,
        newConflicts,
        fresh,
        renumbered,
        offered,
        with,
        alongWith,
        needs,
        hangers,
        item,
        trace);
  }

  /** The same change with what the source has in columns that get other values. */
  public RowChange withDrafted(Map<String, Value> values) {
    return new RowChange(
        id,
        action,
        table,
        key,
        before,
        after,
        values,
        conflicts,
        fresh,
        renumbered,
        offered,
        with,
        alongWith,
        needs,
        hangers,
        item,
        trace);
  }

  /**
   * The source's own values, in the target's terms, of columns that get others or on which both
   * copies clash. The base gets them once that is settled.
   */
  public Map<String, Value> own() {
    Map<String, Value> own = new LinkedHashMap<>(drafted);
    for (Conflict conflict : conflicts) {
      if (conflict.kind().isClash()) {
        conflict.source().forEach(own::putIfAbsent);
      }
    }
    return own;
  }

  /** The thing that the row is or belongs to; if no model names one, the row by its table. */
  public Item thing() {
    return item.orElseGet(() -> new Item("row of " + table, keyText(), ""));
  }

  /** The key as a person writes it: {@code 12} or {@code 12, 4}. */
  public String keyText() {
    return String.join(", ", key.values().stream().map(Value::display).toList());
  }
}
