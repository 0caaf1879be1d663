package weftex.core.changeset;

import com.fasterxml.jackson.core.JsonGenerator;
import com.fasterxml.jackson.core.JsonParser;
import com.fasterxml.jackson.core.JsonToken;
import com.fasterxml.jackson.databind.JsonNode;
import java.io.IOException;
import java.math.BigInteger;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.Base64;
import java.util.List;
import java.util.Map;
import weftex.core.row.ColumnValues;
import weftex.core.row.Part;
import weftex.core.row.Value;

/**
 * Values as JSON. Text is a string, NULL is null, a whole number up to 2^53 is a number; everything
 * that JSON would bend is an object with one member that names it: {@code whole} (larger whole
 * numbers), {@code decimal}, {@code base64} (bytes), {@code text} (text that is not well-formed
 * UTF-8, in Base64), {@code new} (the number of an added row), {@code parts} (a text with such
 * numbers inside: strings, {@code new}, {@code sized}, a text with its length before it, and {@code
 * quoted}, a text inside a JSON string), {@code sha256} with {@code bytes} (a long value that is
 * only recognised). A value above a megabyte is written in pieces, so that no reader needs it
 * twice: {@code pieces} is an array of strings, and {@code base64} and {@code text} are arrays,
 * too.
 */
public final class JsonValues {
  private static final long SAFE = 1L << 53;

  private static final int TYPICAL_COLUMNS = 12;

  /** Bytes above which a value is written in pieces. */
  private static final int LONG = 1 << 20;

  /** Bytes of a piece, a multiple of three. */
  private static final int PIECE = 3 << 16;

  private JsonValues() {}

  /** Writes a value. */
  public static void write(JsonGenerator json, Value value) throws IOException {
    if (value instanceof Value.Text text) {
      if (!text.isWellFormed()) {
        bytes(json, "text", text.utf8());
      } else if (text.utf8().length > LONG) {
        pieces(json, text.utf8());
      } else {
        json.writeString(text.display());
      }
    } else if (value instanceof Value.Whole whole) {
      if (isSafe(whole.number())) {
        json.writeNumber(whole.number().longValue());
      } else {
        wrap(json, "whole", whole.display());
      }
    } else if (value instanceof Value.Decimal decimal) {
      wrap(json, "decimal", decimal.digits());
    } else if (value instanceof Value.Binary binary) {
      bytes(json, "base64", binary.bytes());
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

  /** Writes a text in pieces, none of which ends inside a character. */
  private static void pieces(JsonGenerator json, byte[] utf8) throws IOException {
    json.writeStartObject();
    json.writeArrayFieldStart("pieces");
    for (int from = 0; from < utf8.length; ) {
      int to = Math.min(utf8.length, from + PIECE);
      while (to < utf8.length && (utf8[to] & 0xC0) == 0x80) {
        to--;
      }
      json.writeString(new String(utf8, from, to - from, StandardCharsets.UTF_8));
      from = to;
    }
    json.writeEndArray();
    json.writeEndObject();
  }

  /** Writes bytes in Base64; pieces are of a length that Base64 does not pad. */
  static void bytes(JsonGenerator json, String name, byte[] bytes) throws IOException {
    if (bytes.length <= LONG) {
      wrap(json, name, Base64.getEncoder().encodeToString(bytes));
      return;
    }
    json.writeStartObject();
    json.writeArrayFieldStart(name);
    for (int from = 0; from < bytes.length; from += PIECE) {
      byte[] piece = Arrays.copyOfRange(bytes, from, Math.min(bytes.length, from + PIECE));
      json.writeString(Base64.getEncoder().encodeToString(piece));
    }
    json.writeEndArray();
    json.writeEndObject();
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

  static List<Part> parts(JsonParser json) throws IOException {
    List<Part> parts = new ArrayList<>();
    while (json.nextToken() != JsonToken.END_ARRAY) {
      parts.add(part(json));
    }
    return parts;
  }

  private static Part part(JsonParser json) throws IOException {
    if (!json.hasToken(JsonToken.START_OBJECT)) {
      return literal(read(json));
    }
    String name = json.nextFieldName();
    boolean nested = json.nextToken() == JsonToken.START_ARRAY;
    if (nested && "quoted".equals(name)) {
      List<Part> inside = parts(json);
      boolean slashes = false;
      boolean unicode = false;
      while (json.nextToken() == JsonToken.FIELD_NAME) {
        boolean said = json.nextToken() == JsonToken.VALUE_TRUE;
        slashes |= said && json.currentName().equals("slashes");
        unicode |= said && json.currentName().equals("unicode");
      }
      return new Part.Quoted(inside, slashes, unicode);
    }
    Part part =
        nested && "sized".equals(name)
            ? new Part.Sized(parts(json))
            : nested && "base64".equals(name) ? new Part.Base64(parts(json)) : null;
    if (part != null) {
      json.nextToken();
      return part;
    }
    Value value = WrappedValue.wrapped(json, name);
    return value instanceof Value.Fresh fresh ? new Part.Number(fresh.row()) : literal(value);
  }

  private static Part literal(Value value) {
    if (value instanceof Value.Text text) {
      return new Part.Literal(text.utf8());
    }
    throw new IllegalArgumentException("a part can't be " + value.display());
  }

  /** Whether every reader of JSON takes a number for what it is. */
  private static boolean isSafe(BigInteger number) {
    return number.bitLength() < Long.SIZE && Math.abs(number.longValue()) <= SAFE;
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
   * Reads the value that a parser stands at, and leaves it at the value's last token.
   *
   * @throws IllegalArgumentException for what {@link #write} never writes
   */
  static Value read(JsonParser json) throws IOException {
    return switch (json.currentToken()) {
      case VALUE_NULL -> Value.NULL;
      case VALUE_STRING -> Value.text(json.getText());
      case VALUE_NUMBER_INT -> new Value.Whole(json.getBigIntegerValue());
      case START_OBJECT -> {
        String name = json.nextFieldName();
        json.nextToken();
        yield WrappedValue.wrapped(json, name);
      }
      default -> throw new IllegalArgumentException("a value can't be " + json.currentToken());
    };
  }

  static byte[] bytes(JsonParser json) throws IOException {
    return json.hasToken(JsonToken.START_ARRAY)
        ? WrappedValue.joined(json, Base64.getDecoder()::decode)
        : Base64.getDecoder().decode(json.getText());
  }

  /** Reads the map from column to value that a parser stands at, in the order of the file. */
  static Map<String, Value> readMap(JsonParser json) throws IOException {
    if (!json.hasToken(JsonToken.START_OBJECT)) {
      throw new IllegalArgumentException("columns with values are needed");
    }
    ColumnValues.Builder values = new ColumnValues.Builder(TYPICAL_COLUMNS);
    while (json.nextToken() == JsonToken.FIELD_NAME) {
      String name = json.currentName();
      json.nextToken();
      values.add(name, read(json));
    }
    return values.build();
  }

  /**
   * Reads a value; throws {@link IllegalArgumentException} for what {@link #write} never writes.
   */
  public static Value read(JsonNode node) throws IOException {
    return read(standing(node));
  }

  /** Reads a map from column to value, in the order of the file. */
  public static Map<String, Value> readMap(JsonNode node) throws IOException {
    return readMap(standing(node));
  }

  private static JsonParser standing(JsonNode node) throws IOException {
    JsonParser json = node.traverse();
    json.nextToken();
    return json;
  }
}
