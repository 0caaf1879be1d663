package weftex.core.file;

import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import weftex.core.change.Action;
import weftex.core.change.Head;
import weftex.core.change.Item;
import weftex.core.change.RowChange;
import weftex.core.change.Ties;
import weftex.core.change.Trace;
import weftex.core.model.SiteModel;
import weftex.core.row.Column;
import weftex.core.row.Table;
import weftex.core.row.Value;
import weftex.core.row.ValueKind;
import weftex.core.site.SiteMap;
import weftex.core.site.TableModel;

/** A site whose rows name files in each of the ways in which rows do. */
final class FileSite {
  private static final String MODEL =
      """
      model: test
      linked-files: [media]
      tables:
        pages: {}
        details:
          files:
            - {when: {name: file}, column: value, under: media}
            - {when: {name: sizes}, column: value, path: file, under: media}
            - {when: {name: sizes}, column: value, path: "sizes.*.file", beside: file, under: media}
      """;

  final SiteMap site;
  final NamedFiles names;

  FileSite() {
    try {
      this.site =
          SiteMap.resolve(
              SiteModel.read(MODEL),
              List.of(table("pages", "id", "body"), table("details", "id", "name", "value")));
    } catch (Exception e) {
      throw new IllegalStateException(e);
    }
    this.names = new NamedFiles(site, Set.of("skerrow.example"));
  }

  private static Table table(String name, String... columns) {
    List<Column> shapes = new ArrayList<>();
    for (String column : columns) {
      shapes.add(Column.of(column, column.equals("id") ? ValueKind.WHOLE : ValueKind.TEXT));
    }
    return new Table(name, shapes, List.of(0), 0, List.of(), List.of());
  }

  TableModel details() {
    return site.table("details");
  }

  static List<Value> row(String... values) {
    List<Value> row = new ArrayList<>(List.of(Value.whole(1)));
    for (String value : values) {
      row.add(Value.text(value));
    }
    return row;
  }

  /** A picture and two sizes of it, as some CMS writes it down. */
  static String sizes(String file, String... others) {
    StringBuilder text = new StringBuilder("a:2:{s:4:\"file\";" + text(file) + "s:5:\"sizes\";a:");
    text.append(others.length).append(":{");
    for (int i = 0; i < others.length; i++) {
      text.append(text("size" + i))
          .append("a:1:{s:4:\"file\";")
          .append(text(others[i]))
          .append('}');
    }
    return text + "}}";
  }

  private static String text(String text) {
    return "s:" + text.length() + ":\"" + text + "\";";
  }

  /** A change of a detail. */
  static RowChange detail(int id, Action action, String name, String before, String after) {
    return new RowChange(
        head(id, action, "details", "picture"),
        action == Action.ADD ? Map.of() : named(id, name, before),
        action == Action.REMOVE
            ? Map.of()
            : action == Action.ADD ? named(id, name, after) : Map.of("value", Value.text(after)),
        Map.of(),
        List.of());
  }

  /** A change of a page. */
  static RowChange page(int id, Action action, String before, String after) {
    return new RowChange(
        head(id, action, "pages", "page"),
        action == Action.ADD ? Map.of() : Map.of("body", Value.text(before)),
        action == Action.REMOVE ? Map.of() : Map.of("body", Value.text(after)),
        Map.of(),
        List.of());
  }

  private static Map<String, Value> named(int id, String name, String value) {
    Map<String, Value> row = new LinkedHashMap<>();
    row.put("id", Value.whole(id));
    row.put("name", Value.text(name));
    row.put("value", Value.text(value));
    return row;
  }

  private static Head head(int id, Action action, String table, String kind) {
    return new Head(
        id,
        action,
        table,
        Map.of("id", Value.whole(id)),
        Optional.empty(),
        false,
        Ties.NONE,
        Optional.of(new Item(kind, "Pier", "")),
        Trace.NONE);
  }
}
