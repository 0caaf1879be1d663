package weftex.store.dump;

import java.io.IOException;
import java.io.InputStream;
import java.sql.SQLException;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.function.LongConsumer;
import weftex.store.FailureWords;
import weftex.store.Refusal;
import weftex.store.database.CopySpec;
import weftex.store.sqltext.SavedStatement;
import weftex.store.sqltext.SqlStatements;

/**
 * Puts a saved copy into the place of the present one: loaded beside it, counted, and then switched
 * to in one step. Until that the present copy is not touched.
 */
public final class Restorer implements AutoCloseable {
  private final CopySpec spec;
  private final Restoring restoring;
  private Map<String, Long> loaded = Map.of();

  private Restorer(CopySpec spec) {
    this.spec = spec;
    this.restoring = DumpDialect.of(spec).restoring(spec);
  }

  /** One for a copy, for going back. */
  public static Restorer of(CopySpec spec) {
    return new Restorer(spec);
  }

  /**
   * Loads a file beside the present copy.
   *
   * @param progress is told how many bytes of the file are read
   * @throws Refusal if the file is not whole, is of another prefix, or can't be put back here
   */
  public static Restorer load(CopySpec spec, SavedCopy saved, LongConsumer progress)
      throws Refusal, IOException {
    Map<String, Long> rows = saved.verify();
    if (!saved.prefix().equals(spec.prefix())) {
      throw new Refusal(
          Refusal.Kind.PROTECTED,
          saved.file()
              + " has tables with the prefix '"
              + saved.prefix()
              + "', and those of "
              + spec.name()
              + " begin with '"
              + spec.prefix()
              + "'. Nothing was changed.",
          "Name a file of this copy.");
    }
    Restorer restorer = new Restorer(spec);
    try {
      restorer.loadAll(saved, rows, progress);
      return restorer;
    } catch (SQLException e) {
      restorer.close();
      throw restorer.failed("loaded", e);
    } catch (Refusal | IOException | RuntimeException e) {
      restorer.close();
      throw e;
    }
  }

  /**
   * Makes ready to leave nothing in the place of the present copy.
   *
   * @throws Refusal if its tables can't be set aside
   */
  public static Restorer nothing(CopySpec spec) throws Refusal {
    Restorer restorer = new Restorer(spec);
    try {
      restorer.begin(List.of());
      restorer.loaded = restorer.restoring.counts();
      return restorer;
    } catch (SQLException e) {
      restorer.close();
      throw restorer.failed("made ready", e);
    } catch (Refusal | RuntimeException e) {
      restorer.close();
      throw e;
    }
  }

  private void begin(List<String> tables) throws SQLException, Refusal {
    List<String> obstacles = restoring.obstacles(tables);
    if (!obstacles.isEmpty()) {
      throw new Refusal(
          Refusal.Kind.PROTECTED,
          spec.name()
              + " can't be restored: "
              + String.join("; ", obstacles)
              + ". Nothing was changed.",
          "Load the file into another database: --into-database NAME.");
    }
    restoring.begin(tables);
  }

  private void loadAll(SavedCopy saved, Map<String, Long> rows, LongConsumer progress)
      throws SQLException, Refusal, IOException {
    begin(saved.tables());
    boolean backslash = DumpDialect.of(spec).escapesByBackslash();
    CountingInputStream file = new CountingInputStream(saved.open());
    try (InputStream in = PackedFile.unpack(file)) {
      SqlStatements statements = new SqlStatements(in, backslash);
      try (ReadAhead<SavedStatement> ahead =
          new ReadAhead<>(
              () -> saved(statements.next(), saved.tables(), backslash),
              next -> next.text().length())) {
        for (Optional<SavedStatement> next = ahead.next(); next.isPresent(); next = ahead.next()) {
          restoring.execute(next.get());
          progress.accept(file.count());
        }
      }
    }
    loaded = restoring.counts();
    for (Map.Entry<String, Long> table : rows.entrySet()) {
      if (!table.getValue().equals(loaded.get(table.getKey()))) {
        throw new Refusal(
            Refusal.Kind.PROTECTED,
            "Of "
                + table.getKey()
                + " "
                + loaded.get(table.getKey())
                + " rows were loaded, and the file says "
                + table.getValue()
                + ". Nothing was changed.",
            "Try another restore point; 'weftex history' lists them.");
      }
    }
  }

  private static Optional<SavedStatement> saved(
      Optional<SqlStatements.Statement> read, List<String> tables, boolean backslash)
      throws Refusal {
    return read.isEmpty()
        ? Optional.empty()
        : Optional.of(SavedStatement.of(read.get(), tables, backslash));
  }

  /** How many tables were loaded. */
  public int tables() {
    return loaded.size();
  }

  /** How many rows were loaded. */
  public long rows() {
    return loaded.values().stream().mapToLong(Long::longValue).sum();
  }

  /** What the present copy has and the file has not, by table. */
  public Map<String, Restoring.Since> since() throws Refusal {
    try {
      return restoring.since();
    } catch (SQLException e) {
      throw failed("compared", e);
    }
  }

  /** Switches to what was loaded; the tables before are set aside. */
  public void switchOver() throws Refusal {
    try {
      restoring.switchOver();
    } catch (SQLException e) {
      throw failed("switched to", e);
    }
  }

  /** Whether tables are set aside. */
  public boolean hasAside() throws Refusal {
    try {
      return restoring.hasAside();
    } catch (SQLException e) {
      throw failed("looked at", e);
    }
  }

  /** Puts the tables that are set aside in their place again. */
  public void back() throws Refusal {
    try {
      restoring.back();
    } catch (SQLException e) {
      throw failed("put back", e);
    }
  }

  /** Drops the tables that are set aside. */
  public void dropAside() throws Refusal {
    try {
      restoring.dropAside();
    } catch (SQLException e) {
      throw failed("dropped", e);
    }
  }

  private Refusal failed(String what, SQLException e) {
    return new Refusal(
        Refusal.Kind.PROTECTED,
        "The restored copy of "
            + spec.name()
            + " ("
            + spec.place()
            + ") could not be "
            + what
            + ": "
            + FailureWords.of(e)
            + ". The copy is as it was.",
        "Mend that, and run the command again.",
        e);
  }

  @Override
  public void close() throws Refusal {
    try {
      restoring.close();
    } catch (SQLException e) {
      throw failed("taken away", e);
    }
  }
}
