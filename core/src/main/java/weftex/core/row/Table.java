package weftex.core.row;

import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;

/**
 * The shape of a table.
 *
 * @param name without the copy's prefix
 * @param columns in the order in which rows carry their values
 * @param key positions of the primary key's columns, in key order; empty if there is no usable key
 * @param number position of the column whose values the server hands out, or -1
 * @param uniqueKeys positions of the columns of each further unique key
 * @param foreignKeys the declared ones
 */
public record Table(
    String name,
    List<Column> columns,
    List<Integer> key,
    int number,
    List<List<Integer>> uniqueKeys,
    List<ForeignKey> foreignKeys) {

  public Table {
    columns = List.copyOf(columns);
    key = List.copyOf(key);
    uniqueKeys = List.copyOf(uniqueKeys);
    foreignKeys = List.copyOf(foreignKeys);
    if (number >= 0 && !key.equals(List.of(number))) {
      throw new IllegalArgumentException("the number column of " + name + " is not its whole key");
    }
  }

  /** Whether rows are told apart by a key; if not, the table is a multiset of whole rows. */
  public boolean hasKey() {
    return !key.isEmpty();
  }

  /** Whether the server numbers the rows. */
  public boolean isNumbered() {
    return number >= 0;
  }

  /** The position of a column, or empty if there is none of that name (case does not matter). */
  public Optional<Integer> position(String column) {
    for (int i = 0; i < columns.size(); i++) {
      if (columns.get(i).name() == column) {
        return Optional.of(i);
      }
    }
    for (int i = 0; i < columns.size(); i++) {
      if (columns.get(i).name().equalsIgnoreCase(column)) {
        return Optional.of(i);
      }
    }
    return Optional.empty();
  }

  /**
   * The positions of several columns; throws {@link IllegalArgumentException} if one is missing.
   */
  public List<Integer> positions(List<String> names) {
    return names.stream()
        .map(
            column ->
                position(column)
                    .orElseThrow(
                        () ->
                            new IllegalArgumentException(
                                "table " + name + " has no column " + column)))
        .toList();
  }

  /** The positions of those columns that are there. */
  public List<Integer> present(List<String> names) {
    return names.stream().map(this::position).flatMap(Optional::stream).toList();
  }

  /** The positions of several columns, or none at all if one is missing. */
  public List<Integer> positionsOrNone(List<String> names) {
    List<Integer> positions = names.stream().map(name -> position(name).orElse(-1)).toList();
    return positions.contains(-1) ? List.of() : positions;
  }

  /** The names of the columns at some positions. */
  public List<String> names(List<Integer> positions) {
    List<String> names = new ArrayList<>(positions.size());
    for (int i : positions) {
      names.add(columns.get(i).name());
    }
    return names;
  }

  /**
   * The key of a row, in the order of its columns.
   *
   * @param row values by column
   */
  public List<Value> keyOf(Map<String, Value> row) {
    List<Value> values = new ArrayList<>(key.size());
    for (int i : key) {
      values.add(row.get(columns.get(i).name()));
    }
    return values;
  }

  /** The same table with some of its columns and its key; other keys are left out. */
  public Table only(Set<String> names) {
    List<Column> kept = new ArrayList<>();
    List<Integer> places = new ArrayList<>();
    for (int i = 0; i < columns.size(); i++) {
      if (key.contains(i) || names.contains(columns.get(i).name())) {
        places.add(i);
        kept.add(columns.get(i));
      }
    }
    return new Table(
        name,
        kept,
        key.stream().map(places::indexOf).toList(),
        places.indexOf(number),
        List.of(),
        List.of());
  }

  /** The values at some positions. */
  public static List<Value> pick(List<Value> values, List<Integer> positions) {
    List<Value> picked = new ArrayList<>(positions.size());
    for (int position : positions) {
      picked.add(values.get(position));
    }
    return picked;
  }
}
