package weftex.core.value;

import java.util.ArrayList;
import java.util.List;

/** Reads JSON (RFC 8259) into nodes over the bytes, so that white space and escapes stay known. */
final class JsonReader {
  private final byte[] bytes;
  private int at;

  private JsonReader(byte[] bytes) {
    this.bytes = bytes;
  }

  /** Whether bytes begin and end like a JSON object, list or string. */
  static boolean looksLike(byte[] bytes) {
    int first = 0;
    int last = bytes.length - 1;
    while (first < last && isSpace(bytes[first])) {
      first++;
    }
    while (last > first && isSpace(bytes[last])) {
      last--;
    }
    return last > first
        && (bytes[first] == '{' && bytes[last] == '}'
            || bytes[first] == '[' && bytes[last] == ']'
            || bytes[first] == '"' && bytes[last] == '"');
  }

  static Node read(byte[] bytes) throws MalformedValue {
    JsonReader reader = new JsonReader(bytes);
    reader.space();
    Node node = reader.value(0);
    reader.space();
    if (reader.at != bytes.length) {
      throw new MalformedValue(reader.at, "something follows the end of the value");
    }
    return node;
  }

  private Node value(int depth) throws MalformedValue {
    if (depth > Structure.MOST_DEPTH) {
      throw new MalformedValue(at, "it is nested deeper than " + Structure.MOST_DEPTH + " levels");
    }
    return switch (peek()) {
      case '{' -> object(depth);
      case '[' -> list(depth);
      case '"' -> text();
      case 't' -> word("true");
      case 'f' -> word("false");
      case 'n' -> word("null");
      default -> number();
    };
  }

  private Node object(int depth) throws MalformedValue {
    int from = at++;
    List<Node> keys = new ArrayList<>();
    List<Node> values = new ArrayList<>();
    int start = at;
    space();
    if (peek() != '}') {
      do {
        space();
        if (peek() != '"') {
          throw new MalformedValue(at, "a name in quotes was expected");
        }
        keys.add(text());
        space();
        expect(':');
        space();
        values.add(value(depth + 1));
        space();
      } while (comma('}'));
    }
    int end = at++;
    return new Node(Node.Kind.MAP, from, at, start, end, keys, values);
  }

  private Node list(int depth) throws MalformedValue {
    int from = at++;
    List<Node> values = new ArrayList<>();
    int start = at;
    space();
    if (peek() != ']') {
      do {
        space();
        values.add(value(depth + 1));
        space();
      } while (comma(']'));
    }
    int end = at++;
    return new Node(Node.Kind.LIST, from, at, start, end, List.of(), values);
  }

  /** Whether a comma follows; stays before the closing sign otherwise. */
  private boolean comma(char end) throws MalformedValue {
    if (peek() == ',') {
      at++;
      return true;
    }
    if (peek() != end) {
      throw new MalformedValue(at, "',' or '" + end + "' was expected");
    }
    return false;
  }

  private Node text() throws MalformedValue {
    int from = at++;
    while (peek() != '"') {
      byte b = bytes[at++];
      if (b >= 0 && b < 0x20) {
        throw new MalformedValue(at - 1, "a control character must be escaped");
      }
      if (b == '\\') {
        escape();
      }
    }
    at++;
    return Node.leaf(Node.Kind.TEXT, from, at, from + 1, at - 1);
  }

  private void escape() throws MalformedValue {
    byte sign = peek();
    at++;
    if (sign == 'u') {
      for (int i = 0; i < 4; i++) {
        if (Character.digit(peek(), 16) < 0) {
          throw new MalformedValue(at, "four hexadecimal digits were expected");
        }
        at++;
      }
    } else if ("\"\\/bfnrt".indexOf(sign) < 0) {
      throw new MalformedValue(at - 1, "there is no escape '\\" + (char) (sign & 0xFF) + "'");
    }
  }

  private Node word(String word) throws MalformedValue {
    int from = at;
    for (int i = 0; i < word.length(); i++) {
      expect(word.charAt(i));
    }
    return Node.leaf(Node.Kind.SCALAR, from, at, from, at);
  }

  private Node number() throws MalformedValue {
    int from = at;
    boolean whole = true;
    if (peek() == '-') {
      at++;
    }
    if (peek() == '0') {
      at++;
    } else {
      digits();
    }
    if (at < bytes.length && bytes[at] == '.') {
      whole = false;
      at++;
      digits();
    }
    if (at < bytes.length && (bytes[at] == 'e' || bytes[at] == 'E')) {
      whole = false;
      at++;
      if (peek() == '+' || peek() == '-') {
        at++;
      }
      digits();
    }
    return Node.leaf(whole ? Node.Kind.WHOLE : Node.Kind.SCALAR, from, at, from, at);
  }

  private void digits() throws MalformedValue {
    int start = at;
    while (at < bytes.length && bytes[at] >= '0' && bytes[at] <= '9') {
      at++;
    }
    if (at == start) {
      throw new MalformedValue(at, "a digit was expected");
    }
  }

  private void space() {
    while (at < bytes.length && isSpace(bytes[at])) {
      at++;
    }
  }

  private static boolean isSpace(byte b) {
    return b == ' ' || b == '\t' || b == '\n' || b == '\r';
  }

  private byte peek() throws MalformedValue {
    if (at >= bytes.length) {
      throw new MalformedValue(at, "the value is cut short");
    }
    return bytes[at];
  }

  private void expect(char sign) throws MalformedValue {
    if (peek() != sign) {
      throw new MalformedValue(at, "'" + sign + "' was expected");
    }
    at++;
  }
}
