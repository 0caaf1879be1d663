package weftex.core.changeset;

import com.fasterxml.jackson.core.JsonParser;
import com.fasterxml.jackson.core.JsonToken;
import java.io.IOException;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Set;
import weftex.core.change.Conflict;
import weftex.core.change.Outline;
import weftex.core.merge.ConflictKind;
import weftex.core.row.Value;

/** The members of a conflict, as they come. */
final class ConflictMembers {
  private final JsonParser json;
  private final boolean values;
  private final List<String> about = new ArrayList<>();
  private final List<String> places = new ArrayList<>();
  private final Map<String, Map<String, Value>> sides = new LinkedHashMap<>();
  private ConflictKind kind;
  private boolean binding;
  private Set<String> otherwise = Set.of();
  private String reason = "";

  private ConflictMembers(JsonParser json, boolean values) {
    this.json = json;
    this.values = values;
  }

  /**
   * Reads one, up to its end.
   *
   * @param values whether its values are wanted; they may be long
   */
  static ConflictMembers read(JsonParser json, boolean values) throws IOException {
    ConflictMembers read = new ConflictMembers(json, values);
    while (json.nextToken() == JsonToken.FIELD_NAME) {
      String name = json.currentName();
      json.nextToken();
      read.take(name);
    }
    Objects.requireNonNull(read.kind, "'kind' must be there");
    return read;
  }

  private void take(String name) throws IOException {
    switch (name) {
      case "kind" -> kind = ConflictKind.ofLabel(ChangeMembers.text(json, "kind"));
      case "binding" -> binding = json.getBooleanValue();
      case "columns" -> texts(about);
      case "places" -> texts(places);
      case "reason" -> reason = ChangeMembers.text(json, "reason");
      case "base", "source", "target", "otherwise" -> takeSide(name);
      default -> json.skipChildren();
    }
  }

  private void takeSide(String name) throws IOException {
    if (values) {
      sides.put(name, JsonValues.readMap(json));
    } else if (name.equals("otherwise")) {
      otherwise = ChangeMembers.names(json);
    } else {
      json.skipChildren();
    }
  }

  private void texts(List<String> into) throws IOException {
    while (json.nextToken() != JsonToken.END_ARRAY) {
      into.add(json.getText());
    }
  }

  /** The conflict without its values. */
  Outline.Contest contest() {
    return new Outline.Contest(kind, binding, new LinkedHashSet<>(about), otherwise);
  }

  /** The conflict; with the values if they were read. */
  Conflict conflict() {
    return new Conflict(
        kind,
        binding,
        about,
        sides.getOrDefault("base", Map.of()),
        sides.getOrDefault("source", Map.of()),
        sides.getOrDefault("target", Map.of()),
        sides.getOrDefault("otherwise", Map.of()),
        places,
        reason);
  }
}
