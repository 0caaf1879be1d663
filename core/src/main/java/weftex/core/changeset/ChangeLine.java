package weftex.core.changeset;

import com.fasterxml.jackson.core.JsonParser;
import com.fasterxml.jackson.core.JsonToken;
import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.node.ObjectNode;
import java.io.IOException;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import weftex.core.merge.ConflictKind;
import weftex.core.row.RowName;
import weftex.core.row.Value;

/**
 * Reads a change of a row. Without its values it tells which columns there are, what is in conflict
 * and what it needs, and a change set with long texts is read in a fraction of the time.
 */
final class ChangeLine {
  private ChangeLine() {}

  /**
   * Reads a line.
   *
   * @param values whether they are wanted; if not, the change has NULL for each but those of its
   *     key
   * @return empty if the line is no change of a row, or does not begin as one
   * @throws IllegalArgumentException if a member is missing or wrong
   */
  static Optional<RowChange> read(byte[] line, boolean values) throws IOException {
    try (JsonParser json = JsonLines.parser(line)) {
      if (json.nextToken() != JsonToken.START_OBJECT || !"change".equals(json.nextFieldName())) {
        return Optional.empty();
      }
      Optional<RowChange> row = new Members(json, values).read();
      if (row.isPresent() && json.nextToken() != null) {
        throw new IllegalArgumentException("something follows the object");
      }
      return row;
    }
  }

  /**
   * Reads a change from a stream of them, without its values.
   *
   * @param json behind the name of the first member, {@code change}
   * @return empty if it is a new table or column, whose members are then in {@code schema}
   */
  static Optional<RowChange> read(JsonParser json, ObjectNode schema) throws IOException {
    Members members = new Members(json, false);
    Optional<RowChange> row = members.read();
    if (row.isEmpty()) {
      schema.put("change", members.id);
      while (json.nextToken() == JsonToken.FIELD_NAME) {
        String name = json.currentName();
        json.nextToken();
        schema.set(name, JsonLines.tree(json));
      }
    }
    return row;
  }

  /**
   * Reads a change whose line has been parsed.
   *
   * @throws IllegalArgumentException if a member is missing or wrong
   */
  static RowChange of(JsonNode node) throws IOException {
    try (JsonParser json = node.traverse()) {
      json.nextToken();
      json.nextToken();
      return new Members(json, true)
          .read()
          .orElseThrow(() -> new IllegalArgumentException("'do' can't be " + node.get("do")));
    }
  }

  /** The members of a line, as they come. */
  private static final class Members {
    private final JsonParser json;
    private final boolean values;
    private int id;
    private Action action;
    private String table;
    private Map<String, Value> key = Map.of();
    private Map<String, Value> before = Map.of();
    private Map<String, Value> after = Map.of();
    private Map<String, Value> drafted = Map.of();
    private Optional<Item> item = Optional.empty();
    private String path = "";
    private String evidence = "";
    private Trace.Touch onSource = Trace.Touch.UNKNOWN;
    private Trace.Touch onTarget = Trace.Touch.UNKNOWN;
    private Optional<RowName> fresh = Optional.empty();
    private boolean renumbered;
    private boolean offered;
    private Optional<Integer> with = Optional.empty();
    private Optional<Integer> alongWith = Optional.empty();
    private final List<Conflict> conflicts = new ArrayList<>();
    private final List<RowChange.Need> needs = new ArrayList<>();
    private final Map<RowChange.Hanger, Long> hangers = new LinkedHashMap<>();

    private Members(JsonParser json, boolean values) {
      this.json = json;
      this.values = values;
    }

