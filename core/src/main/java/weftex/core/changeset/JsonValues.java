package weftex.core.changeset;

import com.fasterxml.jackson.core.JsonGenerator;
import com.fasterxml.jackson.databind.JsonNode;
import java.io.IOException;
import java.math.BigInteger;
import java.util.ArrayList;
import java.util.Base64;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import weftex.core.row.Part;
import weftex.core.row.RowName;
import weftex.core.row.Value;

/**
 * Values as JSON. Text is a string, NULL is null, a whole number up to 2^53 is a number; everything
 * that JSON would bend is an object with one member that names it: {@code whole} (larger whole
 * numbers), {@code decimal}, {@code base64} (bytes), {@code text} (text that is not well-formed
 * UTF-8, in Base64), {@code new} (the number of an added row), {@code parts} (a text with such
 * numbers inside: strings, {@code new}, {@code sized}, a text with its length before it, and {@code
 * quoted}, a text inside a JSON string), {@code sha256} with {@code bytes} (a long value that is
 * only recognised).
 */
public final class JsonValues {
  private static final BigInteger SAFE = BigInteger.ONE.shiftLeft(53);

  private JsonValues() {}

  /** Writes a value. */
  public static void write(JsonGenerator json, Value value) throws IOException {
    if (value instanceof Value.Text text) {
      if (text.isWellFormed()) {
        json.writeString(text.display());
      } else {
        wrap(json, "text", Base64.getEncoder().encodeToString(text.utf8()));
      }
    } else if (value instanceof Value.Whole whole) {
      if (whole.number().abs().compareTo(SAFE) <= 0) {
        json.writeNumber(whole.number());
      } else {
        wrap(json, "whole", whole.display());
      }
    } else if (value instanceof Value.Decimal decimal) {
      wrap(json, "decimal", decimal.digits());
    } else if (value instanceof Value.Binary binary) {
      wrap(json, "base64", Base64.getEncoder().encodeToString(binary.bytes()));
    } else if (value instanceof Value.Fresh fresh) {
      wrap(json, "new", fresh.row().toString());
    } else if (value instanceof Value.Pending pending) {
      json.writeStartObject();
      json.writeFieldName("parts");
      write(json, pending.parts());
      json.writeEndObject();
    } else if (value instanceof Value.Digest digest) {
      json.writeStartObject();
      json.writeStringField("sha256", digest.sha256());
      json.writeNumberField("bytes", digest.bytes());
      json.writeEndObject();
    } else {
      json.writeNull();
    }
  }

  private static void write(JsonGenerator json, List<Part> parts) throws IOException {
    json.writeStartArray();
    for (Part part : parts) {
      if (part instanceof Part.Literal literal) {
        write(json, new Value.Text(literal.bytes()));
      } else if (part instanceof Part.Number number) {
        wrap(json, "new", number.row().toString());
      } else if (part instanceof Part.Sized sized) {
        json.writeStartObject();
        json.writeFieldName("sized");
        write(json, sized.parts());
        json.writeEndObject();
      } else if (part instanceof Part.Base64 base64) {
        json.writeStartObject();
        json.writeFieldName("base64");
        write(json, base64.parts());
        json.writeEndObject();
      } else if (part instanceof Part.Quoted quoted) {
        json.writeStartObject();
        json.writeFieldName("quoted");
        write(json, quoted.parts());
        json.writeBooleanField("slashes", quoted.slashes());
        json.writeBooleanField("unicode", quoted.unicode());
        json.writeEndObject();
      }
    }
    json.writeEndArray();
  }

  private static List<Part> parts(JsonNode array) {
    List<Part> parts = new ArrayList<>();
    for (JsonNode node : array) {
      if (node.has("sized")) {
        parts.add(new Part.Sized(parts(node.get("sized"))));
      } else if (node.has("base64")) {
        parts.add(new Part.Base64(parts(node.get("base64"))));
      } else if (node.has("quoted")) {
        parts.add(
            new Part.Quoted(
                parts(node.get("quoted")),
                node.path("slashes").asBoolean(),
                node.path("unicode").asBoolean()));
      } else {
        Value value = read(node);
        if (value instanceof Value.Fresh fresh) {
          parts.add(new Part.Number(fresh.row()));
        } else if (value instanceof Value.Text text) {
          parts.add(new Part.Literal(text.utf8()));
        } else {
          throw new IllegalArgumentException("a part can't be " + node);
        }
      }
    }
    return parts;
  }

  private static void wrap(JsonGenerator json, String name, String content) throws IOException {
    json.writeStartObject();
    json.writeStringField(name, content);
    json.writeEndObject();
  }

  /** Writes a map from column to value as a member of the current object. */
  public static void write(JsonGenerator json, String member, Map<String, Value> values)
      throws IOException {
    json.writeObjectFieldStart(member);
    for (Map.Entry<String, Value> entry : values.entrySet()) {
      json.writeFieldName(entry.getKey());
      write(json, entry.getValue());
    }
    json.writeEndObject();
  }

  /**
   * Reads a value; throws {@link IllegalArgumentException} for what {@link #write} never writes.
   */
  public static Value read(JsonNode node) {
    if (node.isNull()) {
      return Value.NULL;
    }
    if (node.isTextual()) {
      return Value.text(node.textValue());
    }
    if (node.isIntegralNumber()) {
      return new Value.Whole(node.bigIntegerValue());
    }
    if (node.isObject() && !node.isEmpty()) {
      String name = node.fieldNames().next();
      String content = node.get(name).asText();
      return switch (name) {
        case "text" -> new Value.Text(Base64.getDecoder().decode(content));
        case "whole" -> new Value.Whole(new BigInteger(content));
        case "decimal" -> new Value.Decimal(content);
        case "base64" -> new Value.Binary(Base64.getDecoder().decode(content));
        case "new" -> new Value.Fresh(RowName.parse(content));
        case "parts" -> new Value.Pending(parts(node.get(name)));
        case "sha256" -> new Value.Digest(content, node.path("bytes").asLong());
        default -> throw new IllegalArgumentException("a value can't be {\"" + name + "\": …}");
      };
    }
    throw new IllegalArgumentException("a value can't be " + node.getNodeType());
  }

  /** Reads a map from column to value, in the order of the file. */
  public static Map<String, Value> readMap(JsonNode node) {
    Map<String, Value> values = new LinkedHashMap<>();
    for (Map.Entry<String, JsonNode> field : node.properties()) {
      values.put(field.getKey(), read(field.getValue()));
    }
    return values;
  }
}
