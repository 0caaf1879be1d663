package weftex.core.plan;

import java.io.IOException;
import java.math.BigInteger;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.Iterator;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeMap;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import weftex.core.change.RowChange;
import weftex.core.change.SchemaChange;
import weftex.core.compare.Comparison;
import weftex.core.compare.MemoryLog;
import weftex.core.compare.RowMapping;
import weftex.core.compare.Side;
import weftex.core.match.BaseEvidence;
import weftex.core.match.Knowledge;
import weftex.core.match.Matching;
import weftex.core.match.PastMerges;
import weftex.core.match.Sameness;
import weftex.core.model.Role;
import weftex.core.model.SiteModel;
import weftex.core.reference.RowFinder;
import weftex.core.row.Column;
import weftex.core.row.ForeignKey;
import weftex.core.row.Row;
import weftex.core.row.RowName;
import weftex.core.row.RowStream;
import weftex.core.row.SortKey;
import weftex.core.row.Table;
import weftex.core.row.Value;
import weftex.core.row.ValueKind;
import weftex.core.select.Selection;
import weftex.core.site.SiteMap;

/**
 * A site in memory with three sides, drawn in a few lines: {@code row("pages", "4, fares, Fares,
 * NULL")}.
 */
final class Sketch {
  static final Table PAGES =
      table(
          "pages",
          List.of("id", "slug", "title", "parent"),
          0,
          List.of(List.of(1)),
          new ForeignKey(List.of("parent"), "pages", List.of("id")));
  static final Table NOTES =
      table(
          "notes",
          List.of("id", "text", "page"),
          0,
          List.of(),
          new ForeignKey(List.of("page"), "pages", List.of("id")));
  static final Table LINKS =
      new Table(
          "links",
          columns(List.of("page", "tag")),
          List.of(0, 1),
          -1,
          List.of(),
          List.of(new ForeignKey(List.of("page"), "pages", List.of("id"))));
  static final Table COMMENTS = table("comments", List.of("id", "text", "page_no"), 0, List.of());

  private final List<Table> tables;
  private final SiteModel model;
  final Map<String, String> people = new TreeMap<>();
  final Set<RowName> apart = new HashSet<>();
  final Map<RowName, BigInteger> same = new HashMap<>();
  BaseEvidence evidence = BaseEvidence.NONE;
  final List<SchemaChange> schema = new ArrayList<>();
  final Copy base = new Copy();
  final Copy source = new Copy();
  final Copy target = new Copy();

  Sketch(SiteModel model, Table... tables) {
    this.model = model;
    this.tables = List.of(tables);
  }

  Sketch(Table... tables) {
    this(
        SiteModel.PLAIN.withRoles(
            Stream.of(tables).collect(Collectors.toMap(Table::name, table -> Role.CONTENT))),
        tables);
  }

  static Table table(
      String name,
      List<String> columns,
      int number,
      List<List<Integer>> unique,
      ForeignKey... keys) {
    return new Table(name, columns(columns), List.of(number), number, unique, List.of(keys));
  }

  /**
   * Columns {@code id}, {@code page}, {@code parent} and {@code page_no} are numbers; {@code
   * parent} may be NULL.
   */
  private static List<Column> columns(List<String> names) {
    return names.stream()
        .map(
            name -> {
              boolean number = List.of("id", "page", "parent", "page_no").contains(name);
              ValueKind kind = number ? ValueKind.WHOLE : ValueKind.TEXT;
              return new Column(name, kind, "x", 0, name.equals("parent"), false, false);
            })
        .toList();
  }

  /** One side: rows by table and key. */
  final class Copy implements Side, RowFinder {
    private final Map<String, TreeMap<SortKey, List<Value>>> rows = new LinkedHashMap<>();

    /** Adds or replaces a row whose cells have commas, written as another sign. */
    Copy row(String table, String cells, char comma) {
      List<Value> values =
          values(cells).stream()
              .map(v -> v instanceof Value.Text ? Value.text(v.display().replace(comma, ',')) : v)
              .toList();
      of(table).put(key(shape(table), values), values);
      return this;
    }

    /** Adds or replaces a row. */
    Copy row(String table, String cells) {
      List<Value> values = values(cells);
      of(table).put(key(shape(table), values), values);
      return this;
    }

    Copy without(String table, String key) {
      of(table).remove(key(keyOnly(shape(table)), values(key)));
      return this;
    }

    private TreeMap<SortKey, List<Value>> of(String table) {
      return rows.computeIfAbsent(table, name -> new TreeMap<>());
    }

    @Override
    public RowStream open(Table table) {
      Iterator<Map.Entry<SortKey, List<Value>>> all = of(table.name()).entrySet().iterator();
      return new RowStream() {
        @Override
        public Row next() {
          if (!all.hasNext()) {
            return Row.ABSENT;
          }
          var entry = all.next();
          return Row.of(entry.getKey(), entry.getValue());
        }

        @Override
        public void close() {}
      };
    }