    private Optional<RowChange> read() throws IOException {
      for (JsonToken at = json.currentToken(); at == JsonToken.FIELD_NAME; at = json.nextToken()) {
        String name = json.currentName();
        json.nextToken();
        switch (name) {
          case "change" -> id = json.getIntValue();
          case "do" -> {
            Optional<Action> said = Action.of(text("do"));
            if (said.isEmpty()) {
              return Optional.empty();
            }
            action = said.get();
          }
          case "table" -> table = text("table");
          case "key" -> key = JsonValues.readMap(json);
          case "item" -> {
            Map<String, String> said = texts();
            item =
                Optional.of(new Item(need(said, "kind"), need(said, "name"), need(said, "part")));
          }
          case "path" -> path = text("path");
          case "evidence" -> evidence = text("evidence");
          case "onSource" -> onSource = touch();
          case "onTarget" -> onTarget = touch();
          case "new" -> fresh = Optional.of(RowName.parse(text("new")));
          case "renumbered" -> renumbered = json.getBooleanValue();
          case "offered" -> offered = json.getBooleanValue();
          case "with" -> with = Optional.of(json.getIntValue());
          case "alongWith" -> alongWith = Optional.of(json.getIntValue());
          case "before" -> before = columns();
          case "after" -> after = columns();
          case "drafted" -> drafted = columns();
          case "conflicts" -> {
            while (json.nextToken() == JsonToken.START_OBJECT) {
              conflicts.add(conflict());
            }
          }
          case "needs" ->
              JsonLines.tree(json).forEach(need -> needs.add(ChangeSetReader.need(need)));
          case "hangers" -> hangers.putAll(ChangeSetReader.hangers(JsonLines.tree(json)));
          default -> json.skipChildren();
        }
      }
      if (action == null || table == null) {
        throw new IllegalArgumentException("'do' and 'table' must be there");
      }
      return Optional.of(
          new RowChange(
              id,
              action,
              table,
              key,
              before,
              after,
              drafted,
              conflicts,
              fresh,
              renumbered,
              offered,
              with,
              alongWith,
              needs,
              hangers,
              item,
              new Trace(path, onSource, onTarget, evidence)));
    }

    private Conflict conflict() throws IOException {
      ConflictKind kind = null;
      boolean binding = false;
      List<String> about = new ArrayList<>();
      List<String> places = new ArrayList<>();
      Map<String, Map<String, Value>> sides = new LinkedHashMap<>();
      String reason = "";
      while (json.nextToken() == JsonToken.FIELD_NAME) {
        String name = json.currentName();
        json.nextToken();
        switch (name) {
          case "kind" -> kind = ConflictKind.ofLabel(text("kind"));
          case "binding" -> binding = json.getBooleanValue();
          case "columns" -> texts(about);
          case "places" -> texts(places);
          case "reason" -> reason = text("reason");
          case "base", "source", "target", "otherwise" -> sides.put(name, columns());
          default -> json.skipChildren();
        }
      }
      return new Conflict(
          java.util.Objects.requireNonNull(kind, "'kind' must be there"),
          binding,
          about,
          sides.getOrDefault("base", Map.of()),
          sides.getOrDefault("source", Map.of()),
          sides.getOrDefault("target", Map.of()),
          sides.getOrDefault("otherwise", Map.of()),
          places,
          reason);
    }

    private void texts(List<String> into) throws IOException {
      while (json.nextToken() != JsonToken.END_ARRAY) {
        into.add(json.getText());
      }
    }

    private String text(String member) throws IOException {
      if (!json.hasToken(JsonToken.VALUE_STRING)) {
        throw new IllegalArgumentException("'" + member + "' must be a text");
      }
      return json.getText();
    }

    /** The values of some columns; NULL for each if they are not wanted. */
    private Map<String, Value> columns() throws IOException {
      if (values) {
        return JsonValues.readMap(json);
      }
      Map<String, Value> columns = new LinkedHashMap<>();
      while (json.nextToken() == JsonToken.FIELD_NAME) {
        columns.put(json.currentName(), Value.NULL);
        json.nextToken();
        json.skipChildren();
      }
      return columns;
    }

    private Map<String, String> texts() throws IOException {
      Map<String, String> texts = new LinkedHashMap<>();
      while (json.nextToken() == JsonToken.FIELD_NAME) {
        String name = json.currentName();
        json.nextToken();
        texts.put(name, text(name));
      }
      return texts;
    }

    private Trace.Touch touch() throws IOException {
      Map<String, String> said = texts();
      return new Trace.Touch(need(said, "by"), need(said, "at"));
    }

    private static String need(Map<String, String> said, String name) {
      if (!said.containsKey(name)) {
        throw new IllegalArgumentException("'" + name + "' must be a text");
      }
      return said.get(name);
    }
  }
}
