package weftex.store.dump;

import java.io.IOException;
import java.io.InputStream;
import java.nio.charset.StandardCharsets;
import java.nio.file.FileSystemException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.security.DigestInputStream;
import java.security.MessageDigest;
import java.sql.Connection;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.Arrays;
import java.util.HexFormat;
import java.util.Optional;
import java.util.function.LongConsumer;
import java.util.regex.Pattern;
import weftex.store.FailureWords;
import weftex.store.Refusal;
import weftex.store.database.Connecting;
import weftex.store.database.CopySpec;
import weftex.store.seal.AtRest;
import weftex.store.sqltext.SqlStatements;
import weftex.store.state.FileClaim;
import weftex.store.state.Files0600;

/**
 * A copy that is a file of SQL, as a server's dump client or a hosting panel writes it. Its rows
 * are loaded into a scratch database of their own, which has a mark of ours and is kept as long as
 * the file is the same.
 */
public final class SqlFile implements CopySpec.Origin {
  private static final int FRONT = 1 << 16;
  private static final Pattern SQLITE = Pattern.compile("(?m)^(PRAGMA |BEGIN TRANSACTION;)");
  private final Path file;
  private final CopySpec scratch;
  private final AtRest atRest;
  private final Room room;
  private LoadingWatcher watcher = LoadingWatcher.NOBODY;
  private boolean loaded;
  private String left = "";

  /** Where scratch databases are. */
  public interface Host {
    /**
     * Sees to it that it can be reached.
     *
     * @throws Refusal if that fails
     */
    void start() throws Refusal;
  }

  /**
   * Where the rows are loaded to.
   *
   * @param scratch the database
   * @param host where that is
   * @param claim a file that one process at a time holds while it loads; empty if nobody else can
   */
  public record Room(CopySpec scratch, Host host, Optional<Path> claim) {
    private interface Loading {
      void run() throws SQLException, IOException, Refusal;
    }

    private void alone(Loading loading, Runnable waiting)
        throws SQLException, IOException, Refusal {
      if (claim.isEmpty()) {
        loading.run();
        return;
      }
      Optional<FileClaim> held = held(waiting);
      try {
        loading.run();
      } finally {
        if (held.isPresent()) {
          held.get().close();
        }
      }
    }

    /** Empty where nothing can be written: who reads alone takes the risk. */
    private Optional<FileClaim> held(Runnable waiting) throws IOException {
      try {
        Files0600.createFolder(claim.get().getParent());
      } catch (FileSystemException e) {
        return Optional.empty();
      }
      return FileClaim.awaited(claim.get(), "loading", waiting);
    }
  }

  private SqlFile(Path file, Room room, AtRest atRest) {
    this.file = file;
    this.atRest = atRest;
    this.room = room;
    this.scratch = room.scratch();
  }

  /**
   * A copy that is a file.
   *
   * @param scratch where its rows are loaded to
   * @param atRest how the file may be kept
   */
  public static CopySpec of(Path file, CopySpec scratch, AtRest atRest) {
    return of(file, new Room(scratch, () -> {}, Optional.empty()), atRest);
  }

  /** The same, in a room that other processes may use. */
  public static CopySpec of(Path file, Room room, AtRest atRest) {
    return room.scratch().withOrigin(new SqlFile(file, room, atRest));
  }

  /** The file that a copy is; empty if it is a database. */
  public static Optional<SqlFile> of(CopySpec spec) {
    return spec.origin().map(SqlFile.class::cast);
  }

  /**
   * Whether a file is of SQLite; one that can't be read is not.
   *
   * @return false for a file of a server
   */
  public static boolean isOfSqlite(Path file, AtRest atRest) {
    try {
      return Files.isRegularFile(file) && SQLITE.matcher(front(file, atRest)).find();
    } catch (IOException e) {
      // Whoever loads it will say what is wrong with it.
      return false;
    }
  }

  /** Whether a file is a database of SQLite, not one of SQL. */
  public static boolean isDatabase(Path file) {
    byte[] sign = "SQLite format 3\0".getBytes(StandardCharsets.US_ASCII);
    try (InputStream in = Files.newInputStream(file)) {
      return Arrays.equals(in.readNBytes(sign.length), sign);
    } catch (IOException e) {
      // Whoever opens it will say what is wrong with it.
      return false;
    }
  }

  static String front(Path file, AtRest atRest) throws IOException {
    try (InputStream in = PackedFile.unpack(atRest.open(file))) {
      return new String(in.readNBytes(FRONT), StandardCharsets.UTF_8);
    }
  }

  @Override
  public String place() {
    return "SQL file " + file.toAbsolutePath().normalize();
  }

  public Path file() {
    return file;
  }

  /** From now on, whoever wants to know that it is loaded. */
  public void watchedBy(LoadingWatcher other) {
    watcher = other;
  }

  @Override
  public synchronized void load() throws Refusal {
    if (loaded) {
      return;
    }
    if (!Files.isRegularFile(file)) {
      throw refusal(Files.exists(file) ? "is no ordinary file" : "is not there", null);
    }
    room.host().start();
    DumpDialect words = DumpDialect.of(scratch);
    words.makeScratch(scratch);
    try {
      room.alone(() -> loadIfOther(words), () -> watcher.waiting(file));
      loaded = true;
    } catch (SQLException e) {
      throw refusal("can't be loaded into " + scratch.place() + ": " + FailureWords.of(e), e);
    } catch (IOException e) {
      throw refusal("can't be read: " + FailureWords.of(e), e);
    }
  }

