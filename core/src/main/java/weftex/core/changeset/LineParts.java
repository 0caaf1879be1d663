package weftex.core.changeset;

import com.fasterxml.jackson.databind.JsonNode;
import java.io.IOException;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import weftex.core.change.Alike;
import weftex.core.change.ChangeSetHeader;
import weftex.core.change.SchemaChange;
import weftex.core.change.Ties;
import weftex.core.merge.ConflictKind;
import weftex.core.row.ValueKind;
import weftex.core.signoff.Answer;
import weftex.core.signoff.Approval;
import weftex.core.signoff.Decision;
import weftex.core.signoff.Withdrawal;

/** What stands in single lines of a change set, and in those of a receipt that are alike. */
public final class LineParts {
  private LineParts() {}

  static ChangeSetHeader header(JsonNode node) {
    return new ChangeSetHeader(
        text(node, "site"),
        text(node, "from"),
        text(node, "into"),
        text(node, "target"),
        Optional.ofNullable(node.get("base")).map(JsonNode::asText),
        text(node, "drafted"),
        text(node, "tool"),
        selection(node.path("selection")),
        tables(node.get("tables")),
        strings(node.path("sealed-for")));
  }

  private static Map<String, List<String>> selection(JsonNode node) {
    Map<String, List<String>> selection = new LinkedHashMap<>();
    node.properties().forEach(said -> selection.put(said.getKey(), strings(said.getValue())));
    return selection;
  }

  /** Reads what {@link ChangeSetWriter#writeTables} wrote. */
  public static List<ChangeSetHeader.TableColumns> tables(JsonNode array) {
    List<ChangeSetHeader.TableColumns> tables = new ArrayList<>();
    for (JsonNode table : array) {
      List<ChangeSetHeader.ColumnType> columns = new ArrayList<>();
      for (JsonNode column : table.get("columns")) {
        columns.add(
            new ChangeSetHeader.ColumnType(
                text(column, "name"),
                ValueKind.valueOf(text(column, "kind").toUpperCase(Locale.ROOT)),
                column.path("scale").asInt(),
                text(column, "type")));
      }
      tables.add(
          new ChangeSetHeader.TableColumns(
              text(table, "name"),
              strings(table.get("key")),
              text(table, "number"),
              columns,
              strings(table.get("others"))));
    }
    return tables;
  }

  /** Reads what {@link ChangeSetWriter#line(SchemaChange)} wrote. */
  public static SchemaChange schema(JsonNode node) throws IOException {
    return new SchemaChange(node.get("change").asInt(), text(node, "table"), made(node));
  }

  private static SchemaChange.Made made(JsonNode node) throws IOException {
    if (node.has("statements")) {
      return new SchemaChange.Made.Named(
          Optional.ofNullable(node.get("column")).map(JsonNode::asText),
          strings(node.path("indexes")));
    }
    return node.has("shape")
        ? new SchemaChange.Made.NewTable(ShapeJson.table(node.path("shape")))
        : new SchemaChange.Made.NewColumn(
            ShapeJson.column(node.path("column")),
            Optional.ofNullable(node.get("after")).map(JsonNode::asText),
            ShapeJson.indexes(node.path("indexes")),
            JsonValues.read(node.path("fill")));
  }

  static Ties.Need need(JsonNode node) {
    return new Ties.Need(
        node.get("change").asInt(),
        ConflictKind.ofLabel(text(node, "else")),
        strings(node.get("columns")));
  }

  static Map<Ties.Hanger, Long> hangers(JsonNode node) {
    Map<Ties.Hanger, Long> hangers = new LinkedHashMap<>();
    node.properties()
        .forEach(f -> hangers.put(Ties.Hanger.parse(f.getKey()), f.getValue().asLong()));
    return hangers;
  }

  static Decision decision(JsonNode node) throws IOException {
    List<Integer> ids = new ArrayList<>();
    node.get("changes").forEach(id -> ids.add(id.asInt()));
    return new Decision(
        ids,
        Optional.ofNullable(node.get("column")).map(JsonNode::asText),
        node.has("passage")
            ? Optional.of(
                new Decision.Passage(node.get("passage").asInt(), node.path("of").asInt()))
            : Optional.empty(),
        Answer.valueOf(text(node, "answer").toUpperCase(Locale.ROOT)),
        node.has("value") ? Optional.of(JsonValues.read(node.get("value"))) : Optional.empty(),
        text(node, "by"),
        text(node, "at"),
        text(node, "why"));
  }

  static Alike alike(JsonNode node) throws IOException {
    return new Alike(
        text(node, "table"),
        JsonValues.readMap(node.get("key")),
        JsonValues.readMap(node.get("values")));
  }

  static Withdrawal withdrawal(JsonNode node) {
    return new Withdrawal(node.get("decision").asInt(), text(node, "by"), text(node, "at"));
  }

  static Approval approval(JsonNode node) {
    return new Approval(
        text(node, "by"),
        text(node, "at"),
        text(node, "sha256"),
        node.has("signature") ? Optional.of(text(node, "signature")) : Optional.empty());
  }

  static String text(JsonNode node, String member) {
    JsonNode value = node.get(member);
    if (value == null || !value.isTextual()) {
      throw new IllegalArgumentException("'" + member + "' must be a text");
    }
    return value.textValue();
  }

  static List<String> strings(JsonNode array) {
    List<String> strings = new ArrayList<>();
    array.forEach(item -> strings.add(item.asText()));
    return strings;
  }
}
