package weftex.store.compare;

import java.io.IOException;
import java.math.BigInteger;
import java.util.ArrayList;
import java.util.Collections;
import java.util.HashMap;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import weftex.core.compare.BaseMoves;
import weftex.core.compare.Comparison;
import weftex.core.match.PastMerges;
import weftex.core.reference.RowFinder;
import weftex.core.row.Column;
import weftex.core.row.Row;
import weftex.core.row.RowName;
import weftex.core.row.SortKey;
import weftex.core.row.Table;
import weftex.core.row.Value;
import weftex.core.row.ValueKind;
import weftex.core.site.Reference;
import weftex.core.site.SiteMap;
import weftex.core.site.TableModel;
import weftex.core.value.Structure;
import weftex.store.receipt.MergedRows;

/** What merges made in both directions, seen from the source of a comparison. */
final class PairMerges implements PastMerges, BaseMoves {
  private final MergedRows into;
  private final MergedRows back;
  private final SiteMap site;
  private final List<TableModel> compared;

  /** The places of the rows of a table that merges wrote, by the table's position. */
  private final Map<Integer, Set<SortKey>> written = new HashMap<>();

  /**
   * @param into what was merged into the target
   * @param back what was merged into the source
   * @param compared the tables that are compared
   */
  PairMerges(MergedRows into, MergedRows back, SiteMap site, List<TableModel> compared) {
    this.into = into;
    this.back = back;
    this.site = site;
    this.compared = compared;
  }

  @Override
  public Optional<Twin> twin(RowName added) throws IOException {
    Optional<List<MergedRows.Settled>> replaced = into.replaced(added);
    Optional<BigInteger> number = onTarget(added);
    if (number.isEmpty()) {
      return Optional.empty();
    }
    Optional<Left> left =
        replaced.isPresent()
            ? Optional.of(
                Story.of(replaced.get(), List.of()).left(columns(added.table()), Map.of()))
            : left(added.table(), key(added.table(), number.get()));
    return Optional.of(new Twin(number.get(), left, replaced.isPresent()));
  }

  @Override
  public Optional<BigInteger> number(RowName ofSource) {
    return onTarget(ofSource);
  }

  /** The number on the target of a row of the source, if a merge made one of the other. */
  private Optional<BigInteger> onTarget(RowName ofSource) {
    return into.made(ofSource).or(() -> back.source(ofSource));
  }

  private Optional<BigInteger> onSource(RowName ofTarget) {
    return into.source(ofTarget).or(() -> back.made(ofTarget));
  }

  @Override
  public boolean isUsed(RowName here) {
    return onSource(here).isPresent();
  }

  private Map<String, Value> key(String table, BigInteger number) {
    Table shape = site.table(table).table();
    return Map.of(shape.columns().get(shape.number()).name(), new Value.Whole(number));
  }

  @Override
  public Optional<Left> left(String table, Map<String, Value> key) throws IOException {
    Story story = story(site.table(table), key);
    return story.isRemoved() || story.isNothing()
        ? Optional.empty()
        : Optional.of(story.left(columns(table), key));
  }

  @Override
  public Optional<Map<String, Value>> withheld(RowName added) throws IOException {
    return into.withheld(added);
  }

  @Override
  public boolean isDeclined(RowName ofTarget) {
    return back.isWithheld(ofTarget);
  }

  @Override
  public boolean wasKept(String table, Map<String, Value> key) throws IOException {
    TableModel model = site.table(table);
    // A row of the base has one number on both copies; under another one it is another row.
    boolean sameRow = !model.table().isNumbered() || onSource(model, key).equals(key);
    return sameRow && story(model, key).isKept();
  }

  @Override
  public boolean wasLeft(String table, Map<String, Value> key) throws IOException {
    return story(site.table(table), key).isLeft();
  }

  private Story story(TableModel model, Map<String, Value> key) throws IOException {
    String table = model.table().name();
    return Story.of(into.settled(table, key), back.settled(table, onSource(model, key)));
  }

  private List<String> columns(String table) {
    return site.table(table).table().columns().stream().map(Column::name).toList();
  }

  @Override
  public boolean isMoved(int table) {
    return compared.get(table).table().hasKey() && !keys(compared.get(table)).isEmpty();
  }

  /** The keys on the target of all rows that merges wrote. */
  private Set<Map<String, Value>> keys(TableModel model) {
    Set<Map<String, Value>> keys = new LinkedHashSet<>(into.keys(model.table().name()));
    for (Map<String, Value> key : back.keys(model.table().name())) {
      keys.add(mapped(model, key, this::onTarget));
    }
    return keys;
  }

  @Override
  public Moved moved(int table, Row base) throws IOException {
    TableModel model = compared.get(table);
    // Of most rows not even the key needs to be read.
    if (isByNumber(model.table()) && !written(table).contains(base.key())) {
      return Moved.not(base);
    }
    List<Value> values = base.values();
    Map<String, Value> key = new LinkedHashMap<>();
    for (int i : model.table().key()) {
      key.put(model.table().columns().get(i).name(), values.get(i));
    }
    Story story = story(model, key);
    if (story.isNothing()) {
      return Moved.not(base);
    }
    if (story.isRemoved()) {
      return new Moved(Row.ABSENT, true);
    }
    Left left = story.left(columns(model.table().name()), key);
    return new Moved(over(model, base.key(), values, left), isInTwoTerms(model, left));
  }

