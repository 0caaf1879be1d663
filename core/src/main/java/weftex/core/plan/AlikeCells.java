package weftex.core.plan;

import java.io.IOException;
import java.util.LinkedHashMap;
import java.util.Map;
import weftex.core.change.Alike;
import weftex.core.compare.Comparison;
import weftex.core.match.Sides;
import weftex.core.merge.RowMerger;
import weftex.core.model.ColumnRule;
import weftex.core.model.Role;
import weftex.core.row.Row;
import weftex.core.row.Table;
import weftex.core.row.Value;
import weftex.core.site.TableModel;

/** What both copies have alike though the base does not have it: once merged it is the base. */
final class AlikeCells {
  private AlikeCells() {}

  /** Takes rows. */
  interface Sink {
    void accept(Alike row) throws IOException;
  }

  /** Whether a row of which nothing is made says something that the base does not know. */
  static boolean isNews(Comparison comparison, int table, Sides sides, RowMerger.Merged merged) {
    TableModel model = comparison.tables().get(table);
    return comparison.hasBase()
        && model.table().hasKey()
        && role(model, sides) != Role.NOISE
        && !of(model, sides, merged).isEmpty();
  }

  /** What both copies binned was known to both. */
  private static Role role(TableModel model, Sides sides) {
    return sides.base().isPresent()
        ? model.ownership().roleOfKnown(sides.rawSource())
        : model.ownership().role(sides.rawSource());
  }

  /** Whether a row that neither copy has any more is worth to be known. */
  static boolean isNews(Comparison comparison, int table, Row base) {
    TableModel model = comparison.tables().get(table);
    return comparison.hasBase()
        && model.table().hasKey()
        && model.ownership().roleOfKnown(base.values()) != Role.NOISE;
  }

  static Alike row(TableModel model, Sides sides, RowMerger.Merged merged) {
    Table table = model.table();
    return new Alike(table.name(), key(table, sides.target()), of(model, sides, merged));
  }

  /** A row that neither copy has any more. */
  static Alike gone(TableModel model, Row base) {
    return new Alike(model.table().name(), key(model.table(), base), Map.of());
  }

  private static Map<String, Value> key(Table table, Row row) {
    Map<String, Value> key = new LinkedHashMap<>();
    for (int i : table.key()) {
      key.put(table.columns().get(i).name(), row.values().get(i));
    }
    return key;
  }

  /**
   * The cells, by column; all of a row that the base does not have. Of a value that the target has
   * edited elsewhere inside, the source's is what both have been through.
   */
  static Map<String, Value> of(TableModel model, Sides sides, RowMerger.Merged merged) {
    Table table = model.table();
    Map<String, Value> cells = new LinkedHashMap<>();
    for (int i = 0; i < table.columns().size(); i++) {
      Value source = sides.source().get(i);
      Value target = sides.target().values().get(i);
      if (!sides.base().isPresent()) {
        // Its number is the source's own: by that the row is known the next time.
        Value own = i == table.number() ? sides.rawSource().get(i) : source;
        cells.put(table.columns().get(i).name(), own.isOpen() && !own.isNull() ? target : own);
      } else if (!source.equals(sides.base().values().get(i))
          && (source.equals(target) || isContained(model, i, source, merged))) {
        cells.put(table.columns().get(i).name(), source);
      }
    }
    return cells;
  }

  /** Whether the target has all that the source edited inside a value. */
  private static boolean isContained(
      TableModel model, int column, Value source, RowMerger.Merged merged) {
    return !source.isOpen()
        && !model.leftAlone().contains(column)
        && model.handling().columns().get(column) != ColumnRule.NEWER
        && !merged.taken().containsKey(column)
        && !merged.clashing().contains(column);
  }
}
