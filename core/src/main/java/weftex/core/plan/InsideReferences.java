package weftex.core.plan;

import java.io.IOException;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeMap;
import weftex.core.compare.Comparison;
import weftex.core.reference.NumberPlaces;
import weftex.core.row.Table;
import weftex.core.row.Value;
import weftex.core.site.Inside;
import weftex.core.site.PlaceRule;
import weftex.core.site.TableModel;
import weftex.core.value.Format;
import weftex.core.value.Weaver;

/** The references inside the values of a row, as far as the site model declares them. */
final class InsideReferences {
  private final Comparison comparison;
  private final RowFinder source;
  private final Set<String> hosts;
  private final Map<List<Object>, NumberPlaces> known = new HashMap<>();

  /**
   * @param source finds rows of the source, for rules that depend on another row
   * @param hosts by which either copy is known
   */
  InsideReferences(Comparison comparison, RowFinder source, Set<String> hosts) {
    this.comparison = comparison;
    this.source = source;
    this.hosts = hosts;
  }

  /**
   * The places of numbers in a row, by column.
   *
   * @param raw the row as it is on the source
   */
  Map<Integer, NumberPlaces> of(int table, List<Value> raw) throws IOException {
    TableModel model = comparison.tables().get(table);
    Map<Integer, List<PlaceRule>> rules = new TreeMap<>();
    for (Inside inside : model.inside()) {
      if (!inside.places().isEmpty() && holds(model.table(), inside, raw)) {
        rules.computeIfAbsent(inside.column(), c -> new ArrayList<>()).addAll(inside.places());
      }
    }
    Map<Integer, NumberPlaces> places = new TreeMap<>();
    rules.forEach(
        (column, own) ->
            places.put(
                column,
                places(own, model.format(column, raw), model.permanent().contains(column))));
    return places;
  }

  private NumberPlaces places(List<PlaceRule> rules, Format format, boolean anyLink) {
    return known.computeIfAbsent(
        List.of(rules, format, anyLink), unused -> new NumberPlaces(rules, format, hosts, anyLink));
  }

  private boolean holds(Table table, Inside inside, List<Value> raw) throws IOException {
    if (!inside.holdsFor(raw)) {
      return false;
    }
    if (inside.sibling().isEmpty()) {
      return true;
    }
    Inside.Sibling sibling = inside.sibling().get();
    List<Integer> columns = new ArrayList<>(sibling.same());
    List<Value> values = new ArrayList<>(Table.pick(raw, sibling.same()));
    sibling
        .with()
        .forEach(
            (column, text) -> {
              columns.add(column);
              values.add(Value.text(text));
            });
    return !source.find(table, columns, values, 1).isEmpty();
  }

  /** A reference that was found inside a value. */
  record Found(String table, Value number) {}

  /** What a value refers to, each once, in the order in which it stands there. */
  static List<Found> references(NumberPlaces places, Value value) {
    Map<Found, Boolean> found = new java.util.LinkedHashMap<>();
    bytes(value)
        .ifPresent(
            bytes ->
                places.rewrite(
                    bytes,
                    (table, number) -> {
                      found.put(new Found(table, new Value.Whole(number)), true);
                      return Optional.empty();
                    }));
    return List.copyOf(found.keySet());
  }

  /** A value with other numbers; the very same one if none changes. */
  static Value rewritten(NumberPlaces places, Value value, NumberPlaces.Numbers numbers) {
    return bytes(value)
        .flatMap(bytes -> places.rewrite(bytes, numbers))
        .map((Weaver woven) -> woven.toValue(value))
        .orElse(value);
  }

  private static Optional<byte[]> bytes(Value value) {
    if (value instanceof Value.Text text) {
      return Optional.of(text.utf8());
    }
    return value instanceof Value.Binary binary ? Optional.of(binary.bytes()) : Optional.empty();
  }
}
