package weftex.store.copy;

import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.function.Function;
import weftex.core.row.Column;
import weftex.core.row.ForeignKey;
import weftex.core.row.Table;
import weftex.core.row.ValueKind;
import weftex.store.Refusal;
import weftex.store.database.CatalogTable;
import weftex.store.database.KeyPart;
import weftex.store.database.Layout;
import weftex.store.database.SharedTable;

/** Pairs the tables of one name. */
final class PairedTable {

  private PairedTable() {}

  static Optional<String> whyIncomparable(Table source, Table target) {
    List<String> one = lower(source.names(source.key()));
    List<String> other = lower(target.names(target.key()));
    if (!one.equals(other)) {
      return Optional.of(
          "its primary key is ("
              + String.join(", ", one)
              + ") on one copy and ("
              + String.join(", ", other)
              + ") on the other");
    }
    return target.columns().stream().noneMatch(c -> source.position(c.name()).isPresent())
        ? Optional.of("the copies have no column of it in common")
        : Optional.empty();
  }

  static List<String> lower(List<String> names) {
    return names.stream().map(name -> name.toLowerCase(java.util.Locale.ROOT)).toList();
  }

  static SharedTable pair(
      Copy source, CatalogTable sourceTable, Copy target, CatalogTable targetTable) throws Refusal {
    Table from = sourceTable.table();
    Table into = targetTable.table();
    boolean sourceIsStricter = source.isStrict() && !target.isStrict();
    List<Column> columns = new ArrayList<>();
    List<String> differing = new ArrayList<>();
    for (Column column : into.columns()) {
      Optional<Column> other = from.position(column.name()).map(from.columns()::get);
      if (other.isPresent()) {
        columns.add(sourceIsStricter ? withTargetTraits(other.get(), column) : column);
        if (source.isStrict() == target.isStrict() && !other.get().type().equals(column.type())) {
          differing.add(column.name() + ": " + other.get().type() + " / " + column.type());
        }
      }
    }
    Table table = restrict(into, columns);
    List<KeyPart> parts = keyParts(source, sourceTable, target, targetTable, table);
    return new SharedTable(
        new Layout(table, sourceTable.realName(), parts, sourceTable.rows()),
        new Layout(table, targetTable.realName(), parts, targetTable.rows()),
        missing(from, into),
        missing(into, from),
        differing);
  }

  static Column withTargetTraits(Column stricter, Column target) {
    return new Column(
        target.name(),
        stricter.kind(),
        stricter.type(),
        stricter.scale(),
        target.nullable(),
        false,
        false);
  }

  static List<String> missing(Table in, Table from) {
    return in.columns().stream()
        .map(Column::name)
        .filter(name -> from.position(name).isEmpty())
        .toList();
  }

  /** A table with some of its columns; keys and references that need another one fall away. */
  static Table restrict(Table table, List<Column> columns) {
    List<String> names = columns.stream().map(Column::name).toList();
    Function<List<Integer>, List<Integer>> move =
        positions -> table.names(positions).stream().map(names::indexOf).toList();
    List<List<Integer>> unique =
        table.uniqueKeys().stream().map(move).filter(key -> !key.contains(-1)).toList();
    List<ForeignKey> foreign =
        table.foreignKeys().stream().filter(key -> names.containsAll(key.columns())).toList();
    int number =
        table.isNumbered() ? names.indexOf(table.columns().get(table.number()).name()) : -1;
    return new Table(table.name(), columns, move.apply(table.key()), number, unique, foreign);
  }

  static List<KeyPart> keyParts(
      Copy source, CatalogTable sourceTable, Copy target, CatalogTable targetTable, Table table)
      throws Refusal {
    List<Integer> order = new Layout(table, "", List.of()).orderColumns();
    List<String> names = table.names(order);
    if (!table.hasKey()) {
      return names.stream().map(name -> KeyPart.BYTES).toList();
    }
    List<KeyPart> parts = new ArrayList<>();
    boolean alike = source.isStrict() == target.isStrict();
    List<KeyPart> one =
        alike ? source.keyParts(sourceTable, sourceTable.table().positions(names)) : List.of();
    List<KeyPart> other =
        alike ? target.keyParts(targetTable, targetTable.table().positions(names)) : List.of();
    for (int i = 0; i < order.size(); i++) {
      boolean number = table.columns().get(order.get(i)).kind() == ValueKind.WHOLE;
      KeyPart fallback = number ? KeyPart.NUMBER : KeyPart.BYTES;
      parts.add(alike && one.get(i).equals(other.get(i)) ? other.get(i) : fallback);
    }
    return parts;
  }
}
