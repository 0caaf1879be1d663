package weftex.core.address;

import java.util.ArrayList;
import java.util.EnumMap;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import weftex.core.compare.RowMapping;
import weftex.core.row.Row;
import weftex.core.row.Value;
import weftex.core.site.TableModel;

/** Maps the rows of a comparison, and counts what it maps in rows that will move. */
public final class MappedRows implements RowMapping {
  private final AddressMap map;
  private final List<TableModel> tables;
  private final Map<Integer, Map<Integer, Tally>> tallies = new TreeMap<>();

  /**
   * @param tables in the order of the comparison
   */
  public MappedRows(AddressMap map, List<TableModel> tables) {
    this.map = map;
    this.tables = List.copyOf(tables);
  }

  /**
   * What was mapped in a column of rows that will move.
   *
   * @param rows how many rows have an address there
   * @param forms how many addresses, by form
   */
  public record Mapped(String table, String column, long rows, Map<Form, Long> forms) {}

  private static final class Tally {
    private long rows;
    private final Map<Form, Long> forms = new EnumMap<>(Form.class);
  }

  @Override
  public Row map(int table, Row row) {
    if (!concerns(table, row)) {
      return row;
    }
    TableModel model = tables.get(table);
    List<Value> before = row.values();
    List<Value> values = new ArrayList<>(before);
    boolean changed = false;
    for (int i = 0; i < values.size(); i++) {
      Value mapped = map.map(before.get(i), model.format(i, before), form -> {});
      changed |= mapped != before.get(i);
      values.set(i, mapped);
    }
    // Its place stays: a row whose key holds an address is found by the server's order of it.
    return changed ? Row.of(row.key(), values) : row;
  }

  /** Most rows hold no address; what is encoded does not show it. */
  private boolean concerns(int table, Row row) {
    return row.isPresent()
        && !map.isNothing()
        && (row.holds(map::mayTouch) || tables.get(table).hasEncoded());
  }

  @Override
  public void moves(int table, Row row) {
    if (!concerns(table, row)) {
      return;
    }
    TableModel model = tables.get(table);
    List<Value> values = row.values();
    for (int i = 0; i < values.size(); i++) {
      int column = i;
      long[] hits = {0};
      map.map(
          values.get(i),
          model.format(i, values),
          form -> {
            Tally tally = tally(table, column);
            tally.forms.merge(form, 1L, Long::sum);
            tally.rows += hits[0]++ == 0 ? 1 : 0;
          });
    }
  }

  private Tally tally(int table, int column) {
    return tallies
        .computeIfAbsent(table, unused -> new TreeMap<>())
        .computeIfAbsent(column, unused -> new Tally());
  }

  /** What was counted, by table and column in the order of the comparison. */
  public List<Mapped> mapped() {
    List<Mapped> mapped = new ArrayList<>();
    tallies.forEach(
        (table, columns) ->
            columns.forEach(
                (column, tally) ->
                    mapped.add(
                        new Mapped(
                            tables.get(table).table().name(),
                            tables.get(table).table().columns().get(column).name(),
                            tally.rows,
                            Map.copyOf(tally.forms)))));
    return mapped;
  }
}
