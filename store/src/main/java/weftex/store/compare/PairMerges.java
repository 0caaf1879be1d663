package weftex.store.compare;

import java.io.IOException;
import java.math.BigInteger;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import weftex.core.compare.Comparison;
import weftex.core.compare.Difference;
import weftex.core.plan.LeftRow;
import weftex.core.plan.PastMerges;
import weftex.core.reference.RowFinder;
import weftex.core.row.Column;
import weftex.core.row.Row;
import weftex.core.row.RowName;
import weftex.core.row.SortKey;
import weftex.core.row.Table;
import weftex.core.row.Value;
import weftex.core.site.Reference;
import weftex.core.site.SiteMap;
import weftex.core.site.TableModel;
import weftex.store.apply.MergedRows;

/** What merges made in both directions, seen from the source of a comparison. */
final class PairMerges implements PastMerges {
  private final MergedRows into;
  private final MergedRows back;
  private final SiteMap site;

  /**
   * @param into what was merged into the target
   * @param back what was merged into the source
   * @param site the tables that are compared
   */
  PairMerges(MergedRows into, MergedRows back, SiteMap site) {
    this.site = site;
    this.into = into;
    this.back = back;
  }

  @Override
  public Optional<Twin> twin(RowName added) throws IOException {
    Optional<MergedRows.Left> replaced = into.replaced(added);
    Optional<BigInteger> number = into.made(added);
    if (number.isEmpty()) {
      return back.source(added).map(source -> new Twin(source, Optional.empty(), false));
    }
    Optional<Map<String, Value>> left =
        replaced.isPresent()
            ? replaced.map(MergedRows.Left::values)
            : left(added.table(), key(added.table(), number.get()));
    return Optional.of(new Twin(number.get(), left, replaced.isPresent()));
  }

  @Override
  public boolean isUsed(RowName here) {
    return into.source(here).isPresent();
  }

  private Map<String, Value> key(String table, BigInteger number) {
    Table shape = site.table(table).table();
    return Map.of(shape.columns().get(shape.number()).name(), new Value.Whole(number));
  }

  @Override
  public Optional<Map<String, Value>> left(String table, Map<String, Value> key)
      throws IOException {
    // Of a row that both copies added, all values are known only if all were in question.
    return into.left(table, key)
        .filter(left -> !left.removed())
        .filter(left -> left.added() || left.values().keySet().containsAll(columns(table)))
        .map(MergedRows.Left::values);
  }

  private List<String> columns(String table) {
    return site.table(table).table().columns().stream().map(Column::name).toList();
  }

  /**
   * Tells a comparison of rows that were merged and that the source has removed since: it can't see
   * them, as the base does not have them.
   */
  void tellRemoved(Comparison comparison, RowFinder source, RowFinder target) throws IOException {
    for (int i = 0; i < comparison.tables().size(); i++) {
      TableModel model = comparison.tables().get(i);
      Table table = model.table();
      Set<Map<String, Value>> keys = into.keys(table.name());
      if (!table.hasKey() || keys.isEmpty()) {
        continue;
      }
      Set<SortKey> known = removed(comparison, i);
      for (Map<String, Value> key : List.copyOf(keys)) {
        Optional<Map<String, Value>> left =
            isPaired(table, key) ? left(table.name(), key) : Optional.empty();
        List<Value> here = table.names(table.key()).stream().map(key::get).toList();
        if (left.isEmpty()
            || here.contains(null)
            || source.count(table, table.key(), onSource(model, here)) > 0) {
          continue;
        }
        for (Row now : target.find(table, table.key(), here, 1)) {
          if (known.add(now.key())) {
            comparison.removed(
                i, LeftRow.of(table, now.key(), left.get(), List.of(), now.values()), now);
          }
        }
      }
    }
  }

  /** Whether the source has or had the row: a merge made this one of it, or paired the two. */
  private boolean isPaired(Table table, Map<String, Value> key) {
    return into.isAdded(table.name(), key)
        || table.isNumbered()
            && key.values().iterator().next() instanceof Value.Whole number
            && into.source(new RowName(table.name(), number.number())).isPresent();
  }

  /** A key of the target as the source has it. */
  private List<Value> onSource(TableModel model, List<Value> key) {
    List<Value> mapped = new ArrayList<>();
    for (int i = 0; i < key.size(); i++) {
      int column = model.table().key().get(i);
      String of =
          column == model.table().number()
              ? model.table().name()
              : model.references().stream()
                  .filter(reference -> reference.columns().equals(List.of(column)))
                  .map(Reference::target)
                  .findFirst()
                  .orElse("");
      Value value = key.get(i);
      mapped.add(
          value instanceof Value.Whole whole
              ? into.source(new RowName(of, whole.number()))
                  .<Value>map(Value.Whole::new)
                  .orElse(value)
              : value);
    }
    return mapped;
  }

  /** The places of the rows that the source is known to have removed. */
  private static Set<SortKey> removed(Comparison comparison, int at) throws IOException {
    Set<SortKey> keys = new HashSet<>();
    for (long position : comparison.bySource(at).toArray()) {
      Difference row = comparison.log().read(position);
      if (!row.source().isPresent() && row.target().isPresent()) {
        keys.add(row.target().key());
      }
    }
    return keys;
  }
}
