package weftex.store.scratch;

import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import java.util.stream.Stream;

/**
 * The programs of a MariaDB or MySQL server that this machine has.
 *
 * @param server the server itself
 * @param version what it says of its version
 */
record ServerPrograms(Path server, String version) {
  private static final List<String> SERVERS = List.of("mariadbd", "mysqld");
  private static final List<String> INSTALLERS = List.of("mariadb-install-db", "mysql_install_db");

  /** Where packages put servers, which need not be where users look for programs. */
  private static final List<String> FURTHER =
      List.of("/usr/sbin", "/usr/libexec", "/usr/local/sbin", "/usr/local/mysql/bin");

  private static final Pattern NUMBER = Pattern.compile("Ver (\\d+)\\.(\\d+)");

  /** Where a program would be that is called by its name alone, and where servers are besides. */
  static Optional<Path> find(Map<String, String> environment) {
    return programs(environment, SERVERS).findFirst();
  }

  /**
   * Asks a server for its version.
   *
   * @throws IOException if it does not run
   */
  static ServerPrograms of(Path server, Map<String, String> environment) throws IOException {
    ProcessBuilder asking =
        new ProcessBuilder(server.toString(), "--no-defaults", "--version")
            .redirectErrorStream(true);
    asking.environment().clear();
    asking.environment().putAll(environment);
    Process process = asking.start();
    process.getOutputStream().close();
    String said =
        new String(process.getInputStream().readNBytes(1 << 16), StandardCharsets.UTF_8).strip();
    if (!NUMBER.matcher(said).find()) {
      throw new IOException(server + " does not say its version: " + said);
    }
    return new ServerPrograms(server, said);
  }

  private static Stream<Path> programs(Map<String, String> environment, List<String> names) {
    List<String> folders =
        new ArrayList<>(List.of(environment.getOrDefault("PATH", "").split(":")));
    folders.addAll(FURTHER);
    return folders.stream()
        .filter(folder -> folder.startsWith("/"))
        .flatMap(folder -> names.stream().map(name -> Path.of(folder).resolve(name)))
        .filter(Files::isExecutable)
        .filter(Files::isRegularFile);
  }

  private boolean isMariaDb() {
    return version.contains("MariaDB");
  }

  /** MySQL makes its own system tables since 5.7. */
  private boolean makesItsTables() {
    Matcher number = NUMBER.matcher(version);
    return !isMariaDb()
        && number.find()
        && (Integer.parseInt(number.group(1)) > 5 || Integer.parseInt(number.group(2)) > 6);
  }

  /**
   * How a folder is made ready for data.
   *
   * @throws IOException if the program for it is not there
   */
  List<String> making(Path data, String user, Map<String, String> environment) throws IOException {
    List<String> common = List.of("--no-defaults", "--datadir=" + data, "--user=" + user);
    List<String> words = new ArrayList<>();
    if (makesItsTables()) {
      words.add(server.toString());
      words.addAll(common);
      words.add("--initialize-insecure");
      return words;
    }
    words.add(installer(environment).toString());
    words.addAll(common);
    words.add("--basedir=" + base());
    if (isMariaDb()) {
      words.add("--auth-root-authentication-method=normal");
    }
    return words;
  }

  private Path installer(Map<String, String> environment) throws IOException {
    return Stream.concat(
            Stream.of("scripts", "bin")
                .flatMap(
                    folder -> INSTALLERS.stream().map(name -> base().resolve(folder).resolve(name)))
                .filter(Files::isExecutable),
            programs(environment, INSTALLERS))
        .findFirst()
        .orElseThrow(
            () -> new IOException("there is no " + INSTALLERS.get(0) + " that belongs to it"));
  }

  /** The same in a session of its own, if that can be had: an interrupt is then not for it. */
  static List<String> apart(List<String> words, Map<String, String> environment) {
    Optional<Path> session = programs(environment, List.of("setsid")).findFirst();
    List<String> apart = new ArrayList<>(words);
    session.ifPresent(program -> apart.add(0, program.toString()));
    return apart;
  }

  /** The folder in which the server's own folders are. */
  private Path base() {
    Path real;
    try {
      real = server.toRealPath();
    } catch (IOException e) {
      real = server.toAbsolutePath();
    }
    return real.getParent().getParent();
  }

  /**
   * How the server is run: for this user alone, without a port.
   *
   * @param socket where it answers
   * @param pid the file in which its process is noted
   */
  List<String> running(Path data, Path socket, Path pid, String user) {
    List<String> words = new ArrayList<>();
    words.add(server.toString());
    words.addAll(
        List.of(
            "--no-defaults",
            "--basedir=" + base(),
            "--datadir=" + data,
            "--user=" + user,
            "--socket=" + socket,
            "--pid-file=" + pid,
            "--skip-networking",
            // Behind a socket nobody listens, and some servers make a key at each start, for
            // seconds.
            "--loose-skip-ssl",
            "--max-allowed-packet=1G",
            "--character-set-server=utf8mb4",
            // What is lost with the machine is loaded again.
            "--innodb-flush-log-at-trx-commit=0",
            "--innodb-buffer-pool-size=256M"));
    return words;
  }
}
