package weftex.core.row;

/**
 * A column of a table.
 *
 * @param name as the server spells it
 * @param kind what it holds
 * @param type the declared type in the server's words, for a person and for comparing two copies
 * @param scale digits after the point of a {@link ValueKind#DECIMAL}; 0 for all others
 * @param nullable whether it takes NULL
 * @param generated whether the server computes it; such a column is compared but never written
 * @param touched whether the server sets it by itself when another column of the row is updated
 */
public record Column(
    String name,
    ValueKind kind,
    String type,
    int scale,
    boolean nullable,
    boolean generated,
    boolean touched) {

  public Column {
    // A name that is looked up is mostly the very same object then.
    name = name.intern();
  }

  /** The same column, its values taken for something else. */
  public Column as(ValueKind other) {
    return new Column(name, other, type, scale, nullable, generated, touched);
  }

  /** A plain column that takes NULL. */
  public static Column of(String name, ValueKind kind) {
    return new Column(
        name, kind, kind.name().toLowerCase(java.util.Locale.ROOT), 0, true, false, false);
  }
}
