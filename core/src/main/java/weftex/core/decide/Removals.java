package weftex.core.decide;

import java.util.ArrayList;
import java.util.HashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import weftex.core.change.Action;
import weftex.core.change.Item;
import weftex.core.change.RowChange;
import weftex.core.change.Ties;
import weftex.core.row.Value;

/** What a change set removes, and what it refers to: two of them may speak against each other. */
final class Removals {
  private final Map<List<String>, Referred> removed = new HashMap<>();
  private final List<OutgoingReference> references = new ArrayList<>();

  private record Referred(int id, Item thing) {}

  /** Sees a change of a row. */
  void see(RowChange change) {
    if (change.action() == Action.REMOVE) {
      for (Ties.Hanger hanger : change.hangers().keySet()) {
        removed.put(
            place(hanger, hanger.targetColumns(), change.before()),
            new Referred(change.id(), change.thing()));
      }
    }
    // What another one removes may be referred to here; which columns do is known from there.
    references.add(
        new OutgoingReference(change.id(), change.table(), change.thing(), change.after()));
  }

  private static List<String> place(
      Ties.Hanger hanger, List<String> columns, Map<String, Value> values) {
    List<String> place = new ArrayList<>();
    place.add(hanger.table());
    place.addAll(hanger.columns());
    for (String column : columns) {
      Value value = values.get(column);
      place.add(value == null ? "" : value.display());
    }
    return place;
  }

  /** A sentence for each reference of another change set to what this one removes. */
  List<String> clashes(Removals referring) {
    List<String> clashes = new ArrayList<>();
    Set<List<String>> shapes = new LinkedHashSet<>();
    removed.keySet().forEach(place -> shapes.add(place.subList(0, 1 + (place.size() - 1) / 2)));
    for (OutgoingReference change : referring.references) {
      for (List<String> shape : shapes) {
        List<String> columns = shape.subList(1, shape.size());
        if (shape.get(0).equals(change.table()) && change.after().keySet().containsAll(columns)) {
          List<String> place = new ArrayList<>(shape);
          columns.forEach(column -> place.add(change.after().get(column).display()));
          Referred gone = removed.get(place);
          if (gone != null) {
            clashes.add(
                "Change "
                    + change.id()
                    + " ("
                    + change.thing().words()
                    + ") refers to "
                    + gone.thing().words()
                    + ", which change "
                    + gone.id()
                    + " of the other removes.");
          }
        }
      }
    }
    return clashes;
  }
}
