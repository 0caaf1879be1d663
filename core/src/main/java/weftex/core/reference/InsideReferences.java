package weftex.core.reference;

import java.io.IOException;
import java.util.ArrayList;
import java.util.BitSet;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeMap;
import java.util.function.Predicate;
import weftex.core.model.PlaceRule;
import weftex.core.row.Table;
import weftex.core.row.Value;
import weftex.core.site.Inside;
import weftex.core.site.TableModel;
import weftex.core.value.Format;
import weftex.core.value.Weaver;

/** The references inside the values of a row, as far as the site model declares them. */
public final class InsideReferences {
  private final RowFinder rows;
  private final Set<String> hosts;
  private final Map<String, Map<BitSet, Map<Integer, NumberPlaces>>> byRules = new HashMap<>();

  /**
   * @param rows finds rows of the same copy, for rules that depend on another row
   * @param hosts by which either copy is known
   */
  public InsideReferences(RowFinder rows, Set<String> hosts) {
    this.rows = rows;
    this.hosts = hosts;
  }

  /**
   * The places of numbers in a row, by column.
   *
   * @param raw the row as it is on the copy
   */
  public Map<Integer, NumberPlaces> of(TableModel model, List<Value> raw) throws IOException {
    return of(model, raw, raw);
  }

  /**
   * The same of a row in other terms than the copy's.
   *
   * @param beside the row on the copy, by which the rows are found that rules depend on
   */
  public Map<Integer, NumberPlaces> of(TableModel model, List<Value> raw, List<Value> beside)
      throws IOException {
    return of(model, raw, beside, inside -> true);
  }

  /**
   * The places that a model declares, or those that names of members tell.
   *
   * @param raw the row as it is on the copy
   */
  public Map<Integer, NumberPlaces> of(TableModel model, List<Value> raw, boolean guessed)
      throws IOException {
    return of(model, raw, raw, inside -> inside.guessed() == guessed);
  }

  private Map<Integer, NumberPlaces> of(
      TableModel model, List<Value> raw, List<Value> beside, Predicate<Inside> wanted)
      throws IOException {
    BitSet held = new BitSet();
    for (int i = 0; i < model.contents().inside().size(); i++) {
      Inside inside = model.contents().inside().get(i);
      if (wanted.test(inside)
          && !inside.places().isEmpty()
          && holds(model.table(), inside, raw, beside)) {
        held.set(i);
      }
    }
    if (held.isEmpty()) {
      return Map.of();
    }
    int rules = model.contents().inside().size();
    for (int i = 0; i < rules; i++) {
      Inside inside = model.contents().inside().get(i);
      if (inside.format() != Format.AUTO && inside.holdsFor(raw)) {
        held.set(rules + i);
      }
    }
    Map<BitSet, Map<Integer, NumberPlaces>> ofTable =
        byRules.computeIfAbsent(model.table().name(), unused -> new HashMap<>());
    Map<Integer, NumberPlaces> known = ofTable.get(held);
    if (known == null) {
      known = places(model, held, raw);
      ofTable.put(held, known);
    }
    return known;
  }

  /** Rows for which the same rules hold, and the same formats, have numbers in the same places. */
  private Map<Integer, NumberPlaces> places(TableModel model, BitSet held, List<Value> raw) {
    Map<Integer, List<PlaceRule>> rules = new TreeMap<>();
    held.stream()
        .filter(i -> i < model.contents().inside().size())
        .mapToObj(model.contents().inside()::get)
        .forEach(
            inside ->
                rules
                    .computeIfAbsent(inside.column(), c -> new ArrayList<>())
                    .addAll(inside.places()));
    Map<Integer, NumberPlaces> places = new TreeMap<>();
    rules.forEach(
        (column, own) ->
            places.put(
                column,
                new NumberPlaces(
                    own,
                    model.contents().format(column, raw),
                    hosts,
                    model.handling().permanent().contains(column))));
    return places;
  }

  private boolean holds(Table table, Inside inside, List<Value> raw, List<Value> beside)
      throws IOException {
    if (!inside.holdsFor(raw)) {
      return false;
    }
    if (inside.sibling().isEmpty()) {
      return true;
    }
    Inside.Sibling sibling = inside.sibling().get();
    List<Integer> columns = new ArrayList<>(sibling.same());
    List<Value> values = new ArrayList<>(Table.pick(beside, sibling.same()));
    sibling
        .with()
        .forEach(
            (column, text) -> {
              columns.add(column);
              values.add(Value.text(text));
            });
    return !rows.find(table, columns, values, 1).isEmpty();
  }

  /** A reference that was found inside a value. */
  public record Found(String table, Value number) {}

  /** What a value refers to, each once, in the order in which it stands there. */
  public static List<Found> references(NumberPlaces places, Value value) {
    if (bytes(value).filter(places::mayHold).isEmpty()) {
      return List.of();
    }
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

  /**
   * A member that says where a row is shown.
   *
   * @param path keys from the outside in
   */
  public record Showing(List<String> path, Found shown) {}

  /** The members of a row that say where others are shown, in no order. */
  public List<Showing> showings(TableModel model, List<Value> raw) throws IOException {
    boolean any =
        model.contents().inside().stream()
            .filter(inside -> inside.holdsFor(raw))
            .anyMatch(inside -> inside.places().stream().anyMatch(PlaceRule::offer));
    List<Showing> showings = new ArrayList<>();
    if (any) {
      of(model, raw)
          .forEach(
              (column, places) ->
                  bytes(raw.get(column))
                      .ifPresent(
                          bytes ->
                              places.each(
                                  bytes,
                                  (rule, path, number) -> {
                                    if (rule.offer()) {
                                      Found shown = new Found(rule.to(), new Value.Whole(number));
                                      showings.add(new Showing(path, shown));
                                    }
                                  })));
    }
    return showings;
  }

  /** A value with other numbers; the very same one if none changes. */
  public static Value rewritten(NumberPlaces places, Value value, NumberPlaces.Numbers numbers) {
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
