package weftex.store.schema;

import java.sql.Connection;
import java.sql.SQLException;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeMap;
import java.util.function.Function;
import java.util.function.Predicate;
import weftex.core.change.SchemaChange;
import weftex.core.row.Column;
import weftex.core.row.ForeignKey;
import weftex.core.row.Value;
import weftex.core.schema.ColumnShape;
import weftex.core.schema.TableShape;
import weftex.store.FailureWords;
import weftex.store.Refusal;
import weftex.store.copy.Copy;
import weftex.store.database.CatalogTable;
import weftex.store.database.Connecting;
import weftex.store.database.SchemaWords;

/**
 * What the source's tables have beyond a base and the target: whole tables, and columns. The target
 * is then read as if it had them already, empty.
 */
public final class SchemaGrowth {
  private final Copy source;
  private final Copy target;
  private final Function<String, List<String>> baseColumns;
  private final Predicate<String> made;
  private final SchemaWords words;
  private final List<SchemaChange> changes = new ArrayList<>();
  private final Map<String, CatalogTable> grown = new TreeMap<>();
  private final Map<String, Map<String, Value>> fills = new LinkedHashMap<>();
  private final Set<String> newTables = new LinkedHashSet<>();
  private final Map<String, String> notMade = new TreeMap<>();
  private final NotAdded notAdded;

  private SchemaGrowth(
      Copy source,
      Copy target,
      Function<String, List<String>> baseColumns,
      Predicate<String> made,
      SchemaWords words) {
    this.source = source;
    this.target = target;
    this.baseColumns = baseColumns;
    this.made = made;
    this.words = words;
    this.notAdded = new NotAdded(source, target);
  }

  /**
   * Finds out.
   *
   * @param baseColumns the base's columns of a table; empty if it lacks the table
   * @param wanted tables that are looked at, without prefix
   * @param made tables that an earlier apply made on the target
   */
  public static SchemaGrowth of(
      Copy source,
      Copy target,
      Function<String, List<String>> baseColumns,
      Predicate<String> wanted,
      Predicate<String> made)
      throws Refusal {
    SchemaGrowth growth =
        new SchemaGrowth(source, target, baseColumns, made, source.dialect().schema());
    List<CatalogTable> candidates =
        source.catalog().all().stream()
            .filter(table -> wanted.test(table.table().name()))
            .filter(growth::mayHaveGrown)
            .toList();
    if (!candidates.isEmpty()) {
      growth.look(candidates);
    }
    return growth;
  }

  /** No growth, where there is no base to tell it from what the target lost. */
  public static SchemaGrowth none(Copy source, Copy target) {
    return new SchemaGrowth(
        source, target, name -> List.of(), name -> false, source.dialect().schema());
  }

  private boolean mayHaveGrown(CatalogTable table) {
    List<String> known = baseColumns.apply(table.table().name());
    return known.isEmpty()
        || target
            .catalog()
            .find(table.table().name())
            .map(other -> !other.generated().containsAll(table.generated()))
            .orElse(false)
        || table.table().columns().stream().anyMatch(column -> !known.contains(column.name()));
  }

  private void look(List<CatalogTable> candidates) throws Refusal {
    List<CatalogTable> tables = new ArrayList<>();
    try (Connection connection = Connecting.open(source.spec())) {
      for (CatalogTable table : candidates) {
        String name = table.table().name();
        boolean onTarget = target.catalog().find(name).isPresent();
        if (!baseColumns.apply(name).isEmpty()) {
          if (onTarget) {
            growColumns(connection, table, target.catalog().find(name).orElseThrow());
          }
        } else if (onTarget) {
          // Whether the base lacks it because it is new, or because nobody recorded it, only an
          // apply of ours can tell.
          if (made.test(name)) {
            newTables.add(name);
          }
        } else if (source.isStrict() != target.isStrict()) {
          notMade.put(name, "only on " + source.name() + ", whose database is of another kind");
        } else {
          tables.add(table);
        }
      }
      for (CatalogTable table : parentsFirst(tables)) {
        makeTable(connection, table);
      }
    } catch (SQLException e) {
      throw new Refusal(
          Refusal.Kind.UNREACHABLE,
          "The definitions of new tables of "
              + source.name()
              + " can't be read: "
              + FailureWords.of(e)
              + ". Nothing was changed.",
          "Check that its user may read them.",
          e);
    }
  }

  /** A table stands after those that its foreign keys name. */
  private static List<CatalogTable> parentsFirst(List<CatalogTable> tables) {
    Map<String, CatalogTable> left = new LinkedHashMap<>();
    tables.forEach(table -> left.put(table.table().name(), table));
    List<CatalogTable> ordered = new ArrayList<>();
    while (!left.isEmpty()) {
      CatalogTable next =
          left.values().stream()
              .filter(
                  table ->
                      table.table().foreignKeys().stream()
                          .map(ForeignKey::table)
                          .noneMatch(
                              to -> !to.equals(table.table().name()) && left.containsKey(to)))
              .findFirst()
              .orElse(left.values().iterator().next());
      ordered.add(next);
      left.remove(next.table().name());
    }
    return ordered;
  }

