package weftex.store.copy;

import java.sql.Connection;
import java.sql.PreparedStatement;
import java.sql.ResultSet;
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
import java.util.function.UnaryOperator;
import weftex.core.changeset.SchemaChange;
import weftex.core.row.Column;
import weftex.core.row.ForeignKey;
import weftex.core.row.Table;
import weftex.core.row.Value;
import weftex.store.Refusal;

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
              + e.getMessage()
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
    List<String> statements =
        words.definition(connection, table.realName()).stream().map(this::onTarget).toList();
    changes.add(new SchemaChange(0, name, Optional.empty(), statements, List.of(), ""));
    newTables.add(name);
    List<String> columns =
        table.table().columns().stream().map(c -> "NULL AS " + quote(c.name())).toList();
    String rows = "SELECT " + String.join(", ", columns) + " FROM (SELECT 1) t WHERE 1 = 0";
    grown.put(name, table.grown(table.table(), realName(name), table.collations(), rows));
  }

  private String realName(String name) {
    return target.spec().prefix() + name;
  }

  private String onTarget(String statement) {
    String prefix = source.spec().prefix();
    UnaryOperator<String> names =
        name -> name.startsWith(prefix) ? realName(name.substring(prefix.length())) : name;
    return TableDefinition.renamed(statement, words.escapesByBackslash(), names);
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
    List<String> definition = words.definition(connection, from.realName());
    TableDefinition table = new TableDefinition(definition.get(0), words.escapesByBackslash());
    List<Column> columns = new ArrayList<>(into.table().columns());
    Map<String, String> collations = new LinkedHashMap<>(into.collations());
    List<String> literals = new ArrayList<>();
    List<String> done = new ArrayList<>(known);
    for (Column column : fresh) {
      boolean onTarget = into.table().position(column.name()).isPresent();
      Optional<String> fill = words.fill(connection, table, column);
      Optional<String> why = whyNot(from, column, fill, onTarget);
      if (why.isEmpty() && !onTarget && into.versioned()) {
        why =
            Optional.of(
                "only on "
                    + source.name()
                    + "; the table is system-versioned on "
                    + target.name()
                    + ", where a new column would alter its history");
      }
      if (why.isPresent()) {
        notMade.put(name + "." + column.name(), why.get());
        continue;
      }
      done.add(column.name());
      fills
          .computeIfAbsent(name, unused -> new LinkedHashMap<>())
          .put(column.name(), value(connection, column, fill.orElseThrow()));
      if (!onTarget) {
        changes.add(addColumn(from, into, table, definition, column, fill.get(), done));
        columns.add(column);
        Optional.ofNullable(from.collations().get(column.name()))
            .ifPresent(collation -> collations.put(column.name(), collation));
        literals.add(fill.get() + " AS " + quote(column.name()));
      }
    }
    if (!literals.isEmpty()) {
      Table old = into.table();
      String rows =
          "SELECT t.*, " + String.join(", ", literals) + " FROM " + quote(into.realName()) + " t";
      Table shape =
          new Table(
              old.name(), columns, old.key(), old.number(), old.uniqueKeys(), old.foreignKeys());
      grown.put(name, into.grown(shape, into.realName(), collations, rows));
    }
  }

  private Optional<String> whyNot(
      CatalogTable from, Column column, Optional<String> fill, boolean onTarget) {
    if (fill.isEmpty()) {
      return Optional.of(
          (onTarget ? "on both copies, not in the base" : "only on " + source.name())
              + ", and what it holds in older rows is worked out by the server");
    }
    boolean key =
        from.table().key().stream()
            .anyMatch(i -> from.table().columns().get(i).name().equals(column.name()));
    if (!from.table().hasKey()) {
      return Optional.of("only on " + source.name() + ", in a table without a key");
    }
    if (key) {
      return Optional.of("only on " + source.name() + ", and part of the key");
    }
    return !onTarget && source.isStrict() != target.isStrict()
        ? Optional.of("only on " + source.name() + ", whose database is of another kind")
        : Optional.empty();
  }

  private SchemaChange addColumn(
      CatalogTable from,
      CatalogTable into,
      TableDefinition table,
      List<String> definition,
      Column column,
      String fill,
      List<String> known) {
    List<TableDefinition.Index> inside =
        table.indexes().stream()
            .filter(index -> belongs(index.columns(), column.name(), known))
            .toList();
    List<TableDefinition.Index> apart =
        definition.stream()
            .skip(1)
            .map(sql -> TableDefinition.index(sql, words.escapesByBackslash()))
            .filter(index -> belongs(index.columns(), column.name(), known))
            .toList();
    List<String> names = new ArrayList<>();
    inside.forEach(index -> names.add(index.name()));
    apart.forEach(index -> names.add(index.name()));
    int at = from.table().position(column.name()).orElseThrow();
    Optional<String> after =
        at == 0
            ? Optional.empty()
            : Optional.of(from.table().columns().get(at - 1).name())
                .filter(before -> into.table().position(before).isPresent());
    return new SchemaChange(
        0,
        into.table().name(),
        Optional.of(column.name()),
        words.addColumn(
            into.realName(),
            table.column(column.name()).orElseThrow(),
            after,
            inside,
            apart.stream().map(index -> onTarget(index.text())).toList()),
        names,
        fill);
  }

  /** Whether an index is made with this column: all its others are there by then. */
  private static boolean belongs(List<String> columns, String column, List<String> known) {
    return columns.contains(column) && known.containsAll(columns);
  }

  /** Reads a literal as the column would give it. */
  private Value value(Connection connection, Column column, String literal) throws SQLException {
    Table table = new Table("fill", List.of(column), List.of(), -1, List.of(), List.of());
    String from = "(SELECT " + literal + " AS " + quote(column.name()) + ") t";
    try (PreparedStatement statement =
            connection.prepareStatement(
                "SELECT " + source.dialect().readExpression(column) + " FROM " + from);
        ResultSet rows = statement.executeQuery()) {
      rows.next();
      return RowReader.ofFew(new Layout(table, "fill", List.of()), source.dialect())
          .readWithoutKey(rows)
          .values()
          .get(0);
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
