package weftex.core.address;

import java.io.IOException;
import java.util.ArrayList;
import java.util.EnumMap;
import java.util.Iterator;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import weftex.core.compare.Difference;
import weftex.core.compare.DifferenceLog;
import weftex.core.compare.Positions;
import weftex.core.row.Row;
import weftex.core.row.SortKey;
import weftex.core.row.Table;
import weftex.core.row.Value;
import weftex.core.site.TableModel;

/**
 * Counts the addresses that are mapped in rows which may move. Which do is known only later, so
 * what was counted in a row is written behind the differences; memory holds its place.
 */
public final class MappedCells {
  private static final SortKey NO_KEY = new SortKey(new byte[0]);

  private final AddressMap map;
  private final List<TableModel> tables;
  private final DifferenceLog log;
  private final Positions rows = new Positions();

  /**
   * @param map from the copy that rows come from to the other one
   * @param tables in the order of the comparison
   */
  MappedCells(AddressMap map, List<TableModel> tables, DifferenceLog log) {
    this.map = map;
    this.tables = tables;
    this.log = log;
  }

  /**
   * What was mapped in a column of rows that move.
   *
   * @param rows how many rows have an address there
   * @param forms how many addresses, by form
   */
  public record Mapped(String table, String column, long rows, Map<Form, Long> forms) {}

  /** Asked whether a row moves after all. */
  public interface Movers {
    boolean moves(int table, List<Value> key);
  }

  /** Counts in a row, as it is on its own copy. */
  void add(int table, Row row) throws IOException {
    TableModel model = tables.get(table);
    List<Value> values = row.values();
    List<Value> counts = new ArrayList<>();
    for (int i = 0; i < values.size(); i++) {
      Map<Form, Long> forms = new EnumMap<>(Form.class);
      map.map(
          values.get(i),
          model.contents().format(i, values),
          form -> forms.merge(form, 1L, Long::sum));
      if (!forms.isEmpty()) {
        counts.add(Value.whole(i));
        for (Form form : Form.values()) {
          counts.add(Value.whole(forms.getOrDefault(form, 0L)));
        }
      }
    }
    if (!counts.isEmpty()) {
      List<Value> key = Table.pick(values, model.table().key());
      rows.add(
          log.append(
              new Difference(table, Row.of(NO_KEY, key), Row.of(NO_KEY, counts), Row.ABSENT)));
    }
  }

  /** What was counted in the rows that move, by table and column in the order of the comparison. */
  public List<Mapped> mapped(Movers movers) throws IOException {
    Map<Integer, Map<Integer, Sum>> sums = new TreeMap<>();
    for (long at : rows.stream().toArray()) {
      Difference row = log.read(at);
      if (movers.moves(row.table(), row.base().values())) {
        Iterator<Value> counts = row.source().values().iterator();
        while (counts.hasNext()) {
          int column = (int) number(counts);
          sums.computeIfAbsent(row.table(), unused -> new TreeMap<>())
              .computeIfAbsent(column, unused -> new Sum())
              .add(counts);
        }
      }
    }
    List<Mapped> mapped = new ArrayList<>();
    sums.forEach(
        (table, columns) ->
            columns.forEach(
                (column, sum) -> {
                  Table shape = tables.get(table).table();
                  String name = shape.columns().get(column).name();
                  mapped.add(new Mapped(shape.name(), name, sum.rows, sum.forms));
                }));
    return mapped;
  }

  private static long number(Iterator<Value> values) {
    return ((Value.Whole) values.next()).number().longValueExact();
  }

  /** What was counted in a column. */
  private static final class Sum {
    private final Map<Form, Long> forms = new EnumMap<>(Form.class);
    private long rows;

    void add(Iterator<Value> counts) {
      rows++;
      for (Form form : Form.values()) {
        long count = number(counts);
        if (count > 0) {
          forms.merge(form, count, Long::sum);
        }
      }
    }
  }
}
