package weftex.cli.screen;

import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import weftex.cli.paint.Line;
import weftex.core.change.Review;

/** The things of a desk that are listed, under headings of their kinds, and where the reader is. */
final class Listing {
  private final Desk desk;
  private Filter filter = Filter.ALL;
  private String find = "";
  private List<Row> rows = List.of();
  private int selected;

  Listing(Desk desk) {
    this.desk = desk;
  }

  /**
   * A row of the list.
   *
   * @param thing empty for the heading of a kind
   * @param things those that a decision here is about
   */
  record Row(String kind, Optional<Thing> thing, List<Thing> things) {}

  List<Row> rows() {
    return rows;
  }

  int selected() {
    return selected;
  }

  Filter filter() {
    return filter;
  }

  String find() {
    return find;
  }

  /** The row at which the reader is; empty if nothing is listed. */
  Optional<Row> row() {
    return rows.isEmpty() ? Optional.empty() : Optional.of(rows.get(selected));
  }

  void move(int by) {
    moveTo(selected + by);
  }

  void moveTo(int row) {
    selected = Math.max(0, Math.min(rows.size() - 1, row));
  }

  void filter(Filter next) {
    filter = next;
    list();
  }

  void find(String text) {
    find = text.strip().toLowerCase(Locale.ROOT);
    list();
  }

  /** Lists anew, and stays at the same row if it is still there. */
  void list() {
    Optional<Row> before = row();
    Map<String, List<Thing>> kinds = new LinkedHashMap<>();
    for (Thing thing : desk.things()) {
      if ((find.isEmpty() || thing.search().contains(find)) && filter.lists(thing, desk)) {
        kinds.computeIfAbsent(thing.kind(), unused -> new ArrayList<>()).add(thing);
      }
    }
    List<Row> listed = new ArrayList<>();
    kinds.forEach(
        (kind, own) -> {
          listed.add(new Row(kind, Optional.empty(), List.copyOf(own)));
          own.forEach(thing -> listed.add(new Row(kind, Optional.of(thing), List.of(thing))));
        });
    int was = selected;
    rows = List.copyOf(listed);
    moveTo(
        before
            .map(row -> at(row))
            .filter(at -> at >= 0)
            .orElseGet(() -> before.isEmpty() ? Math.min(1, rows.size() - 1) : was));
  }

  /** Where a row stands now, or -1. */
  private int at(Row row) {
    for (int i = 0; i < rows.size(); i++) {
      Row other = rows.get(i);
      if (other.kind().equals(row.kind())
          && other.thing().map(Thing::name).equals(row.thing().map(Thing::name))) {
        return i;
      }
    }
    return -1;
  }

  /**
   * Goes to the next thing that needs a decision, from the top after the last one.
   *
   * @return whether there is one in the list
   */
  boolean nextOpen() {
    for (int step = 1; step <= rows.size(); step++) {
      int i = (selected + step) % rows.size();
      Optional<Thing> thing = rows.get(i).thing();
      if (thing.isPresent() && desk.standings().of(thing.get()).has(Review.Standing.OPEN)) {
        selected = i;
        return true;
      }
    }
    return false;
  }

  /** The change at a spot, or all that are in the current row. */
  List<Integer> meant(Optional<Line.Spot> spot) {
    return spot.map(at -> List.of(at.change()))
        .orElseGet(
            () ->
                row().stream()
                    .flatMap(row -> row.things().stream())
                    .flatMap(thing -> thing.numbers().stream())
                    .toList());
  }
}
