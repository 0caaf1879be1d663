package weftex.core.value;

import java.util.ArrayList;
import java.util.List;

/**
 * Reads what PHP's {@code serialize} has written. The format is the one that {@code
 * ext/standard/var_unserializer.re} of PHP accepts: lengths count bytes, strings need not be UTF-8,
 * and no white space is allowed anywhere.
 */
final class PhpReader {
  private final byte[] bytes;
  private int at;

  private PhpReader(byte[] bytes) {
    this.bytes = bytes;
  }

  /** Reads a whole value. */
  static Node read(byte[] bytes) throws MalformedValue {
    PhpReader reader = new PhpReader(bytes);
    Node node = reader.value(0);
    if (reader.at != bytes.length) {
      throw new MalformedValue(reader.at, "something follows the end of the value");
    }
    return node;
  }

  private Node value(int depth) throws MalformedValue {
    if (depth > Structure.MOST_DEPTH) {
      throw new MalformedValue(at, "it is nested deeper than " + Structure.MOST_DEPTH + " levels");
    }
    int from = at;
    byte type = take();
    if (type == 'N') {
      expect(';');
      return Node.leaf(Node.Kind.SCALAR, from, at, from, at);
    }
    expect(':');
    return switch (type) {
      case 'b', 'd' -> scalar(from, Node.Kind.SCALAR);
      case 'i' -> scalar(from, Node.Kind.WHOLE);
      case 'R', 'r' -> scalar(from, Node.Kind.OPAQUE);
      case 's' -> text(from, Node.Kind.TEXT);
      case 'E' -> text(from, Node.Kind.OPAQUE);
      case 'S' -> escaped(from);
      case 'a' -> container(from, Node.Kind.MAP, depth);
      case 'O' -> {
        name();
        yield container(from, Node.Kind.OBJECT, depth);
      }
      case 'C' -> {
        name();
        yield custom(from);
      }
      default -> throw new MalformedValue(from, "there is no type '" + (char) (type & 0xFF) + "'");
    };
  }

  private Node scalar(int from, Node.Kind kind) throws MalformedValue {
    int start = at;
    while (at < bytes.length && bytes[at] != ';') {
      byte b = bytes[at];
      boolean number = b >= '0' && b <= '9' || b == '-' || b == '+' || b == '.';
      // INF, NAN and exponents of floats.
      boolean letter = "EeINFA".indexOf(b) >= 0 && bytes[from] == 'd';
      if (!number && !letter) {
        throw new MalformedValue(at, "a number was expected");
      }
      at++;
    }
    if (at == start || kind != Node.Kind.SCALAR && !isWhole(start, at)) {
      throw new MalformedValue(start, "a whole number was expected");
    }
    int end = at;
    expect(';');
    return Node.leaf(kind, from, at, start, end);
  }

  private boolean isWhole(int start, int end) {
    int first = bytes[start] == '-' || bytes[start] == '+' ? start + 1 : start;
    for (int i = first; i < end; i++) {
      if (bytes[i] < '0' || bytes[i] > '9') {
        return false;
      }
    }
    return end > first;
  }

  private Node text(int from, Node.Kind kind) throws MalformedValue {
    int length = length();
    expect(':');
    expect('"');
    int start = at;
    skip(length);
    expect('"');
    expect(';');
    return Node.leaf(kind, from, at, start, start + length);
  }

  /** The escaped form that PHP 6 would have written and every PHP reads. */
  private Node escaped(int from) throws MalformedValue {
    int length = length();
    expect(':');
    expect('"');
    int start = at;
    for (int i = 0; i < length; i++) {
      if (take() == '\\') {
        skip(2);
      }
    }
    int end = at;
    expect('"');
    expect(';');
    return Node.leaf(Node.Kind.OPAQUE, from, at, start, end);
  }

  /** A class name, and the colon after it. */
  private void name() throws MalformedValue {
    int length = length();
    expect(':');
    expect('"');
    skip(length);
    expect('"');
    expect(':');
  }

  private Node container(int from, Node.Kind kind, int depth) throws MalformedValue {
    int count = length();
    expect(':');
    expect('{');
    int start = at;
    // Each member takes at least four bytes, so that a false count can't claim memory.
    List<Node> keys = new ArrayList<>(Math.min(count, (bytes.length - at) / 4 + 1));
    List<Node> values = new ArrayList<>(Math.min(count, (bytes.length - at) / 4 + 1));
    for (int i = 0; i < count; i++) {
      int keyAt = at;
      Node key = value(depth + 1);
      if (key.kind() != Node.Kind.TEXT && key.kind() != Node.Kind.WHOLE) {
        throw new MalformedValue(keyAt, "a key must be a number or a string");
      }
      keys.add(key);
      values.add(value(depth + 1));
    }
    int end = at;
    expect('}');
    return new Node(kind, from, at, start, end, keys, values);
  }

  private Node custom(int from) throws MalformedValue {
    int length = length();
    expect(':');
    expect('{');
    int start = at;
    skip(length);
    expect('}');
    return Node.leaf(Node.Kind.OPAQUE, from, at, start, start + length);
  }

  private int length() throws MalformedValue {
    int start = at;
    long length = 0;
    while (at < bytes.length
        && bytes[at] >= '0'
        && bytes[at] <= '9'
        && length < bytes.length * 10L) {
      length = length * 10 + bytes[at++] - '0';
    }
    if (at == start) {
      throw new MalformedValue(at, "a length was expected");
    }
    if (length > bytes.length) {
      throw new MalformedValue(start, "the length " + length + " goes beyond the end of the value");
    }
    return (int) length;
  }

  private void skip(int length) throws MalformedValue {
    if (length > bytes.length - at) {
      throw new MalformedValue(at, "the value is cut short");
    }
    at += length;
  }

  private byte take() throws MalformedValue {
    if (at >= bytes.length) {
      throw new MalformedValue(at, "the value is cut short");
    }
    return bytes[at++];
  }

  private void expect(char sign) throws MalformedValue {
    if (at >= bytes.length) {
      throw new MalformedValue(at, "the value is cut short");
    }
    if (bytes[at] != sign) {
      throw new MalformedValue(at, "'" + sign + "' was expected");
    }
    at++;
  }
}
