package weftex.core.derive;

import java.io.IOException;
import java.math.BigInteger;
import java.util.Collection;
import java.util.List;
import java.util.Optional;
import weftex.core.row.Table;

/** Asks the data of a copy. */
public interface Evidence {

  /**
   * How many of some values have what is asked for.
   *
   * @param of how many there are, those that are NULL, empty or zero aside
   * @param found how many of them have it
   * @param empty how many are empty or zero
   */
  record Share(long of, long found, long empty) {
    /** In per cent, with one digit. */
    public String percent() {
      return of == 0 ? "0" : String.format(java.util.Locale.ROOT, "%.1f", 100.0 * found / of);
    }

    boolean isAtLeast(double share) {
      return of > 0 && found >= share * of;
    }
  }

  /** How many distinct values of a column are keys of another table. */
  Share keysOf(Table table, int column, Table target) throws IOException;

  /**
   * What kind of rows a column refers to.
   *
   * @param kind of the rows; empty if they are of several kinds
   * @param rows how many there are
   * @param ofKind how many rows of their table have the kind
   * @param all how many rows their table has
   */
  record Kinds(String kind, long rows, long ofKind, long all) {
    /** How likely it is that so many rows of the table, taken at random, are of one such kind. */
    double chance() {
      return kind.isEmpty() || rows == 0 ? 1 : Math.pow((double) ofKind / all, rows);
    }
  }

  /** What kind of rows of another table the values of a column are keys of. */
  Kinds kindsOf(Table table, int column, Table target, int kind) throws IOException;

  /** How many of some numbers are keys of a table; a few hundred at most are looked up. */
  Share keysAmong(Collection<BigInteger> numbers, Table target) throws IOException;

  /**
   * Which share of the numbers up to its highest key a table has; 1 if it has no gaps, or no row.
   */
  double density(Table table) throws IOException;

  /**
   * A value that looks as if it had members.
   *
   * @param row what its row is called; empty if nothing says it
   */
  record Structured(String row, String value) {}

  /**
   * Some values of a column that look as if they had members; very long ones are left out.
   *
   * @param naming the column that says what a row is called
   */
  List<Structured> structured(Table table, int column, Optional<Integer> naming) throws IOException;

  /** How many rows there are, and how many distinct values a column has. */
  Share distinct(Table table, int column) throws IOException;

  /** In how many rows a column holds the number of another table's rows that refer to the row. */
  Share counts(Table table, int column, Table of, int by) throws IOException;

  /** The different values of a column as text, if they are few. */
  List<String> values(Table table, int column) throws IOException;

  /** Whether a column has a value anywhere. */
  boolean has(Table table, int column, String value) throws IOException;

  /** Some values of a column as text, longer ones cut. */
  List<String> sample(Table table, int column) throws IOException;
}
