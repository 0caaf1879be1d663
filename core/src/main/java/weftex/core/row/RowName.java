package weftex.core.row;

import java.math.BigInteger;

/**
 * An added row, named by its table and the number it has on the source copy: {@code posts#812}.
 *
 * @param table the table without prefix
 * @param number the number on the source copy
 */
public record RowName(String table, BigInteger number) {

  /**
   * Reads the form that {@link #toString} writes; throws {@link IllegalArgumentException} for
   * another.
   */
  public static RowName parse(String text) {
    int hash = text.lastIndexOf('#');
    if (hash < 1) {
      throw new IllegalArgumentException("not the name of an added row: " + text);
    }
    return new RowName(text.substring(0, hash), new BigInteger(text.substring(hash + 1)));
  }

  /** As people write it: {@code posts:812}. */
  public String words() {
    return table + ":" + number;
  }

  @Override
  public String toString() {
    return table + "#" + number;
  }
}
