package weftex.store.database;

/**
 * How one key column is ordered.
 *
 * @param style what kind of order
 * @param detail for {@link Style#SERVER}: the collation, which both sides must share
 */
public record KeyPart(Style style, String detail) {

  /** Kinds of order. */
  public enum Style {
    /** As whole numbers. */
    NUMBER,
    /** By the server's own sort key for a collation. */
    SERVER,
    /** By the bytes of the value. */
    BYTES
  }

  public static final KeyPart NUMBER = new KeyPart(Style.NUMBER, "");
  public static final KeyPart BYTES = new KeyPart(Style.BYTES, "");

  @Override
  public String toString() {
    String label = style.name().toLowerCase(java.util.Locale.ROOT);
    return detail.isEmpty() ? label : label + ":" + detail;
  }
}