  private void loadIfOther(DumpDialect words) throws SQLException, IOException, Refusal {
    try (Connection connection = Connecting.open(scratch)) {
      Optional<ScratchMark> mark = ScratchMark.of(connection).filter(ScratchMark::whole);
      long bytes = Files.size(file);
      long modified = Files.getLastModifiedTime(file).toMillis();
      if (mark.filter(m -> m.bytes() == bytes && m.modified() == modified).isPresent()) {
        left = mark.get().left();
        return;
      }
      String hash = hash();
      if (mark.filter(m -> m.sha256().equals(hash)).isPresent()) {
        left = mark.get().left();
      } else {
        checkOurs(connection, ScratchMark.of(connection));
        words.emptyScratch(connection);
        ScratchMark.makeTable(connection);
        DumpLoader.Loaded rows = new DumpLoader(connection, words).load(file, atRest, watcher);
        if (!rows.whole()) {
          throw refusal("is cut off: its last line does not say that it is complete", null);
        }
        left = rows.left();
      }
      new ScratchMark(hash, bytes, modified, true, left).write(connection);
    }
  }

  /** Takes the scratch database away, if it is ours; whoever needs the rows loads them again. */
  public synchronized void discard() throws Refusal {
    room.host().start();
    DumpDialect words = DumpDialect.of(scratch);
    try (Connection connection = Connecting.open(scratch)) {
      if (ScratchMark.of(connection).isEmpty()) {
        return;
      }
      words.emptyScratch(connection);
      loaded = false;
    } catch (SQLException e) {
      throw refusal("can't be taken out of " + scratch.place() + ": " + FailureWords.of(e), e);
    }
    words.dropScratch(scratch);
  }

  /** Takes a scratch database away, if it has our mark. */
  public static void discard(CopySpec scratch) throws Refusal {
    new SqlFile(Path.of(""), new Room(scratch, () -> {}, Optional.empty()), AtRest.CLEAR).discard();
  }

  /** Loads it once more, so that the rows are the file's again. */
  public synchronized void reload() throws Refusal {
    loaded = false;
    load();
  }

  /**
   * Runs a script on the loaded rows, statement by statement over one connection. They are the
   * file's no longer then.
   *
   * @return the first column of the last row that the script shows
   */
  public String run(Path script) throws Refusal, IOException {
    soil();
    String said = "";
    boolean backslash = DumpDialect.of(scratch).escapesByBackslash();
    try (Connection connection = Connecting.open(scratch);
        InputStream in = Files.newInputStream(script)) {
      SqlStatements statements = new SqlStatements(in, backslash);
      for (Optional<SqlStatements.Statement> next = statements.next();
          next.isPresent();
          next = statements.next()) {
        try (Statement statement = connection.createStatement()) {
          if (statement.execute(next.get().text())) {
            try (ResultSet rows = statement.getResultSet()) {
              said = rows.next() ? rows.getString(1) : said;
            }
          }
        }
      }
      return said;
    } catch (SQLException e) {
      return FailureWords.of(e);
    }
  }

  /**
   * The lines of the file at which views, triggers and routines stand, such as {@code 12, 40}; they
   * are not among what was loaded. Empty if there are none, or before it is loaded.
   */
  public String left() {
    return left;
  }

  /** Remembers that the rows are going to be others than the file's, so that it is loaded anew. */
  public void soil() throws Refusal {
    try (Connection connection = Connecting.open(scratch)) {
      ScratchMark.SOILED.write(connection);
    } catch (SQLException e) {
      throw refusal("could not be marked as changed: " + FailureWords.of(e), e);
    }
  }

  /** Writes all rows as they are now, other tables of the file too. */
  public CopySaver.Saved write(Path out, CopySaver.About about, LongConsumer progress)
      throws Refusal, IOException {
    return CopySaver.save(
        scratch.withPrefix(""), new CopySaver.Place(out, AtRest.CLEAR), about, progress);
  }

  private String hash() throws IOException {
    MessageDigest digest = CopySaver.sha256();
    try (InputStream in = new DigestInputStream(atRest.open(file), digest)) {
      in.transferTo(java.io.OutputStream.nullOutputStream());
    }
    return HexFormat.of().formatHex(digest.digest());
  }

  /** A database that somebody else filled is never emptied. */
  private void checkOurs(Connection connection, Optional<ScratchMark> mark)
      throws SQLException, Refusal {
    if (mark.isEmpty()
        && !DumpDialect.of(scratch)
            .contents(connection, scratch.withPrefix(""))
            .tables()
            .isEmpty()) {
      throw new Refusal(
          Refusal.Kind.PROTECTED,
          scratch.place()
              + ", into which "
              + file
              + " would be loaded, has tables that Weftex did not make. Nothing was changed.",
          "Name an empty database, or none, under 'scratch' in weftex.yaml.");
    }
  }

  private Refusal refusal(String what, Exception cause) {
    return new Refusal(
        Refusal.Kind.WRONG_INPUT,
        "The file " + file + " of " + scratch.name() + " " + what + ". Nothing was changed.",
        "Export it again, or correct 'sql' of " + scratch.name() + " in weftex.yaml.",
        cause);
  }
}
