package weftex.core.changeset;

import java.io.ByteArrayInputStream;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import weftex.core.merge.ConflictKind;
import weftex.core.row.Value;
import weftex.core.row.ValueKind;

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
                  List.of("seen"))));

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
      List<RowChange.Need> needs) {
    return new RowChange(
        id,
        action,
        "pages",
        Map.of("id", Value.whole(id)),
        before,
        after,
        conflicts,
        Optional.empty(),
        false,
        offered,
        Optional.empty(),
        Optional.empty(),
        needs,
        Map.of(),
        Optional.empty(),
        Trace.NONE);
  }

  static Conflict conflict(ConflictKind kind, boolean binding, String... columns) {
    Map<String, Value> source = new java.util.LinkedHashMap<>();
    Map<String, Value> target = new java.util.LinkedHashMap<>();
    for (String column : columns) {
      source.put(column, Value.text("source's " + column));
      target.put(column, Value.text("target's " + column));
    }
    return new Conflict(
        kind, binding, List.of(columns), Map.of(), source, target, Map.of(), "a reason");
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

  static ChangeSetReader.Contents read(byte[] file) throws IOException, ChangeSetProblem {
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
}
