package weftex.cli.config;

import java.io.IOException;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import weftex.store.FailureWords;
import weftex.store.Refusal;
import weftex.store.database.CopySpec;
import weftex.store.database.SshHost;
import weftex.store.database.Tls;
import weftex.store.dump.SqlFile;
import weftex.store.scratch.PrivateServer;
import weftex.store.seal.AtRest;
import weftex.store.state.StateFolder;

/**
 * Where the rows of copies that are files are loaded to: on the server that weftex.yaml names for
 * that, else on staging's, else on one of our own. Never on live's, unless that is named.
 */
final class FileCopies {
  /** What the scratch database of a backup is called by. */
  static final String BACKUP = "base";

  private static final int LONGEST_NAME = 64;

  private final CopyReader copies;
  private final PairFile said;

  FileCopies(CopyReader copies, PairFile said) {
    this.copies = copies;
    this.said = said;
  }

  /**
   * A copy that is a file.
   *
   * @param scratch what its scratch database is called by
   * @param atRest how it may be kept
   */
  record CopyOfFile(String name, String prefix, String scratch, AtRest atRest) {}

  /**
   * The copy that a file is.
   *
   * @throws Refusal if there is no place for its rows
   */
  CopySpec read(CopyOfFile copy, Path sql) throws Refusal {
    if (SqlFile.isOfSqlite(sql, copy.atRest())) {
      Path scratch = folder().resolve(copy.scratch() + ".db");
      return of(copy, sql, new CopySpec.SqliteFile(copy.name(), copy.prefix(), scratch), () -> {});
    }
    Optional<PairFile.ServerEntry> server = server(copy);
    return server.isPresent()
        ? of(copy, sql, onServer(copy, server.get()), () -> {})
        : onOwnServer(copy, sql);
  }

  /**
   * The scratch databases into which files may have been loaded: of the copies that are files, and
   * of backups. No file need be there for it.
   */
  List<CopySpec> scratches() throws Refusal {
    List<CopyOfFile> files = new ArrayList<>();
    if (said.copies().staging().sql() != null) {
      files.add(new CopyOfFile("staging", "", "staging", AtRest.CLEAR));
    }
    if (said.copies().live().sql() != null) {
      files.add(new CopyOfFile("live", "", "live", AtRest.CLEAR));
    }
    files.add(new CopyOfFile("live", "", BACKUP, AtRest.CLEAR));
    List<CopySpec> scratches = new ArrayList<>();
    for (CopyOfFile file : files) {
      Optional<PairFile.ServerEntry> server = server(file);
      if (server.isPresent()) {
        scratches.add(onServer(file, server.get()));
      }
    }
    return scratches;
  }

  private Optional<PairFile.ServerEntry> server(CopyOfFile copy) {
    if (said.scratch() != null) {
      return Optional.ofNullable(said.scratch().mariadb());
    }
    return copy.name().equals("staging") && copy.scratch().equals(copy.name())
        ? Optional.empty()
        : Optional.ofNullable(said.copies().staging().mariadb());
  }

  /** Of a sealed pair a database in a file, which has all of a copy, is held in memory. */
  private Path folder() throws Refusal {
    Path state = StateFolder.of(copies.file()).folder();
    if (said.keeping().sealed() == null || !said.keeping().sealed().on()) {
      return StateFolder.of(copies.file()).scratch();
    }
    try {
      return InMemory.own(copies.environment(), "weftex-" + Integer.toHexString(state.hashCode()))
          .orElseThrow(
              () ->
                  copies.wrong(
                      "'sealed' and a copy that is a file need a folder in memory for the"
                          + " database, and this machine has none"));
    } catch (IOException e) {
      throw copies.wrong(
          "the folder in memory for the database of a file can't be used: " + FailureWords.of(e));
    }
  }

  private CopySpec onServer(CopyOfFile copy, PairFile.ServerEntry server) throws Refusal {
    boolean isStagings = server == said.copies().staging().mariadb();
    boolean named = !isStagings && server.database() != null;
    String database =
        named
            ? server.database() + (copy.scratch().equals(copy.name()) ? "" : "_" + copy.scratch())
            : database(copy);
    PairFile.ServerEntry scratch =
        new PairFile.ServerEntry(
            server.host(),
            server.port(),
            cut(database),
            server.user(),
            server.password(),
            server.tls());
    Optional<SshHost> ssh =
        isStagings
            ? copies.ssh(copy.name(), said.copies().staging().ssh(), said)
            : Optional.empty();
    return copies.server(
        copy.name(),
        copy.prefix(),
        scratch,
        List.of(),
        new CopyReader.Beside(ssh, said.passwordVariables()));
  }

  private CopySpec onOwnServer(CopyOfFile copy, Path sql) throws Refusal {
    Path folder = folder().resolve(StateFolder.OWN_SERVER);
    if (said.scratch() == null && !PrivateServer.isPossible(folder, copies.environment())) {
      throw copies.wrong(
          (copy.scratch().equals(copy.name()) ? "copy '" + copy.name() + "'" : "the backup")
              + " is a file of a MariaDB or MySQL server, and nothing says on which server it may be"
              + " loaded: add 'scratch: {mariadb: {host: …, user: …}}', or install the programs of a"
              + " server on this machine, such as Debian's mariadb-server-core, which Weftex then"
              + " starts by itself");
    }
    PrivateServer own = PrivateServer.in(folder, copies.environment());
    return of(
        copy,
        sql,
        new CopySpec.Server(
            copy.name(),
            copy.prefix(),
            own.socket().toString(),
            CopySpec.Server.DEFAULT_PORT,
            cut(database(copy)),
            PrivateServer.USER,
            PasswordSource.none(),
            Tls.OFF),
        own);
  }

  private CopySpec of(CopyOfFile copy, Path sql, CopySpec scratch, SqlFile.Host host) {
    Path claim = StateFolder.of(copies.file()).scratch().resolve("." + copy.scratch() + ".open");
    return SqlFile.of(sql, new SqlFile.Room(scratch, host, Optional.of(claim)), copy.atRest());
  }

  private String database(CopyOfFile copy) {
    return ("weftex_scratch_" + said.site() + "_" + copy.scratch())
        .replaceAll("[^A-Za-z0-9_]", "_");
  }

  private static String cut(String database) {
    return database.substring(0, Math.min(LONGEST_NAME, database.length()));
  }
}
