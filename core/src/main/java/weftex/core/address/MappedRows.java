package weftex.core.address;

import java.io.IOException;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import weftex.core.compare.DifferenceLog;
import weftex.core.compare.RowMapping;
import weftex.core.mask.Masking;
import weftex.core.model.ContentsRule;
import weftex.core.row.Row;
import weftex.core.row.Value;
import weftex.core.site.TableModel;
import weftex.core.value.Format;

/** Maps the rows of a comparison. */
public final class MappedRows implements RowMapping {
  private final AddressMap map;
  private final AddressMap back;
  private final List<TableModel> tables;
  private final Prefixes prefixes;
  private final Masking masking;
  private Optional<MappedCells> cells = Optional.empty();

  /**
   * @param map from the copy that rows come from to the other one
   * @param back the map the other way round
   * @param prefixes of both copies' tables
   * @param masking which of the copies has made-up personal data
   * @param tables in the order of the comparison
   */
  public MappedRows(
      AddressMap map,
      AddressMap back,
      Prefixes prefixes,
      Masking masking,
      List<TableModel> tables) {
    this.map = map;
    this.back = back;
    this.prefixes = prefixes;
    this.masking = masking;
    this.tables = List.copyOf(tables);
  }

  /**
   * The prefixes of table names, which stand in some names of rows, too.
   *
   * @param from the one that rows come with
   * @param into the other copy's
   */
  public record Prefixes(String from, String into) {
    /** Nothing is renamed. */
    public static final Prefixes SAME = new Prefixes("", "");

    /** Whether names would change. */
    public boolean differ() {
      return !from.isEmpty() && !into.isEmpty() && !from.equals(into);
    }
  }

  /** Whether nothing is mapped at all. */
  public boolean isNothing() {
    return map.isNothing() && !prefixes.differ() && masking.into().isEmpty();
  }

  /** From now on counts, behind the differences, what is mapped in rows that may move. */
  public MappedCells counting(DifferenceLog log) {
    MappedCells counted = new MappedCells(map, tables, log);
    cells = Optional.of(counted);
    return counted;
  }

  @Override
  public Row map(int table, Row row) {
    Row mapped = ownOfOther(table, row);
    return masking.into().isPresent() ? masking.into().get().of(tables.get(table), mapped) : mapped;
  }

  @Override
  public boolean isMadeUp(int table, List<Value> row) {
    return masking.from() && tables.get(table).handling().isMasked(row);
  }

  @Override
  public Row ownOfOther(int table, Row row) {
    boolean renames =
        row.isPresent() && prefixes.differ() && !tables.get(table).contents().prefixed().isEmpty();
    boolean addresses = concerns(map, table, row);
    if (!addresses && !renames) {
      return row;
    }
    return mapped(table, row, addresses ? map : AddressMap.NONE, renames);
  }

  @Override
  public Value thereAndBack(int table, List<Value> row, int column) {
    Format format = tables.get(table).contents().format(column, row);
    return map.map(back.map(row.get(column), format, form -> {}), format, form -> {});
  }

  @Override
  public boolean mayComeOtherwise(int table, Row row) {
    return concerns(back, table, row);
  }

  private Row mapped(int table, Row row, AddressMap map, boolean renames) {
    TableModel model = tables.get(table);
    List<Value> before = row.values();
    List<Value> values = new ArrayList<>(before);
    boolean changed = false;
    for (int i = 0; i < values.size(); i++) {
      Value mapped = map.map(before.get(i), model.contents().format(i, before), form -> {});
      mapped = renames ? renamed(model, i, mapped) : mapped;
      changed |= mapped != before.get(i);
      values.set(i, mapped);
    }
    // Its place stays: a row whose key holds an address is found by the server's order of it.
    return changed ? Row.of(row.key(), values) : row;
  }

  private Value renamed(TableModel model, int column, Value value) {
    ContentsRule.PrefixRule rule = model.contents().prefixed().get(column);
    if (rule == null || !(value instanceof Value.Text)) {
      return value;
    }
    String name = value.display();
    String renamed = rule.mapped(name, prefixes.from(), prefixes.into());
    return renamed.equals(name) ? value : Value.text(renamed);
  }

  /** Most rows hold no address; what is encoded does not show it. */
  private boolean concerns(AddressMap map, int table, Row row) {
    return row.isPresent()
        && !map.isNothing()
        && (row.holds(map::mayTouch) || tables.get(table).contents().hasEncoded());
  }

  @Override
  public void moves(int table, Row row) throws IOException {
    if (cells.isPresent() && concerns(map, table, row)) {
      cells.get().add(table, row);
    }
  }
}
