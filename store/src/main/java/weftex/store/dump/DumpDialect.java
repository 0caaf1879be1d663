package weftex.store.dump;

import java.sql.Connection;
import java.sql.SQLException;
import java.util.List;
import java.util.ServiceLoader;
import weftex.core.row.Column;
import weftex.core.row.Value;
import weftex.store.Refusal;
import weftex.store.database.CopySpec;
import weftex.store.sqltext.SqlOut;

/**
 * How a kind of database is written as plain SQL and put back. Each kind has its own in its room,
 * and a line in {@code META-INF/services}.
 */
public interface DumpDialect {

  /** The one for a copy. */
  static DumpDialect of(CopySpec spec) {
    return ServiceLoader.load(DumpDialect.class, DumpDialect.class.getClassLoader()).stream()
        .map(ServiceLoader.Provider::get)
        .filter(dialect -> dialect.isFor(spec))
        .findFirst()
        .orElseThrow(() -> new IllegalStateException("no kind of database for " + spec.place()));
  }

  /** Whether a copy is of this kind. */
  boolean isFor(CopySpec spec);

  /** The program that loads such a file, as a person types it. */
  String client(CopySpec spec);

  /** Whether a backslash in a string takes the next character as it is. */
  boolean escapesByBackslash();

  /** Whether a client must be told of statements with semicolons within. */
  boolean hasDelimiters();

  /** The statements that come first. */
  List<String> first();

  /** The statements that come last. */
  List<String> last();

  /** What there is to save under a copy's prefix, Weftex's own ledger too. */
  SavedContents contents(Connection connection, CopySpec spec) throws SQLException;

  /** A value as it stands in a statement. */
  void literal(SqlOut out, Column column, Value value);

  /**
   * Makes the database into which a file is loaded, if it is not there.
   *
   * @throws Refusal if the user may not
   */
  void makeScratch(CopySpec scratch) throws Refusal;

  /** Takes away all tables of such a database. */
  void emptyScratch(Connection connection) throws SQLException;

  /** Takes away such a database, which is empty; one that may not be taken away stays so. */
  void dropScratch(CopySpec scratch) throws Refusal;

  /** Puts a saved copy into the place of the present one. */
  Restoring restoring(CopySpec spec);
}
