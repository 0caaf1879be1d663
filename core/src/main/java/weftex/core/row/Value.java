package weftex.core.row;

import java.math.BigInteger;
import java.nio.ByteBuffer;
import java.nio.charset.CharacterCodingException;
import java.nio.charset.StandardCharsets;
import java.util.Arrays;
import java.util.Collection;
import java.util.List;
import java.util.Optional;
import java.util.function.Function;

/**
 * One cell, in a canonical form in which two values are equal exactly when they are the same to the
 * last byte. The equality that a collation sees is a matter of keys, see {@link SortKey}.
 */
public sealed interface Value {

  /** SQL NULL. */
  Value NULL = Null.INSTANCE;

  /** Returns the text whose UTF-8 form is {@code text}. */
  static Value text(String text) {
    return new Text(text.getBytes(StandardCharsets.UTF_8));
  }

  /** Returns a whole number. */
  static Value whole(long number) {
    return new Whole(BigInteger.valueOf(number));
  }

  /** Whether this is SQL NULL. */
  default boolean isNull() {
    return this == NULL;
  }

  /** Whether nothing can equal it: NULL, or a value with a number that is not known yet. */
  default boolean isOpen() {
    return isNull() || this instanceof Fresh || this instanceof Pending;
  }

  /** The value for a person or a message, unshortened. */
  String display();

  /** Several values, such as those of a key: {@code 12} or {@code 12, 4}. */
  static String display(Collection<Value> values) {
    StringBuilder all = new StringBuilder();
    for (Value value : values) {
      all.append(all.isEmpty() ? "" : ", ").append(value.display());
    }
    return all.toString();
  }

  /** SQL NULL. */
  enum Null implements Value {
    INSTANCE;

    @Override
    public String display() {
      return "NULL";
    }
  }

  /**
   * Text as UTF-8 bytes. Dates and times are text too, as the server writes them, so that a zero
   * date survives. The bytes need not be valid UTF-8: damaged text is carried as it is.
   */
  final class Text implements Value {
    private final byte[] utf8;

    public Text(byte[] utf8) {
      this.utf8 = utf8;
    }

    /** The bytes; not to be changed. */
    public byte[] utf8() {
      return utf8;
    }

    /** Whether the bytes are well-formed UTF-8, so that a {@code String} can carry them. */
    public boolean isWellFormed() {
      int ascii = 0;
      while (ascii < utf8.length && utf8[ascii] >= 0) {
        ascii++;
      }
      if (ascii == utf8.length) {
        return true;
      }
      try {
        StandardCharsets.UTF_8.newDecoder().decode(ByteBuffer.wrap(utf8));
        return true;
      } catch (CharacterCodingException e) {
        return false;
      }
    }

    @Override
    public String display() {
      return new String(utf8, StandardCharsets.UTF_8);
    }

    @Override
    public boolean equals(Object other) {
      return other instanceof Text text && Arrays.equals(utf8, text.utf8);
    }

    @Override
    public int hashCode() {
      return Arrays.hashCode(utf8);
    }

    @Override
    public String toString() {
      return "'" + display() + "'";
    }
  }

  /** A string of bytes. */
  final class Binary implements Value {
    private final byte[] bytes;

    public Binary(byte[] bytes) {
      this.bytes = bytes;
    }

    /** The bytes; not to be changed. */
    public byte[] bytes() {
      return bytes;
    }

    @Override
    public String display() {
      StringBuilder hex = new StringBuilder("0x");
      for (byte b : bytes) {
        hex.append(Character.forDigit(b >> 4 & 15, 16)).append(Character.forDigit(b & 15, 16));
      }
      return hex.toString();
    }

    @Override
    public boolean equals(Object other) {
      return other instanceof Binary binary && Arrays.equals(bytes, binary.bytes);
    }

    @Override
    public int hashCode() {
      return Arrays.hashCode(bytes);
    }

    @Override
    public String toString() {
      return display();
    }
  }

  /** A whole number of any size. */
  record Whole(BigInteger number) implements Value {
    @Override
    public String display() {
      return number.toString();
    }

    // A record's own two are slow until the second compiler is at work, and every key is hashed.
    @Override
    public boolean equals(Object other) {
      return other instanceof Whole whole && number.equals(whole.number);
    }

    @Override
    public int hashCode() {
      return number.hashCode();
    }
  }

  /**
   * A decimal or floating-point number, exactly as the server writes it: {@code 12.50} keeps its
   * zero.
   */
  record Decimal(String digits) implements Value {
    @Override
    public String display() {
      return digits;
    }
  }

  /**
   * The number that an added row will have on the target, not known before it is added: a symbolic
   * reference to it.
   */
  record Fresh(RowName row) implements Value {
    @Override
    public String display() {
      return "new " + row;
    }
  }

  /**
   * A text with numbers of added rows inside, not known before those are added.
   *
   * @param parts in order
   */
  record Pending(List<Part> parts) implements Value {
    public Pending {
      parts = List.copyOf(parts);
    }

    /** The text with the numbers that the rows got. */
    public Text settled(Function<RowName, BigInteger> numbers) {
      return new Text(Part.settled(parts, numbers));
    }

    /** The text with the names of the rows where their numbers will stand. */
    @Override
    public String display() {
      return Part.shown(parts);
    }
  }

  /**
   * Stands for a long value that need not be carried whole, only recognised.
   *
   * @param sha256 of the value's bytes, in hexadecimal
   * @param bytes its length
   */
  record Digest(String sha256, long bytes) implements Value {

    /** The digest of a text or binary value. */
    public static Digest of(byte[] content) {
      try {
        byte[] hash = java.security.MessageDigest.getInstance("SHA-256").digest(content);
        return new Digest(java.util.HexFormat.of().formatHex(hash), content.length);
      } catch (java.security.NoSuchAlgorithmException e) {
        throw new IllegalStateException("every Java has SHA-256", e);
      }
    }

    @Override
    public String display() {
      return "(" + bytes + " bytes)";
    }
  }

  /** Whether an actual value is the one that this value is; either may be a digest of it. */
  default boolean matches(Value actual) {
    boolean oneIsDigest = this instanceof Digest != actual instanceof Digest;
    return oneIsDigest
        ? digest(this).isPresent() && digest(this).equals(digest(actual))
        : equals(actual);
  }

  private static Optional<Digest> digest(Value value) {
    if (value instanceof Digest digest) {
      return Optional.of(digest);
    }
    if (value instanceof Text text) {
      return Optional.of(Digest.of(text.utf8()));
    }
    return value instanceof Binary binary
        ? Optional.of(Digest.of(binary.bytes()))
        : Optional.empty();
  }
}
