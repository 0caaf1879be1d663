package weftex.core.changeset;

import java.io.ByteArrayInputStream;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import weftex.core.change.Action;
import weftex.core.change.ChangeSetHeader;
import weftex.core.change.Conflict;
import weftex.core.change.Head;
import weftex.core.change.RowChange;
import weftex.core.change.SchemaChange;
import weftex.core.change.Ties;
import weftex.core.merge.ConflictKind;
import weftex.core.row.Value;
import weftex.core.row.ValueKind;
import weftex.core.schema.Collated;
import weftex.core.schema.ColumnShape;
import weftex.core.schema.IndexShape;
import weftex.core.schema.ReferenceShape;
import weftex.core.schema.TableOptions;
import weftex.core.schema.TableShape;
import weftex.core.signoff.Answer;
import weftex.core.signoff.Decision;

/** Change sets for tests. */
final class Changes {
  static final ChangeSetHeader HEADER =
      new ChangeSetHeader(
          "skerrow",
          "staging",
          "live",
          "sqlite live.db",
          Optional.of("live of a week ago"),
          "2026-11-25T10:00:00Z",
          "weftex test",
          Map.of("item", List.of("page:Fares")),
          List.of(
              new ChangeSetHeader.TableColumns(
                  "pages",
                  List.of("id"),
                  "id",
                  List.of(
                      new ChangeSetHeader.ColumnType("id", ValueKind.WHOLE, 0, "bigint"),
                      new ChangeSetHeader.ColumnType(
                          "price", ValueKind.DECIMAL, 2, "decimal(8,2)")),
                  List.of("seen"))),
          List.of());

  private Changes() {}

  static RowChange update(
      int id, Map<String, Value> before, Map<String, Value> after, Conflict... conflicts) {
    return change(id, Action.UPDATE, before, after, List.of(conflicts), false, List.of());
  }

  static RowChange change(
      int id,
      Action action,
      Map<String, Value> before,
      Map<String, Value> after,
      List<Conflict> conflicts,
      boolean offered,
      List<Ties.Need> needs) {
    return new RowChange(
        Head.of(id, action, "pages", Map.of("id", Value.whole(id)))
            .with(
                new Ties(offered, Optional.empty(), List.of(), Optional.empty(), needs, Map.of())),
        before,
        after,
        Map.of(),
        conflicts);
  }

  static Conflict conflict(ConflictKind kind, boolean binding, String... columns) {
    Map<String, Value> source = new java.util.LinkedHashMap<>();
    Map<String, Value> target = new java.util.LinkedHashMap<>();
    for (String column : columns) {
      source.put(column, Value.text("source's " + column));
      target.put(column, Value.text("target's " + column));
    }
    return new Conflict(
        kind, binding, List.of(columns), Map.of(), source, target, Map.of(), List.of(), "a reason");
  }

  static byte[] file(RowChange... changes) throws IOException {
    ByteArrayOutputStream out = new ByteArrayOutputStream();
    ChangeSetWriter writer = new ChangeSetWriter(out, HEADER);
    for (RowChange change : changes) {
      writer.write(change);
    }
    writer.finish();
    return out.toByteArray();
  }

  static byte[] plus(byte[] file, byte[]... lines) throws IOException {
    ByteArrayOutputStream out = new ByteArrayOutputStream();
    out.write(file);
    for (byte[] line : lines) {
      out.write(line);
    }
    return out.toByteArray();
  }

  static ChangeSetContents read(byte[] file) throws IOException, ChangeSetProblem {
    return ChangeSetReader.read(new ByteArrayInputStream(file), new ChangeSetReader.Visitor() {});
  }

  static List<RowChange> changes(byte[] file) throws IOException, ChangeSetProblem {
    List<RowChange> changes = new ArrayList<>();
    ChangeSetReader.read(
        new ByteArrayInputStream(file),
        new ChangeSetReader.Visitor() {
          @Override
          public void change(RowChange change) {
            changes.add(change);
          }
        });
    return changes;
  }

  static Decision decision(Answer answer, String column, Integer... ids) {
    return Decision.of(
        List.of(ids),
        column.isEmpty() ? Optional.empty() : Optional.of(column),
        answer,
        "Mira",
        "2026-11-25T11:00:00Z",
        "");
  }

  /** A new table with one of everything that a shape holds. */
  static SchemaChange newTable(int id, String table) {
    ColumnShape number =
        new ColumnShape(
            "id",
            "bigint(20) unsigned",
            List.of(),
            false,
            Optional.empty(),
            true,
            Optional.empty(),
            Collated.AS_AROUND,
            "",
            false);
    ColumnShape mood =
        new ColumnShape(
            "mood",
            "enum",
            List.of("calm", "it's rough"),
            true,
            Optional.of(new ColumnShape.Standard.Literal(Value.text("calm"))),
            false,
            Optional.empty(),
            new Collated(Optional.of("utf8mb4"), Optional.of("utf8mb4_bin")),
            "the sea's",
            false);
    ColumnShape seen =
        new ColumnShape(
            "seen",
            "datetime(3)",
            List.of(),
            false,
            Optional.of(new ColumnShape.Standard.Now(3)),
            false,
            Optional.of(3),
            Collated.AS_AROUND,
            "",
            false);
    ColumnShape data =
        new ColumnShape(
            "data",
            "longtext",
            List.of(),
            true,
            Optional.of(new ColumnShape.Standard.Literal(Value.NULL)),
            false,
            Optional.empty(),
            Collated.AS_AROUND,
            "",
            true);
    IndexShape.Part part = new IndexShape.Part("mood", Optional.of(3), true, Optional.of("NOCASE"));
    return new SchemaChange(
        id,
        table,
        new SchemaChange.Made.NewTable(
            new TableShape(
                List.of(number, mood, seen, data),
                List.of(
                    new IndexShape(
                        "",
                        IndexShape.Kind.PRIMARY,
                        List.of(
                            new IndexShape.Part("id", Optional.empty(), false, Optional.empty()))),
                    new IndexShape("by_mood", IndexShape.Kind.UNIQUE, List.of(part))),
                List.of(
                    new ReferenceShape(
                        List.of("id"),
                        "pages",
                        List.of("id"),
                        ReferenceShape.Consequence.SET_NULL,
                        ReferenceShape.Consequence.NONE)),
                new TableOptions(
                    Optional.of("InnoDB"),
                    new Collated(Optional.of("utf8mb4"), Optional.of("utf8mb4_bin")),
                    Optional.of("DYNAMIC"),
                    "made up",
                    true,
                    true))));
  }

  static SchemaChange newColumn(int id, String table, String column) {
    ColumnShape shape =
        new ColumnShape(
            column,
            "decimal(6,2)",
            List.of(),
            false,
            Optional.of(new ColumnShape.Standard.Literal(new Value.Decimal("1.50"))),
            false,
            Optional.empty(),
            Collated.AS_AROUND,
            "",
            false);
    IndexShape index =
        new IndexShape(
            "by_" + column,
            IndexShape.Kind.PLAIN,
            List.of(new IndexShape.Part(column, Optional.empty(), false, Optional.empty())));
    return new SchemaChange(
        id,
        table,
        new SchemaChange.Made.NewColumn(
            shape, Optional.of("title"), List.of(index), new Value.Decimal("1.50")));
  }
}