  private void makeTable(Connection connection, CatalogTable table) throws SQLException {
    String name = table.table().name();
    Optional<String> missing = missingParent(table);
    if (missing.isPresent()) {
      notMade.put(
          name,
          "only on "
              + source.name()
              + ", and a foreign key of it leads to "
              + missing.get()
              + ", which "
              + target.name()
              + " would not have by then");
      return;
    }
    TableShape shape;
    try {
      shape = shape(connection, table);
    } catch (TableDefinition.Beyond e) {
      notMade.put(name, leftToAPerson(e));
      return;
    }
    changes.add(new SchemaChange(0, name, new SchemaChange.Made.NewTable(shape)));
    newTables.add(name);
    List<String> columns =
        table.table().columns().stream().map(c -> "NULL AS " + quote(c.name())).toList();
    String rows = "SELECT " + String.join(", ", columns) + " FROM (SELECT 1) t WHERE 1 = 0";
    grown.put(name, table.grown(table.table(), realName(name), table.collations(), rows));
  }

  /** A table that a new one needs, and that is neither there nor made before it. */
  private Optional<String> missingParent(CatalogTable table) {
    return table.table().foreignKeys().stream()
        .map(ForeignKey::table)
        .filter(to -> !to.equals(table.table().name()) && !grown.containsKey(to))
        .filter(to -> target.catalog().find(to).isEmpty())
        .findFirst();
  }

  private TableShape shape(Connection connection, CatalogTable table)
      throws SQLException, TableDefinition.Beyond {
    String prefix = source.spec().prefix();
    return TableDefinition.read(
        words.definition(connection, table.realName()),
        words.escapesByBackslash(),
        name -> name.startsWith(prefix) ? name.substring(prefix.length()) : name);
  }

  private String leftToAPerson(TableDefinition.Beyond e) {
    return "only on "
        + source.name()
        + ", and to be made by hand: "
        + FailureWords.of(e)
        + ", which a change set does not carry";
  }

  private String realName(String name) {
    return target.spec().prefix() + name;
  }

  private String quote(String name) {
    return source.dialect().quote(name);
  }

  private void growColumns(Connection connection, CatalogTable from, CatalogTable into)
      throws SQLException {
    String name = from.table().name();
    for (String column : from.generated()) {
      if (!into.generated().contains(column)) {
        notMade.put(name + "." + column, "only on " + source.name() + ", worked out by the server");
      }
    }
    List<String> known = baseColumns.apply(name);
    List<Column> fresh =
        from.table().columns().stream().filter(c -> !known.contains(c.name())).toList();
    TableShape table;
    try {
      table = shape(connection, from);
    } catch (TableDefinition.Beyond e) {
      fresh.forEach(column -> notMade.put(name + "." + column.name(), leftToAPerson(e)));
      return;
    }
    GrownTable more = new GrownTable(into);
    List<String> done = new ArrayList<>(known);
    for (Column column : fresh) {
      ColumnShape shape = table.column(column.name()).orElseThrow();
      Optional<Value> fill = words.fill(connection, shape, column);
      Optional<String> why = notAdded.why(from, into, column, fill.isPresent());
      if (why.isPresent()) {
        notMade.put(name + "." + column.name(), why.get());
        continue;
      }
      done.add(column.name());
      fills.computeIfAbsent(name, n -> new LinkedHashMap<>()).put(column.name(), fill.get());
      if (into.table().position(column.name()).isEmpty()) {
        changes.add(AddedColumn.addColumn(from, into, table, shape, fill.get(), done));
        more.add(column, from, words.literal(fill.get(), shape), source.dialect());
      }
    }
    if (more.hasMore()) {
      grown.put(name, more.table(source.dialect()));
    }
  }

  /** The target as it will be. */
  public Copy target() {
    return grown.isEmpty() ? target : target.grown(grown);
  }

  /** What makes the target so, in the order of making, not numbered yet. */
  public List<SchemaChange> changes() {
    return List.copyOf(changes);
  }

  /** New columns by table, with what they hold in rows that were there before. */
  public Map<String, Map<String, Value>> fills() {
    return fills;
  }

  /** Whether a table is not in the base because it is newer than that. */
  public boolean isNew(String table) {
    return newTables.contains(table);
  }

  /** New tables and columns that can't be brought, {@code table} or {@code table.column}. */
  public Map<String, String> notMade() {
    return notMade;
  }
}
