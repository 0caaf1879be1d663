package weftex.core.changeset;

import com.fasterxml.jackson.core.JsonParser;
import com.fasterxml.jackson.core.JsonToken;
import java.io.IOException;
import java.math.BigInteger;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.List;
import java.util.function.Function;
import weftex.core.row.RowName;
import weftex.core.row.Value;

/** A value that is no plain text in JSON: its parts, its bytes, or what it is known by. */
final class WrappedValue {

  private WrappedValue() {}

  /** Reads from the first member of an object to its end. */
  static Value wrapped(JsonParser json, String name) throws IOException {
    if (name == null) {
      throw new IllegalArgumentException("a value can't be {}");
    }
    if (name.equals("sha256")) {
      return digest(json);
    }
    Value value =
        switch (name) {
          case "pieces" ->
              new Value.Text(joined(json, piece -> piece.getBytes(StandardCharsets.UTF_8)));
          case "text" -> new Value.Text(JsonValues.bytes(json));
          case "whole" -> new Value.Whole(new BigInteger(json.getText()));
          case "decimal" -> new Value.Decimal(json.getText());
          case "base64" -> new Value.Binary(JsonValues.bytes(json));
          case "new" -> new Value.Fresh(RowName.parse(json.getText()));
          case "parts" -> new Value.Pending(JsonValues.parts(json));
          default -> throw new IllegalArgumentException("a value can't be {\"" + name + "\": …}");
        };
    while (json.nextToken() == JsonToken.FIELD_NAME) {
      json.nextToken();
      json.skipChildren();
    }
    return value;
  }

  static byte[] joined(JsonParser json, Function<String, byte[]> piece) throws IOException {
    if (!json.hasToken(JsonToken.START_ARRAY)) {
      throw new IllegalArgumentException("pieces must be an array");
    }
    List<byte[]> pieces = new ArrayList<>();
    int length = 0;
    while (json.nextToken() == JsonToken.VALUE_STRING) {
      pieces.add(piece.apply(json.getText()));
      length += pieces.get(pieces.size() - 1).length;
    }
    byte[] whole = new byte[length];
    int at = 0;
    for (int i = 0; i < pieces.size(); i++) {
      byte[] next = pieces.set(i, null);
      System.arraycopy(next, 0, whole, at, next.length);
      at += next.length;
    }
    return whole;
  }

  static Value digest(JsonParser json) throws IOException {
    String sha256 = json.getText();
    long bytes = 0;
    while (json.nextToken() == JsonToken.FIELD_NAME) {
      boolean size = json.currentName().equals("bytes");
      json.nextToken();
      if (size) {
        bytes = json.getLongValue();
      }
    }
    return new Value.Digest(sha256, bytes);
  }
}