  /**
   * Whether cells that a merge settled may read alike on both copies and mean something else: those
   * that name rows, by a column or inside, or prefixes, and those that are known in the source's
   * terms.
   */
  private static boolean isInTwoTerms(TableModel model, Left left) {
    for (int i = 0; i < model.table().columns().size(); i++) {
      int column = i;
      String name = model.table().columns().get(i).name();
      boolean declared =
          model.contents().inside().stream()
              .anyMatch(rule -> rule.column() == column && !rule.guessed());
      boolean means =
          model.references().stream().anyMatch(reference -> reference.columns().contains(column))
              || declared
              || model.contents().inside().stream().anyMatch(rule -> rule.column() == column)
                  && mayHaveMembers(left.onTarget().get(name))
              || model.contents().prefixed().containsKey(column);
      if (left.onSource().containsKey(name) || means && left.onTarget().containsKey(name)) {
        return true;
      }
    }
    return false;
  }

  private static boolean mayHaveMembers(Value value) {
    return !(value instanceof Value.Text text) || Structure.detect(text.utf8()).isPresent();
  }

  private static boolean isByNumber(Table table) {
    return table.key().size() == 1
        && table.columns().get(table.key().get(0)).kind() == ValueKind.WHOLE;
  }

  private Set<SortKey> written(int table) {
    return written.computeIfAbsent(
        table,
        at -> {
          Set<SortKey> places = new HashSet<>();
          for (Map<String, Value> key : keys(compared.get(at))) {
            if (key.values().iterator().next() instanceof Value.Whole whole) {
              places.add(SortKey.ofWhole(whole.number()));
            }
          }
          return places;
        });
  }

  /** A row with what merges left over it, be that in the terms of one copy or the other. */
  private static Row over(TableModel model, SortKey key, List<Value> values, Left left) {
    List<Value> now = new ArrayList<>();
    for (int i = 0; i < values.size(); i++) {
      Value on = values.get(i);
      String column = model.table().columns().get(i).name();
      Value value = left.onTarget().getOrDefault(column, left.onSource().getOrDefault(column, on));
      boolean digest = value instanceof Value.Digest;
      // Of what is unlike that, nobody can show more.
      now.add(!digest ? value : value.matches(on) ? on : Value.text(value.display()));
    }
    return Row.of(key, now);
  }

  /**
   * Tells a comparison of rows that were merged and that the source, or both, have removed since:
   * it can't see them, as the base does not have them.
   */
  void tellRemoved(Comparison comparison, RowFinder source, RowFinder target) throws IOException {
    for (int i = 0; i < compared.size(); i++) {
      TableModel model = compared.get(i);
      Table table = model.table();
      if (!isMoved(i)) {
        continue;
      }
      Set<SortKey> known = MergedKeys.removed(comparison, i);
      Set<List<Value>> added = MergedKeys.added(comparison, i);
      for (Map<String, Value> key : keys(model)) {
        List<Value> here = table.keyOf(key);
        List<Value> there = table.keyOf(onSource(model, key));
        // Most of them the comparison has met; only of the others the source is asked.
        if (here.contains(null) || added.contains(there) || !isPaired(model, key)) {
          continue;
        }
        Optional<Left> left = left(table.name(), key).filter(Left::whole);
        if (left.isEmpty() || source.count(table, table.key(), there) > 0) {
          continue;
        }
        List<Row> found = target.find(table, table.key(), here, 1);
        for (Row now : found) {
          if (known.add(now.key())) {
            comparison.removed(i, over(model, now.key(), now.values(), left.get()), now);
          }
        }
        if (found.isEmpty() && here.get(0) instanceof Value.Whole number && isByNumber(table)) {
          List<Value> unknown = Collections.nCopies(table.columns().size(), Value.NULL);
          SortKey place = SortKey.ofWhole(number.number());
          comparison.gone(i, over(model, place, unknown, left.get()));
        }
      }
    }
  }

  /** Whether the source has or had the row: a merge made one of the other, or paired the two. */
  private boolean isPaired(TableModel model, Map<String, Value> key) {
    String table = model.table().name();
    return !model.table().isNumbered()
        || into.isAdded(table, key)
        || back.isAdded(table, onSource(model, key))
        || key.values().iterator().next() instanceof Value.Whole number
            && onSource(new RowName(table, number.number())).isPresent();
  }

  private interface Numbers {
    Optional<BigInteger> other(RowName row);
  }

  /** A key of the target as the source has it. */
  private Map<String, Value> onSource(TableModel model, Map<String, Value> key) {
    return mapped(model, key, this::onSource);
  }

  /** A key of one copy as the other has it. */
  private static Map<String, Value> mapped(
      TableModel model, Map<String, Value> key, Numbers numbers) {
    Map<String, Value> mapped = new LinkedHashMap<>(key);
    for (int column : model.table().key()) {
      String of =
          column == model.table().number()
              ? model.table().name()
              : model.references().stream()
                  .filter(reference -> reference.columns().equals(List.of(column)))
                  .map(Reference::target)
                  .findFirst()
                  .orElse("");
      if (key.get(model.table().columns().get(column).name()) instanceof Value.Whole whole) {
        numbers
            .other(new RowName(of, whole.number()))
            .ifPresent(
                other ->
                    mapped.put(model.table().columns().get(column).name(), new Value.Whole(other)));
      }
    }
    return mapped;
  }
}
