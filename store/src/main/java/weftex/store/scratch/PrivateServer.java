package weftex.store.scratch;

import java.io.IOException;
import java.net.StandardProtocolFamily;
import java.net.UnixDomainSocketAddress;
import java.nio.channels.FileChannel;
import java.nio.channels.FileLock;
import java.nio.channels.SocketChannel;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardOpenOption;
import java.nio.file.attribute.FileTime;
import java.time.Clock;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeMap;
import java.util.concurrent.ConcurrentHashMap;
import weftex.store.FailureWords;
import weftex.store.Refusal;
import weftex.store.dump.SqlFile;
import weftex.store.state.Files0600;

/**
 * A database server that Weftex starts from this machine's own programs, in a folder of the pair,
 * when rows of a file have to be loaded and no server is named for that. It answers at a socket in
 * that folder alone, which nobody else may enter. All runs of the pair share it; the last one that
 * ends it stops it, and one that a killed run left is taken over by the next.
 */
public final class PrivateServer implements SqlFile.Host {
  /** Who the server takes anybody for that reaches its socket. */
  public static final String USER = "root";

  static final int PATIENCE_SECONDS = 90;
  static final int PAUSE_MILLIS = 100;

  /** The longest path of a socket that every system takes. */
  private static final int LONGEST_SOCKET = 100;

  /** What the programs are told of the environment; passwords are none of their business. */
  private static final Set<String> PASSED_ON =
      Set.of("PATH", "HOME", "USER", "LANG", "LC_ALL", "TMPDIR", "LD_LIBRARY_PATH");

  /** By folder: a process holds a lock once. */
  private static final Map<Path, PrivateServer> ALL = new ConcurrentHashMap<>();

  private final Path folder;
  private final Map<String, String> environment;

  /** Held as long as this process uses the server, together with others. */
  private FileChannel users;

  /** Its process, if this one started it. */
  private Optional<ProcessHandle> started = Optional.empty();

  private final ServerPaths paths;

  private PrivateServer(Path folder, Map<String, String> environment) {
    this.folder = folder;
    this.environment = new TreeMap<>(environment);
    this.environment.keySet().retainAll(PASSED_ON);
    this.paths = new ServerPaths(folder);
  }

  /**
   * The server of a folder; it is not started yet.
   *
   * @param folder where its data are; it need not be there
   * @param environment in which programs are looked for
   */
  public static PrivateServer in(Path folder, Map<String, String> environment) {
    return ALL.computeIfAbsent(
        folder.toAbsolutePath().normalize(), own -> new PrivateServer(own, environment));
  }

  /** Whether this machine has the programs, and they can be used from a folder. */
  public static boolean isPossible(Path folder, Map<String, String> environment) {
    return ServerPrograms.find(environment).isPresent() && isUsable(socket(folder));
  }

  private static boolean isUsable(Path socket) {
    String path = socket.toString();
    return path.getBytes(StandardCharsets.UTF_8).length <= LONGEST_SOCKET
        && path.chars().noneMatch(c -> ",;&?".indexOf(c) >= 0);
  }

  private static Path socket(Path folder) {
    return folder.toAbsolutePath().resolve("socket");
  }

  /** Where it answers. */
  public Path socket() {
    return socket(folder);
  }

  @Override
  public synchronized void start() throws Refusal {
    if (users != null) {
      return;
    }
    try {
      Files0600.createFolder(folder);
      try (FileChannel starting = open("starting")) {
        starting.lock();
        FileChannel shared = open("users");
        // Before it is locked: to open the file once more and close it would let the lock go.
        Files.setLastModifiedTime(
            folder.resolve("users"), FileTime.from(Clock.systemUTC().instant()));
        users = shared;
        users.lock(0, Long.MAX_VALUE, true);
        if (!answers()) {
          run();
        }
      }
    } catch (IOException e) {
      letGo();
      throw new Refusal(
          Refusal.Kind.UNREACHABLE,
          "A database server of Weftex's own could not be started in "
              + folder
              + ": "
              + FailureWords.of(e)
              + ". Nothing was changed.",
          "Name a server under 'scratch' in weftex.yaml, such as 'scratch: {mariadb: {host: …, user: …}}', or"
              + " look at "
              + paths.log()
              + ".",
          e);
    }
  }

  private FileChannel open(String name) throws IOException {
    return Files0600.open(
        folder.resolve(name),
        StandardOpenOption.CREATE,
        StandardOpenOption.READ,
        StandardOpenOption.WRITE);
  }

  private boolean answers() {
    try (SocketChannel channel = SocketChannel.open(StandardProtocolFamily.UNIX)) {
      return channel.connect(UnixDomainSocketAddress.of(socket()));
    } catch (IOException e) {
      return false;
    }
  }

