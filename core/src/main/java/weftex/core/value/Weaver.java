package weftex.core.value;

import java.io.ByteArrayOutputStream;
import java.util.ArrayList;
import java.util.List;
import weftex.core.row.Part;
import weftex.core.row.RowName;
import weftex.core.row.Value;

/** Puts a text together from bytes and from numbers that are not known yet. */
public final class Weaver {
  private final List<Part> parts = new ArrayList<>();
  private final ByteArrayOutputStream tail = new ByteArrayOutputStream();

  /** A text of known bytes. */
  public static Weaver of(byte[] bytes) {
    return new Weaver().add(bytes);
  }

  /** Adds bytes. */
  public Weaver add(byte[] bytes) {
    return add(bytes, 0, bytes.length);
  }

  /** Adds the bytes from {@code from} up to {@code to}. */
  public Weaver add(byte[] bytes, int from, int to) {
    tail.write(bytes, from, to - from);
    return this;
  }

  /** Adds the number of an added row. */
  public Weaver add(RowName row) {
    return add(new Part.Number(row));
  }

  /** Adds what another weaver has put together. */
  public Weaver add(Weaver other) {
    other.parts.forEach(this::add);
    return add(other.tail.toByteArray());
  }

  private Weaver add(Part part) {
    if (part instanceof Part.Literal literal) {
      return add(literal.bytes());
    }
    cut();
    parts.add(part);
    return this;
  }

  /** Adds a text with its length before it, as PHP serialises it, without type and end. */
  Weaver addSized(Weaver content) {
    if (content.isPending()) {
      return add(new Part.Sized(content.parts()));
    }
    byte[] bytes = content.bytes();
    return add((bytes.length + ":\"").getBytes(java.nio.charset.StandardCharsets.US_ASCII))
        .add(bytes)
        .add(new byte[] {'"'});
  }

  /** Adds a text as the inside of a JSON string, spelt like another one. */
  Weaver addQuoted(Weaver content, JsonText like) {
    return content.isPending()
        ? add(new Part.Quoted(content.parts(), like.slashes(), like.unicode()))
        : add(like.quote(content.bytes()));
  }

  /** Adds a text in Base64. */
  Weaver addBase64(Weaver content) {
    return content.isPending()
        ? add(new Part.Base64(content.parts()))
        : add(java.util.Base64.getEncoder().encode(content.bytes()));
  }

  private void cut() {
    if (tail.size() > 0) {
      parts.add(new Part.Literal(tail.toByteArray()));
      tail.reset();
    }
  }

  /** Whether a number is not known yet. */
  public boolean isPending() {
    return !parts.isEmpty();
  }

  /** The pieces, in order. */
  public List<Part> parts() {
    cut();
    return List.copyOf(parts);
  }

  /** The bytes; throws {@link IllegalStateException} if a number is not known yet. */
  public byte[] bytes() {
    if (isPending()) {
      throw new IllegalStateException("a number is not known yet");
    }
    return tail.toByteArray();
  }

  /** The whole as a value of the kind that another value is of: text or bytes. */
  public Value toValue(Value like) {
    if (isPending()) {
      return new Value.Pending(parts());
    }
    return like instanceof Value.Binary ? new Value.Binary(bytes()) : new Value.Text(bytes());
  }
}