    @Override
    public List<Row> find(Table table, List<Integer> columns, List<Value> values, int limit) {
      if (values.stream().anyMatch(Value.Fresh.class::isInstance)) {
        throw new IllegalArgumentException("no database can be asked for " + values);
      }
      return of(table.name()).entrySet().stream()
          .filter(entry -> Table.pick(entry.getValue(), columns).equals(values))
          .limit(limit)
          .map(entry -> Row.of(entry.getKey(), entry.getValue()))
          .toList();
    }

    @Override
    public long count(Table table, List<Integer> columns, List<Value> values) {
      return find(table, columns, values, Integer.MAX_VALUE).size();
    }
  }

  /** The same row on all three sides. */
  Sketch everywhere(String table, String cells) {
    base.row(table, cells);
    source.row(table, cells);
    target.row(table, cells);
    return this;
  }

  private Table shape(String name) {
    return tables.stream().filter(t -> t.name().equals(name)).findFirst().orElseThrow();
  }

  private static Table keyOnly(Table table) {
    List<Integer> first = new ArrayList<>();
    for (int i = 0; i < table.key().size(); i++) {
      first.add(i);
    }
    return new Table(table.name(), table.columns(), first, -1, List.of(), List.of());
  }

  private static SortKey key(Table table, List<Value> values) {
    SortKey.Builder key = new SortKey.Builder();
    for (Value value : Table.pick(values, table.key())) {
      if (value instanceof Value.Whole whole) {
        key.add(whole.number());
      } else {
        key.add(((Value.Text) value).utf8());
      }
    }
    return key.build();
  }

  private static List<Value> values(String cells) {
    List<Value> values = new ArrayList<>();
    for (String cell : cells.split(",\\s*")) {
      values.add(
          cell.equals("NULL")
              ? Value.NULL
              : cell.matches("\\d+") ? new Value.Whole(new BigInteger(cell)) : Value.text(cell));
    }
    return values;
  }

  /** What earlier merges made; none unless a test says so. */
  PastMerges past = PastMerges.NONE;

  List<RowChange> plan(Selection selection) throws IOException {
    return changes(planned(selection));
  }

  Plan planned(Selection selection) throws IOException {
    return planner().choose(selection);
  }

  /** The rows on their sides, and where the log has each of those that the source changed. */
  KeptSides rows(long most, List<Long> positions) throws IOException {
    SiteMap site = SiteMap.resolve(model, tables);
    Comparison comparison =
        Comparison.threeWay(
            List.copyOf(site.tables()),
            new Comparison.Sides(base, source, target),
            new MemoryLog(),
            n -> {});
    for (int table = 0; table < tables.size(); table++) {
      comparison.bySource(table).forEach(positions::add);
    }
    Knowledge known =
        new Knowledge(Set.of("skerrow.example"), new Sameness(people, apart, same), past, evidence);
    return new KeptSides(comparison, new Matching(comparison, site, source, target, known), most);
  }

  Planner planner() throws IOException {
    SiteMap site = SiteMap.resolve(model, tables);
    Comparison comparison =
        Comparison.threeWay(
            List.copyOf(site.tables()),
            new Comparison.Sides(base, source, target),
            new MemoryLog(),
            n -> {});
    return new Planner(
        comparison,
        site,
        schema,
        source,
        target,
        new Knowledge(
            Set.of("skerrow.example"), new Sameness(people, apart, same), past, evidence));
  }

  List<RowChange> planTwoWay() throws IOException {
    SiteMap site = SiteMap.resolve(model, tables);
    Comparison comparison =
        Comparison.twoWay(
            List.copyOf(site.tables()),
            new Comparison.TwoSides(source, target, RowMapping.NONE, Comparison.Pairs.BY_IDENTITY),
            new MemoryLog(),
            n -> {});
    return changes(
        new Planner(
                comparison,
                site,
                schema,
                source,
                target,
                new Knowledge(
                    Set.of("skerrow.example"), new Sameness(people, apart, same), past, evidence))
            .choose(Selection.CONTENT));
  }

  static List<RowChange> changes(Plan plan) throws IOException {
    List<RowChange> changes = new ArrayList<>();
    plan.forEach(changes::add);
    return changes;
  }

  /** Each change in a line: {@code add pages 13 renumbered: parent=new pages#12 [conflict]}. */
  List<String> lines() throws IOException {
    return plan(Selection.CONTENT).stream().map(Sketch::line).toList();
  }

  static String line(RowChange change) {
    StringBuilder line = new StringBuilder();
    if (change.offered()) {
      line.append("offer ");
    }
    line.append(change.action().label())
        .append(' ')
        .append(change.table())
        .append(' ')
        .append(change.keyText());
    if (change.renumbered()) {
      line.append(" renumbered");
    }
    if (!change.after().isEmpty()) {
      line.append(':');
      change
          .after()
          .forEach(
              (name, value) -> line.append(' ').append(name).append('=').append(value.display()));
    }
    change
        .conflicts()
        .forEach(
            c ->
                line.append(" [")
                    .append(c.kind().label())
                    .append(c.columns().isEmpty() ? "" : " " + String.join("+", c.columns()))
                    .append(']'));
    change.needs().forEach(n -> line.append(" needs ").append(n.change()));
    return line.toString();
  }
}
