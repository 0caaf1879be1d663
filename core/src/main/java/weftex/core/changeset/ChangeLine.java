package weftex.core.changeset;

import com.fasterxml.jackson.core.JsonParser;
import com.fasterxml.jackson.core.JsonToken;
import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.node.ObjectNode;
import java.io.IOException;
import java.util.Optional;
import weftex.core.change.Outline;
import weftex.core.change.RowChange;

/**
 * Reads a change of a row: whole, or its outline alone, by which a change set with long texts is
 * read in a fraction of the time.
 */
final class ChangeLine {
  private ChangeLine() {}

  /**
   * Reads a line.
   *
   * @return empty if the line is no change of a row, or does not begin as one
   * @throws IllegalArgumentException if a member is missing or wrong
   */
  static Optional<RowChange> whole(byte[] line) throws IOException {
    return read(line, true).map(ChangeMembers::whole);
  }

  /** The same without values. */
  static Optional<Outline> outline(byte[] line) throws IOException {
    return read(line, false).map(ChangeMembers::outline);
  }

  private static Optional<ChangeMembers> read(byte[] line, boolean values) throws IOException {
    try (JsonParser json = JsonLines.parser(line)) {
      if (json.nextToken() != JsonToken.START_OBJECT || !"change".equals(json.nextFieldName())) {
        return Optional.empty();
      }
      ChangeMembers members = new ChangeMembers(json, values);
      if (!members.read()) {
        return Optional.empty();
      }
      if (json.nextToken() != null) {
        throw new IllegalArgumentException("something follows the object");
      }
      return Optional.of(members);
    }
  }

  /**
   * Reads the outline of a change from a stream of them.
   *
   * @param json behind the name of the first member, {@code change}
   * @return empty if it is a new table or column, whose members are then in {@code schema}
   */
  static Optional<Outline> outline(JsonParser json, ObjectNode schema) throws IOException {
    ChangeMembers members = new ChangeMembers(json, false);
    if (members.read()) {
      return Optional.of(members.outline());
    }
    schema.put("change", members.id);
    while (json.nextToken() == JsonToken.FIELD_NAME) {
      String name = json.currentName();
      json.nextToken();
      schema.set(name, JsonLines.tree(json));
    }
    return Optional.empty();
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
      ChangeMembers members = new ChangeMembers(json, true);
      if (!members.read()) {
        throw new IllegalArgumentException("'do' can't be " + node.get("do"));
      }
      return members.whole();
    }
  }
}
