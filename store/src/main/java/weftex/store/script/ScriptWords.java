package weftex.store.script;

import java.math.BigInteger;
import java.util.List;
import java.util.Map;
import java.util.ServiceLoader;
import weftex.core.row.Column;
import weftex.core.row.Value;
import weftex.store.database.CopySpec;
import weftex.store.sqltext.SqlOut;

/**
 * How a kind of database says what a script that guards itself needs. The guard is kept where only
 * the connection that began sees it, so that every write over another one does nothing. Statements
 * have no semicolon at their end. Each kind has its own in its room, and a line in {@code
 * META-INF/services}.
 */
public interface ScriptWords {

  /** The one for a copy. */
  static ScriptWords of(CopySpec spec) {
    return ServiceLoader.load(ScriptWords.class, ScriptWords.class.getClassLoader()).stream()
        .map(ServiceLoader.Provider::get)
        .filter(words -> words.isFor(spec))
        .findFirst()
        .orElseThrow(() -> new IllegalStateException("no kind of database for " + spec.place()));
  }

  /** Whether a copy is of this kind. */
  boolean isFor(CopySpec spec);

  /** A name as it stands in a statement. */
  String quoted(String name);

  /** A text as it stands in a statement. */
  String text(String words);

  /** A value that is known whole, as it is written to a column. */
  void literal(SqlOut out, Column column, Value value);

  /** Whether a value can be compared of which its digest alone is known. */
  boolean comparesDigests();

  /**
   * That a column holds a value, to the last byte, behind a condition that stands: {@code AND …};
   * nothing where that can't be asked.
   */
  void same(SqlOut out, Column column, Value value);

  /** Whether many rows can be compared column by column. */
  default boolean comparesByColumn() {
    return false;
  }

  /**
   * That a column holds in each of some rows its value, to the last byte: {@code AND …}; nothing
   * where that can't be asked.
   *
   * @param key the column of whole numbers by which the rows are told
   * @param values by the numbers there
   */
  default void same(SqlOut out, Column column, String key, Map<BigInteger, Value> values) {
    throw new UnsupportedOperationException();
  }

  /** What stands behind the condition of every write, so that it does nothing without the guard. */
  String ifGoing();

  /** The same where no condition stands yet, behind the values of a SELECT without a table. */
  String whereGoing();

  /** How a statement begins that adds a row unless its key is taken. */
  String insertOrPass();

  /** The first statements. */
  List<String> first();

  /**
   * Whether new tables and columns are made inside of what is written whole or not at all; else
   * before, and they stay.
   */
  boolean makesInside();

  /**
   * What makes a new table or column, unless it is there.
   *
   * @param statements how the kind of database makes it
   * @param column what is made, empty for a table
   */
  List<String> ifAbsent(List<String> statements, String realTable, String column);

  /** Begins what is written whole or not at all. */
  List<String> opening();

  /**
   * What asks for a number, up to behind its FROM.
   *
   * @param what the number, as SELECT takes it
   */
  String asks(String what);

  /** The end of that. */
  String asked();

  /** What counts the rows of a table that are as they must be, up to the first condition. */
  String counts(String quotedTable);

  /** What stands between two of the conditions, of which each holds for one row at most. */
  String orCounts(String quotedTable);

  /** The end of that. */
  String counted();

  /**
   * Goes on only if the number is what it must be; after an error there is none.
   *
   * @param why what is said otherwise
   */
  List<String> told(long number, String why);

  /** Goes on only if the last statement wrote so many rows. */
  List<String> written(int rows, String why);

  /**
   * Counts where the last statement wrote nothing, which is no reason to stop; an error is one
   * where it can be told.
   */
  List<String> followed();

  /**
   * Ends it, made or not, and shows a row that says which.
   *
   * @param entry the condition under which the ledger's entry is found
   * @param recorded whether it is there once all is done
   * @param done what is said then
   */
  List<String> last(String ledger, String entry, boolean recorded, String done);
}