  private void run() throws IOException {
    if (!isUsable(socket())) {
      throw new IOException("the path " + socket() + " is too long for a socket, or has odd signs");
    }
    Path program =
        ServerPrograms.find(environment)
            .orElseThrow(
                () ->
                    new IOException(
                        "this machine has no 'mariadbd' and no 'mysqld' (on Debian they are in"
                            + " mariadb-server-core)"));
    ServerPrograms programs = ServerPrograms.of(program, environment);
    Path made = folder.resolve("made-by");
    // Another server could read its tables, or could not: it makes its own.
    boolean kept = Files.exists(made) && Files.readString(made).equals(programs.version());
    if (!kept || !isLaunched(programs)) {
      make(programs, made);
      launch(programs);
    }
  }

  private static String user() {
    return System.getProperty("user.name");
  }

  private void make(ServerPrograms programs, Path made) throws IOException {
    Files.deleteIfExists(made);
    if (Files.exists(paths.data())) {
      Files0600.delete(paths.data());
    }
    Files0600.createFolder(paths.data());
    int status = ServerProcess.await(begin(programs.making(paths.data(), user(), environment)));
    if (status != 0) {
      throw new IOException("its tables could not be made (" + lastLine() + ")");
    }
    Files0600.whole(made, out -> out.write(programs.version().getBytes(StandardCharsets.UTF_8)));
  }

  /** What is damaged is made anew: the rows are in the files. */
  private boolean isLaunched(ServerPrograms programs) {
    try {
      launch(programs);
      return true;
    } catch (IOException e) {
      return false;
    }
  }

  private void launch(ServerPrograms programs) throws IOException {
    Files.deleteIfExists(socket());
    List<String> words = programs.running(paths.data(), socket(), paths.pidFile(), user());
    Process server = begin(ServerPrograms.apart(words, environment));
    started = Optional.of(server.toHandle());
    for (int i = 0; i < PATIENCE_SECONDS * (1000 / PAUSE_MILLIS) && !answers(); i++) {
      if (!server.isAlive()) {
        throw new IOException("it ended at once (" + lastLine() + ")");
      }
      ServerProcess.pause();
    }
    if (!answers()) {
      server.destroyForcibly();
      throw new IOException("it did not answer within " + PATIENCE_SECONDS + " seconds");
    }
  }

  private Process begin(List<String> words) throws IOException {
    ProcessBuilder builder = new ProcessBuilder(words);
    builder.environment().clear();
    builder.environment().putAll(environment);
    open("log").close();
    builder
        .redirectErrorStream(true)
        .redirectOutput(ProcessBuilder.Redirect.appendTo(paths.log().toFile()));
    builder.directory(folder.toFile());
    Process process = builder.start();
    process.getOutputStream().close();
    return process;
  }

  /** What a server says last, mostly why it ended. */
  private String lastLine() throws IOException {
    List<String> lines =
        Files.exists(paths.log())
            ? Files.readAllLines(paths.log(), StandardCharsets.ISO_8859_1)
            : List.of();
    return lines.stream()
        .filter(line -> line.contains("ERROR") || line.contains("rror:"))
        .reduce((earlier, later) -> later)
        .orElse("see " + paths.log());
  }

  /** Lets go of all servers that this process uses. */
  public static void stopAll() {
    ALL.values().forEach(PrivateServer::stop);
  }

  /** Lets the server go, and stops it if nobody else uses it. */
  public synchronized void stop() {
    if (users == null) {
      return;
    }
    try (FileChannel starting = open("starting")) {
      starting.lock();
      letGo();
      try (FileChannel last = open("users");
          FileLock unused = last.tryLock()) {
        if (unused != null) {
          server().or(() -> started).ifPresent(ServerProcess::end);
        }
      }
    } catch (IOException e) {
      // The folder is gone, and nobody can use the server any more.
      letGo();
      started.ifPresent(ServerProcess::end);
    }
  }

  private void letGo() {
    if (users != null) {
      try {
        users.close();
      } catch (IOException e) {
        // The system lets the lock go with the process.
      }
      users = null;
    }
  }

  /** Its process, known by the number that it wrote down and by the folder that it was told. */
  private Optional<ProcessHandle> server() throws IOException {
    if (!Files.exists(paths.pidFile())) {
      return Optional.empty();
    }
    String number = Files.readString(paths.pidFile()).strip();
    return number.matches("\\d{1,9}")
        ? ProcessHandle.of(Long.parseLong(number))
            .filter(
                process ->
                    process
                        .info()
                        .commandLine()
                        .filter(line -> line.contains(folder.toString()))
                        .isPresent())
        : Optional.empty();
  }

  private synchronized boolean isUsed() {
    return users != null;
  }

  /**
   * Whether nobody uses what is in a folder of such a server.
   *
   * @return false also if there is none
   */
  public static boolean isIdle(Path folder) throws IOException {
    PrivateServer own = ALL.get(folder.toAbsolutePath().normalize());
    boolean used = own != null && own.isUsed();
    // Used here it must not be opened once more: to close it would let the lock go.
    if (used || !Files.isRegularFile(folder.resolve("users"))) {
      return false;
    }
    try (FileChannel users =
            FileChannel.open(
                folder.resolve("users"), StandardOpenOption.READ, StandardOpenOption.WRITE);
        FileLock unused = users.tryLock()) {
      return unused != null;
    }
  }
}
