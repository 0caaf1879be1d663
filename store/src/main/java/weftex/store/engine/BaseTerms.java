package weftex.store.engine;

import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import weftex.core.change.ChangeSetHeader;
import weftex.core.row.Column;
import weftex.core.row.Table;
import weftex.core.row.ValueKind;
import weftex.store.Refusal;
import weftex.store.copy.Copy;

/** A table as it was when the change set was drafted, in terms of how it is now. */
final class BaseTerms {

  private BaseTerms() {}

  static Table inTermsOf(
      ChangeSetHeader.TableColumns drafted, Table now, Copy target, boolean exactly)
      throws Refusal {
    Map<String, ChangeSetHeader.ColumnType> types = new HashMap<>();
    drafted.columns().forEach(column -> types.put(column.name(), column));
    Set<String> expected = new HashSet<>(drafted.others());
    expected.addAll(types.keySet());
    List<Column> columns = new ArrayList<>();
    for (Column column : now.columns()) {
      if (!expected.remove(column.name()) && exactly) {
        throw changed(target, "table " + now.name() + " has a new column " + column.name());
      }
      ChangeSetHeader.ColumnType type = types.get(column.name());
      boolean strict = column.kind() != ValueKind.ANY;
      if (type != null && exactly && strict && !type.type().equals(column.type())) {
        throwIfOther(now, target, column, type);
      }
      addColumn(columns, column, type, strict);
    }
    if (!expected.isEmpty()) {
      throw changed(
          target,
          "table " + now.name() + " no longer has the column " + expected.iterator().next());
    }
    return new Table(
        now.name(),
        columns,
        now.positionsOrNone(drafted.key()),
        drafted.number().isEmpty() ? -1 : now.position(drafted.number()).orElse(-1),
        now.uniqueKeys(),
        now.foreignKeys());
  }

  private static void addColumn(
      List<Column> columns, Column column, ChangeSetHeader.ColumnType type, boolean strict) {
    columns.add(
        type == null || strict
            ? column
            : new Column(
                column.name(),
                type.kind(),
                type.type(),
                type.scale(),
                column.nullable(),
                false,
                false));
  }

  private static void throwIfOther(
      Table now, Copy target, Column column, ChangeSetHeader.ColumnType type) throws Refusal {
    boolean otherDatabase = type.kind() == ValueKind.ANY;
    if (!otherDatabase) {
      throw changed(
          target,
          "column "
              + column.name()
              + " of table "
              + now.name()
              + " is "
              + column.type()
              + " and was "
              + type.type());
    }
  }

  static Refusal changed(Copy target, String what) {
    return new Refusal(
        Refusal.Kind.UNDECIDED,
        "The tables of "
            + target.name()
            + " are not those that the change set was drafted for: "
            + what
            + ". Nothing was changed.",
        "Draft again with 'weftex draft' and have the new change set approved.");
  }
}
