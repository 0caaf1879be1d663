package weftex.core.changeset;

import com.fasterxml.jackson.core.JsonParser;
import com.fasterxml.jackson.core.JsonToken;
import java.io.IOException;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import weftex.core.change.Action;
import weftex.core.change.Conflict;
import weftex.core.change.Head;
import weftex.core.change.Item;
import weftex.core.change.Outline;
import weftex.core.change.RowChange;
import weftex.core.change.Ties;
import weftex.core.change.Trace;
import weftex.core.row.RowName;
import weftex.core.row.Value;

/** The members of a line, as they come. */
final class ChangeMembers {
  private final JsonParser json;
  private final boolean values;
  int id;
  private Action action;
  private String table;
  private Map<String, Value> key = Map.of();
  private Map<String, Value> before = Map.of();
  private Map<String, Value> after = Map.of();
  private Map<String, Value> drafted = Map.of();
  private Set<String> written = Set.of();
  private Optional<Item> item = Optional.empty();
  private String path = "";
  private String evidence = "";
  private Trace.Touch onSource = Trace.Touch.UNKNOWN;
  private Trace.Touch onTarget = Trace.Touch.UNKNOWN;
  private Optional<RowName> fresh = Optional.empty();
  private boolean renumbered;
  private boolean offered;
  private Optional<Integer> with = Optional.empty();
  private final List<Integer> withAny = new ArrayList<>();
  private Optional<Integer> alongWith = Optional.empty();
  private final List<Conflict> conflicts = new ArrayList<>();
  private final List<Outline.Contest> contests = new ArrayList<>();
  private final List<Ties.Need> needs = new ArrayList<>();
  private final Map<Ties.Hanger, Long> hangers = new LinkedHashMap<>();

  ChangeMembers(JsonParser json, boolean values) {
    this.json = json;
    this.values = values;
  }

  /** Whether it is a change of a row. */
  boolean read() throws IOException {
    for (JsonToken at = json.currentToken(); at == JsonToken.FIELD_NAME; at = json.nextToken()) {
      String name = json.currentName();
      json.nextToken();
      switch (name) {
        case "change" -> id = json.getIntValue();
        case "do" -> {
          Optional<Action> said = Action.of(text("do"));
          if (said.isEmpty()) {
            return false;
          }
          action = said.get();
        }
        case "table" -> table = text("table");
        case "key" -> key = JsonValues.readMap(json);
        case "item" -> {
          Map<String, String> said = texts();
          item = Optional.of(new Item(need(said, "kind"), need(said, "name"), need(said, "part")));
        }
        case "path" -> path = text("path");
        case "evidence" -> evidence = text("evidence");
        case "onSource" -> onSource = touch();
        case "onTarget" -> onTarget = touch();
        case "new" -> fresh = Optional.of(RowName.parse(text("new")));
        case "renumbered" -> renumbered = json.getBooleanValue();
        case "offered" -> offered = json.getBooleanValue();
        case "with" -> with = Optional.of(json.getIntValue());
        case "withAny" -> JsonLines.tree(json).forEach(one -> withAny.add(one.asInt()));
        case "alongWith" -> alongWith = Optional.of(json.getIntValue());
        case "needs" -> JsonLines.tree(json).forEach(need -> needs.add(LineParts.need(need)));
        case "hangers" -> hangers.putAll(LineParts.hangers(JsonLines.tree(json)));
        default -> readValues(name);
      }
    }
    if (action == null || table == null) {
      throw new IllegalArgumentException("'do' and 'table' must be there");
    }
    return true;
  }

  private void readValues(String name) throws IOException {
    if (name.equals("conflicts")) {
      while (json.nextToken() == JsonToken.START_OBJECT) {
        ConflictMembers read = ConflictMembers.read(json, values);
        if (values) {
          conflicts.add(read.conflict());
        } else {
          contests.add(read.contest());
        }
      }
    } else if (!values && name.equals("after")) {
      written = names(json);
    } else if (!values) {
      json.skipChildren();
    } else if (name.equals("before")) {
      before = JsonValues.readMap(json);
    } else if (name.equals("after")) {
      after = JsonValues.readMap(json);
    } else if (name.equals("drafted")) {
      drafted = JsonValues.readMap(json);
    } else {
      json.skipChildren();
    }
  }

  private Head head() {
    return new Head(
        id,
        action,
        table,
        key,
        fresh,
        renumbered,
        new Ties(offered, with, withAny, alongWith, needs, hangers),
        item,
        new Trace(path, onSource, onTarget, evidence));
  }

  RowChange whole() {
    return new RowChange(head(), before, after, drafted, conflicts);
  }

  Outline outline() {
    return new Outline(head(), written, List.copyOf(contests));
  }

  private String text(String member) throws IOException {
    return text(json, member);
  }

  static String text(JsonParser json, String member) throws IOException {
    if (!json.hasToken(JsonToken.VALUE_STRING)) {
      throw new IllegalArgumentException("'" + member + "' must be a text");
    }
    return json.getText();
  }

  /** The names of some columns, whatever their values. */
  static Set<String> names(JsonParser json) throws IOException {
    Set<String> names = new LinkedHashSet<>();
    while (json.nextToken() == JsonToken.FIELD_NAME) {
      names.add(json.currentName());
      json.nextToken();
      json.skipChildren();
    }
    return names;
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
