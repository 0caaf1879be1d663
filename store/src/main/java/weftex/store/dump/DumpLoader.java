package weftex.store.dump;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.SQLException;
import java.sql.SQLWarning;
import java.sql.Statement;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.regex.Pattern;
import weftex.store.FailureWords;
import weftex.store.Refusal;
import weftex.store.seal.AtRest;
import weftex.store.sqltext.DumpStatement;
import weftex.store.sqltext.SqlStatements;

/** Loads a file that a dump client wrote, statement by statement. */
final class DumpLoader {
  /** How MariaDB and MySQL say that text is not in the character set that it should be in. */
  private static final int INCORRECT_STRING = 1366;

  private static final Pattern SERVER = Pattern.compile("(?m)^-- (MariaDB|MySQL) dump ");
  private static final Pattern OURS = Pattern.compile("^" + Pattern.quote(CopySaver.TITLE));

  private final Connection connection;
  private final DumpDialect words;

  /**
   * What was loaded.
   *
   * @param left the lines of views, triggers and routines, which stay text, such as {@code 12, 40}
   * @param whole whether the file's end says that it is complete, where such files say that
   */
  record Loaded(String left, boolean whole) {}

  DumpLoader(Connection connection, DumpDialect words) {
    this.connection = connection;
    this.words = words;
  }

  /**
   * Loads a file.
   *
   * @throws Refusal if it has what no dump of a site has
   */
  Loaded load(Path file, AtRest atRest, LoadingWatcher watcher)
      throws SQLException, IOException, Refusal {
    for (String first : words.first()) {
      run(first);
    }
    List<String> text = new ArrayList<>();
    DumpStatement telling = new DumpStatement(words.escapesByBackslash());
    CountingInputStream counted = new CountingInputStream(atRest.open(file));
    boolean whole;
    try (LoadingWatcher.Watch watch = watcher.loading(file, Files.size(file));
        Tail in = new Tail(PackedFile.unpack(counted))) {
      SqlStatements statements = new SqlStatements(in, words.escapesByBackslash());
      try (ReadAhead<Told> ahead =
          new ReadAhead<>(
              () -> told(statements, telling), told -> told.statement().text().length())) {
        for (Optional<Told> next = ahead.next(); next.isPresent(); next = ahead.next()) {
          if (next.get().fate() == DumpStatement.Fate.EXECUTED) {
            execute(next.get().statement());
          } else if (next.get().fate() == DumpStatement.Fate.STAYS_TEXT) {
            text.add(String.valueOf(next.get().statement().line()));
          }
          watch.accept(counted.count());
        }
      }
      whole = isWhole(SqlFile.front(file, atRest), in.text());
    }
    for (String last : words.last()) {
      run(last);
    }
    return new Loaded(String.join(", ", text), whole);
  }

  private record Told(SqlStatements.Statement statement, DumpStatement.Fate fate) {}

  /** What one says of the character set holds from the next one on, so it is told before that. */
  private static Optional<Told> told(SqlStatements statements, DumpStatement telling)
      throws Refusal, IOException {
    Optional<SqlStatements.Statement> read = statements.next();
    if (read.isEmpty()) {
      return Optional.empty();
    }
    DumpStatement.Told told = telling.told(read.get());
    told.charset().ifPresent(statements::declared);
    return Optional.of(new Told(read.get(), told.fate()));
  }

  private void execute(SqlStatements.Statement statement) throws SQLException {
    try (Statement executed = connection.createStatement()) {
      executed.execute(statement.text());
      for (SQLWarning said = executed.getWarnings(); said != null; said = said.getNextWarning()) {
        if (said.getErrorCode() == INCORRECT_STRING) {
          throw new SQLException(
              said.getMessage() + "; the file is in another character set than it says");
        }
      }
    } catch (SQLException e) {
      throw new SQLException("line " + statement.line() + ": " + FailureWords.of(e), e);
    }
  }

  /** Both of the servers' own clients, and we, end a file by a line that says so. */
  private static boolean isWhole(String front, String tail) {
    return (!SERVER.matcher(front).find() || tail.contains("-- Dump completed"))
        && (!OURS.matcher(front).find() || tail.endsWith(CopySaver.COMPLETE));
  }

  private void run(String sql) throws SQLException {
    try (Statement statement = connection.createStatement()) {
      statement.execute(sql);
    }
  }
}
