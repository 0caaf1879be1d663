package weftex.core.changeset;

import com.fasterxml.jackson.core.JsonGenerator;
import com.fasterxml.jackson.databind.JsonNode;
import java.io.IOException;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.Set;

/** The members of a shape in JSON. */
final class ShapeMembers {

  private ShapeMembers() {}

  static void known(JsonNode node, Set<String> members) {
    node.fieldNames()
        .forEachRemaining(
            name -> {
              if (!members.contains(name)) {
                throw new IllegalArgumentException("'" + name + "' is not known here");
              }
            });
  }

  static <E extends Enum<E>> E constant(Class<E> type, JsonNode node) {
    return Enum.valueOf(type, node.asText().toUpperCase(Locale.ROOT).replace('-', '_'));
  }

  static String label(Enum<?> constant) {
    return constant.name().toLowerCase(Locale.ROOT).replace('_', '-');
  }

  static Optional<String> optional(JsonNode node, String member) {
    return node.has(member) ? Optional.of(node.get(member).asText()) : Optional.empty();
  }

  static List<String> strings(JsonNode node) {
    List<String> strings = new ArrayList<>();
    node.forEach(element -> strings.add(element.asText()));
    return strings;
  }

  static void optional(JsonGenerator json, String member, Optional<String> value)
      throws IOException {
    if (value.isPresent()) {
      json.writeStringField(member, value.get());
    }
  }

  static void text(JsonGenerator json, String member, String value) throws IOException {
    if (!value.isEmpty()) {
      json.writeStringField(member, value);
    }
  }

  static void flag(JsonGenerator json, String member, boolean value) throws IOException {
    if (value) {
      json.writeBooleanField(member, true);
    }
  }

  static void strings(JsonGenerator json, String member, List<String> values) throws IOException {
    json.writeArrayFieldStart(member);
    for (String value : values) {
      json.writeString(value);
    }
    json.writeEndArray();
  }
}
