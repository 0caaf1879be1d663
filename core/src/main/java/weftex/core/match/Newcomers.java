package weftex.core.match;

import java.io.IOException;
import java.math.BigInteger;
import java.util.ArrayList;
import java.util.Collection;
import java.util.HashMap;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.stream.LongStream;
import weftex.core.compare.Comparison;
import weftex.core.compare.Difference;
import weftex.core.row.RowName;
import weftex.core.row.SortKey;
import weftex.core.row.Table;
import weftex.core.row.Value;
import weftex.core.site.SiteMap;
import weftex.core.site.TableModel;

/** The rows that the source has added, and those that it has removed, as they are looked for. */
public final class Newcomers {
  private final Comparison comparison;
  private final Map<Long, Newcomer> byPosition = new LinkedHashMap<>();
  private final Map<String, Integer> positionOfTable = new HashMap<>();
  private final Map<Place, Map<List<Value>, Newcomer>> index = new HashMap<>();
  private final List<Map<SortKey, Long>> removedBySource = new ArrayList<>();
  private final Map<Integer, Set<SortKey>> addedByTarget = new HashMap<>();

  /** How many rows that the source added have the same identity. */
  private final Map<Place, Map<List<Value>, Integer>> twins = new HashMap<>();

  private record Place(String table, List<Integer> columns) {}

  Newcomers(Comparison comparison, SiteMap site) throws IOException {
    this.comparison = comparison;
    for (int i = 0; i < comparison.tables().size(); i++) {
      positionOfTable.put(comparison.tables().get(i).table().name(), i);
      removedBySource.add(new HashMap<>());
    }
    for (int i = 0; i < comparison.tables().size(); i++) {
      gather(i, site);
    }
  }

  private void gather(int table, SiteMap site) throws IOException {
    TableModel model = comparison.tables().get(table);
    Set<Place> places = new LinkedHashSet<>();
    site.incoming(model.table().name())
        .forEach(in -> places.add(new Place(model.table().name(), in.reference().targetColumns())));
    if (model.table().isNumbered()) {
      places.add(new Place(model.table().name(), List.of(model.table().number())));
    }
    for (long at : comparison.bySource(table).toArray()) {
      Difference row = comparison.log().read(at);
      if (!row.source().isPresent()) {
        removedBySource.get(table).put(row.base().key(), at);
      } else if (!row.base().isPresent()) {
        List<Value> values = row.source().values();
        Table shape = model.table();
        Newcomer newcomer =
            new Newcomer(
                table,
                at,
                shape.isNumbered()
                    ? numberOf(values.get(shape.number()))
                        .map(number -> new RowName(shape.name(), number))
                    : Optional.empty());
        byPosition.put(at, newcomer);
        if (model.identity().isOf(values)) {
          twins
              .computeIfAbsent(
                  new Place(model.table().name(), model.identity().columns()),
                  unused -> new HashMap<>())
              .merge(Table.pick(values, model.identity().columns()), 1, Integer::sum);
        }
        for (Place place : places) {
          index
              .computeIfAbsent(place, unused -> new HashMap<>())
              .put(Table.pick(values, place.columns()), newcomer);
        }
      }
    }
  }

  /** The keys of the rows that the target has and the base has not. */
  Set<SortKey> addedByTarget(int table) throws IOException {
    Set<SortKey> known = addedByTarget.get(table);
    if (known == null) {
      known = new HashSet<>();
      for (long at :
          LongStream.concat(comparison.bySource(table), comparison.byTargetOnly(table)).toArray()) {
        Difference row = comparison.log().read(at);
        if (!row.base().isPresent() && row.target().isPresent()) {
          known.add(row.target().key());
        }
      }
      addedByTarget.put(table, known);
    }
    return known;
  }

  /** All of them, in the order of the comparison. */
  public Collection<Newcomer> all() {
    return byPosition.values();
  }

  /** The row that the source added at a position of the log. */
  public Optional<Newcomer> at(long at) {
    return Optional.ofNullable(byPosition.get(at));
  }

  /** The added row that has these values in these columns on the source. */
  public Optional<Newcomer> find(String table, List<Integer> columns, List<Value> values) {
    return Optional.ofNullable(index.getOrDefault(new Place(table, columns), Map.of()).get(values));
  }

  /** The added row that has a number on the source. */
  public Optional<Newcomer> find(String table, Value number) {
    Optional<Integer> position = positionOf(table);
    return position.isEmpty()
        ? Optional.empty()
        : find(
            table,
            List.of(comparison.tables().get(position.get()).table().number()),
            List.of(number));
  }

  /** The position of a table in the comparison. */
  public Optional<Integer> positionOf(String table) {
    return Optional.ofNullable(positionOfTable.get(table));
  }

  /** Where the log says that the source removed a row of the target's key; -1 if it did not. */
  long removedAt(int table, SortKey key) {
    return removedBySource.get(table).getOrDefault(key, -1L);
  }

  /** Whether no other added row has the same identity. */
  boolean isAlone(TableModel model, List<Value> values) {
    Map<List<Value>, Integer> ofTable =
        twins.getOrDefault(new Place(model.table().name(), model.identity().columns()), Map.of());
    return ofTable.getOrDefault(Table.pick(values, model.identity().columns()), 0) == 1;
  }

  static Optional<BigInteger> numberOf(Value value) {
    return value instanceof Value.Whole whole ? Optional.of(whole.number()) : Optional.empty();
  }
}
