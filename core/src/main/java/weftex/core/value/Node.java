package weftex.core.value;

import java.util.List;

/**
 * One piece of a structured value. Positions are offsets into the bytes that were read, the end
 * exclusive.
 *
 * @param kind what it is
 * @param from where it begins, its type and length prefix included
 * @param to where it ends, its closing sign included
 * @param contentFrom where the content of a text or the body of a container begins
 * @param contentTo where that ends
 * @param keys of a map or object, as many as values; empty for a list
 * @param values of a container, in the order in which they are written
 */
public record Node(
    Kind kind,
    int from,
    int to,
    int contentFrom,
    int contentTo,
    List<Node> keys,
    List<Node> values) {

  /** What a piece is. */
  public enum Kind {
    /** A string; its content may be a structured value itself. */
    TEXT,
    /** A whole number, as an entry or as a key. */
    WHOLE,
    /** Null, a truth value, or a number with a fraction. */
    SCALAR,
    /** Members with keys. */
    MAP,
    /** Values in order, without keys. */
    LIST,
    /** A map with a class. */
    OBJECT,
    /** Carried as it is: an enum case, a back reference, what a class has written by itself. */
    OPAQUE
  }

  static Node leaf(Kind kind, int from, int to, int contentFrom, int contentTo) {
    return new Node(kind, from, to, contentFrom, contentTo, List.of(), List.of());
  }

  /** Whether it has members or values. */
  public boolean isContainer() {
    return kind == Kind.MAP || kind == Kind.LIST || kind == Kind.OBJECT;
  }
}
