package weftex.core.plan;

import java.io.IOException;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.stream.LongStream;
import weftex.core.compare.Comparison;
import weftex.core.compare.Difference;
import weftex.core.compare.TouchedRows;
import weftex.core.match.Matching;
import weftex.core.match.Sides;
import weftex.core.model.Role;
import weftex.core.reference.InsideReferences;
import weftex.core.reference.NumberPlaces;
import weftex.core.row.Row;
import weftex.core.row.SortKey;
import weftex.core.row.Table;
import weftex.core.row.Value;
import weftex.core.site.TableModel;

/**
 * Rows that are new or changed on the target and name others inside of their values, such as a page
 * that shows a picture. A row that names what the source has removed, and names it on the source,
 * too, is the source's own affair.
 */
final class InsideHangers {
  private final Planner planner;
  private final Comparison comparison;
  private final Matching matching;
  private final TouchedRows touched;
  private Map<InsideReferences.Found, List<Hanger>> byReference = Map.of();
  private boolean found;

  InsideHangers(Planner planner, Comparison comparison, Matching matching, TouchedRows touched) {
    this.planner = planner;
    this.comparison = comparison;
    this.matching = matching;
    this.touched = touched;
  }

  /**
   * A row of the target.
   *
   * @param table its position in the comparison
   */
  record Hanger(int table, SortKey key) {}

  /** The rows that name a numbered row of the target, in no order. */
  List<Hanger> of(TableModel model, Row row) throws IOException {
    Table table = model.table();
    if (!table.isNumbered()) {
      return List.of();
    }
    find();
    return byReference.getOrDefault(
        new InsideReferences.Found(table.name(), row.values().get(table.number())), List.of());
  }

  private void find() throws IOException {
    if (found) {
      return;
    }
    found = true;
    byReference = new HashMap<>();
    for (int i = 0; i < comparison.tables().size(); i++) {
      TableModel model = comparison.tables().get(i);
      if (model.contents().inside().stream().anyMatch(inside -> !inside.places().isEmpty())) {
        find(i, model);
      }
    }
  }

  private void find(int table, TableModel model) throws IOException {
    Set<SortKey> keys = touched.of(table);
    Map<SortKey, List<InsideReferences.Found>> onSource = keys.isEmpty() ? Map.of() : kept(table);
    for (long at :
        LongStream.concat(comparison.byTargetOnly(table), comparison.bySource(table)).toArray()) {
      Difference row = comparison.log().read(at);
      if (!row.target().isPresent()
          || !keys.contains(row.target().key())
          || model.ownership().role(row.target().values()) == Role.NOISE) {
        continue;
      }
      SortKey key = row.target().key();
      List<InsideReferences.Found> kept = onSource.get(key);
      if (kept == null) {
        Sides sides = planner.whole(at);
        kept = sides.inSource() ? ofSource(table, sides) : List.of();
      }
      for (InsideReferences.Found one :
          ofTarget(table, row.target().values(), row.target().values())) {
        if (!kept.contains(one)) {
          byReference.computeIfAbsent(one, unused -> new ArrayList<>()).add(new Hanger(table, key));
        }
      }
    }
  }

  /** What the source's rows refer to, by the rows of the target that are the same things. */
  private Map<SortKey, List<InsideReferences.Found>> kept(int table) throws IOException {
    Map<SortKey, List<InsideReferences.Found>> kept = new HashMap<>();
    for (long at : comparison.bySource(table).toArray()) {
      Sides sides = planner.whole(at);
      if (sides.inSource() && sides.target().isPresent()) {
        kept.put(sides.target().key(), ofSource(table, sides));
      }
    }
    return kept;
  }

  private List<InsideReferences.Found> ofSource(int table, Sides sides) throws IOException {
    return references(
        matching.insideOfMapped(table, sides.source(), sides.rawSource()), sides.source());
  }

  /**
   * What a row of the target refers to, or what it is going to be.
   *
   * @param there the row as it is
   */
  List<InsideReferences.Found> ofTarget(int table, List<Value> values, List<Value> there)
      throws IOException {
    return references(matching.insideOfTarget(table, values, there), values);
  }

  private static List<InsideReferences.Found> references(
      Map<Integer, NumberPlaces> places, List<Value> values) {
    List<InsideReferences.Found> references = new ArrayList<>();
    for (Map.Entry<Integer, NumberPlaces> column : places.entrySet()) {
      references.addAll(
          InsideReferences.references(column.getValue(), values.get(column.getKey())));
    }
    return references;
  }
}
