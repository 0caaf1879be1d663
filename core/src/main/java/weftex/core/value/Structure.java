package weftex.core.value;

import java.nio.charset.StandardCharsets;
import java.util.Arrays;
import java.util.LinkedHashMap;
import java.util.Map;
import java.util.Optional;
import java.util.TreeMap;

/**
 * A value that was read as a tree.
 *
 * @param syntax how it is written
 * @param bytes as they were read; the tree's positions refer to them
 * @param root the whole value
 */
public record Structure(Syntax syntax, byte[] bytes, Node root) {

  /**
   * Values nested deeper are left as they are. No program that was looked at writes more than a few
   * dozen levels.
   */
  public static final int MOST_DEPTH = 500;

  /** Larger values are left as they are. */
  public static final int MOST_BYTES = 64 << 20;

  /**
   * Reads a value of a known syntax.
   *
   * @throws MalformedValue if it is not well-formed, too deep or too long
   */
  public static Structure read(Syntax syntax, byte[] bytes) throws MalformedValue {
    if (bytes.length > MOST_BYTES) {
      throw new MalformedValue(0, "it is longer than " + (MOST_BYTES >> 20) + " MB");
    }
    Node root = syntax == Syntax.SERIALIZED ? PhpReader.read(bytes) : JsonReader.read(bytes);
    return new Structure(syntax, bytes, root);
  }

  /**
   * Reads a value if it is structured: it must begin and end like a structured value and be
   * well-formed to the last byte. A lone number, word or string is plain text.
   */
  public static Optional<Structure> detect(byte[] bytes) {
    Optional<Syntax> syntax = looksLike(bytes);
    if (syntax.isEmpty()) {
      return Optional.empty();
    }
    try {
      return Optional.of(read(syntax.get(), bytes));
    } catch (MalformedValue e) {
      return Optional.empty();
    }
  }

  /** What bytes look like from outside, without reading them. */
  public static Optional<Syntax> looksLike(byte[] bytes) {
    if (PhpLook.looksLike(bytes)) {
      return Optional.of(Syntax.SERIALIZED);
    }
    return JsonReader.looksLike(bytes) ? Optional.of(Syntax.JSON) : Optional.empty();
  }

  /**
   * What is wrong with bytes that claim to be a serialised array or object, by their first signs,
   * and are none; empty for anything else. To write into such a value would break it further.
   */
  public static Optional<MalformedValue> malformed(byte[] bytes) {
    if (!PhpLook.claims(bytes)) {
      return Optional.empty();
    }
    try {
      read(Syntax.SERIALIZED, bytes);
      return Optional.empty();
    } catch (MalformedValue e) {
      return Optional.of(e);
    }
  }

  /** The text that a string or key stands for. */
  public byte[] content(Node node) {
    return syntax == Syntax.JSON && node.kind() == Node.Kind.TEXT
        ? JsonText.read(bytes, node.contentFrom(), node.contentTo()).text()
        : Arrays.copyOfRange(bytes, node.contentFrom(), node.contentTo());
  }

  /** The key of a member, as a person would write it; the index in a list. */
  public String name(Node container, int index) {
    return container.kind() == Node.Kind.LIST
        ? String.valueOf(index)
        : new String(content(container.keys().get(index)), StandardCharsets.UTF_8);
  }

  /** The bytes of a piece as they are written. */
  public byte[] raw(Node node) {
    return Arrays.copyOfRange(bytes, node.from(), node.to());
  }

  byte[] slice(int from, int to) {
    return Arrays.copyOfRange(bytes, from, to);
  }

  /** What stands before the members of a serialised container, up to their number; else empty. */
  public String head(Node container) {
    if (syntax == Syntax.JSON) {
      return "";
    }
    String written =
        new String(
            bytes,
            container.from(),
            container.contentFrom() - container.from(),
            StandardCharsets.ISO_8859_1);
    // "a:3:{" or "O:4:"Name":3:{": the number stands between the last two colons.
    int end = written.lastIndexOf(':', written.length() - 3);
    return written.substring(0, end + 1);
  }

  /** Whether a container's keys count from zero, so that it is a list. */
  public boolean isList(Node container) {
    if (container.kind() != Node.Kind.MAP) {
      return container.kind() == Node.Kind.LIST;
    }
    if (syntax == Syntax.JSON) {
      return false;
    }
    for (int i = 0; i < container.keys().size(); i++) {
      if (!name(container, i).equals(String.valueOf(i))) {
        return false;
      }
    }
    return true;
  }

  /** Where the members of a map are, by key, in their order. */
  public Map<String, Integer> index(Node map) {
    Map<String, Integer> index = new LinkedHashMap<>();
    for (int i = 0; i < map.values().size(); i++) {
      index.put(name(map, i), i);
    }
    return index;
  }

  /**
   * Whether a serialised value points to a place within itself, which counts values from the start.
   */
  public boolean hasBackReferences() {
    return syntax == Syntax.SERIALIZED && hasBackReferences(root);
  }

  private boolean hasBackReferences(Node node) {
    boolean itself =
        node.kind() == Node.Kind.OPAQUE && (bytes[node.from()] == 'R' || bytes[node.from()] == 'r');
    return itself || node.values().stream().anyMatch(this::hasBackReferences);
  }

  /** A form that is equal for values that mean the same; white space and escapes don't count. */
  public String canonical(Node node) {
    if (syntax == Syntax.SERIALIZED) {
      return new String(bytes, node.from(), node.to() - node.from(), StandardCharsets.ISO_8859_1);
    }
    StringBuilder out = new StringBuilder();
    canonical(node, out);
    return out.toString();
  }

  private void canonical(Node node, StringBuilder out) {
    switch (node.kind()) {
      case TEXT -> {
        byte[] content = content(node);
        out.append('s').append(content.length).append(':');
        out.append(new String(content, StandardCharsets.ISO_8859_1));
      }
      case LIST -> {
        out.append('[');
        node.values().forEach(value -> canonical(value, out.append(',')));
        out.append(']');
      }
      case MAP -> {
        out.append('{');
        new TreeMap<>(index(node))
            .forEach(
                (key, at) -> {
                  out.append(',').append(key.length()).append(':').append(key);
                  canonical(node.values().get(at), out);
                });
        out.append('}');
      }
      default -> out.append(new String(raw(node), StandardCharsets.ISO_8859_1));
    }
  }

  /** Writes a text in place of another one, as that one is spelt. */
  public byte[] text(Node original, byte[] content) {
    Weaver woven = new Weaver();
    if (syntax == Syntax.SERIALIZED) {
      woven.add(new byte[] {'s', ':'}).addSized(Weaver.of(content)).add(new byte[] {';'});
    } else {
      JsonText like = JsonText.read(bytes, original.contentFrom(), original.contentTo());
      woven.add(new byte[] {'"'}).addQuoted(Weaver.of(content), like).add(new byte[] {'"'});
    }
    return woven.bytes();
  }
}
