package weftex.cli;

import java.io.BufferedReader;
import java.io.IOException;
import java.io.OutputStream;
import java.io.PipedInputStream;
import java.io.PipedOutputStream;
import java.io.PrintStream;
import java.io.StringReader;
import java.net.InetAddress;
import java.net.ServerSocket;
import java.net.URI;
import java.net.URISyntaxException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Clock;
import java.util.Collections;
import java.util.Map;
import java.util.Optional;
import java.util.concurrent.CompletableFuture;
import java.util.jar.JarEntry;
import java.util.jar.JarFile;
import java.util.stream.Stream;
import org.jline.terminal.Size;
import org.jline.terminal.TerminalBuilder;
import weftex.cli.screen.ApprovalSigning;
import weftex.cli.screen.ReviewScreen;
import weftex.cli.screen.Sitting;
import weftex.cli.session.ExitStatus;
import weftex.cli.session.Restorer;
import weftex.cli.session.RunLog;
import weftex.cli.session.Session;
import weftex.cli.session.Terminal;
import weftex.core.model.SiteModel;
import weftex.store.Refusal;
import weftex.store.changeset.ChangeSetFile;
import weftex.store.engine.CommitGate;
import weftex.store.seal.Keyring;

/**
 * Runs the demo in a scratch folder so that the virtual machine can write down the classes of a
 * typical run. Called by the launcher after a build.
 */
final class Warmup {
  private Warmup() {}

  public static void main(String[] args) throws IOException, URISyntaxException {
    Map<String, String> environment = Map.of("USER", "warmup");
    PrintStream nowhere =
        new PrintStream(PrintStream.nullOutputStream(), false, StandardCharsets.UTF_8);
    Session session =
        new Session(
            Path.of(args[0]),
            environment,
            Clock.systemUTC(),
            new Session.Streams(new BufferedReader(new StringReader("")), nowhere, nowhere),
            Terminal.of(environment),
            new CommitGate(),
            new Restorer(),
            new RunLog(),
            Keyring.NONE);
    new Cli(session).run("--help");
    ExitStatus status = new Cli(session).run("demo", "demo", "--no-pause");
    if (status != ExitStatus.DONE) {
      throw new IllegalStateException("the demo ended with " + status);
    }
    review(Path.of(args[0]).resolve("demo"), session);
    knock(Path.of(args[0]).resolve("server"), session);
    loadUnused();
  }

  /** Asks for a server where there is none: that runs the driver up to its socket. */
  private static void knock(Path site, Session session) throws IOException {
    int port;
    try (ServerSocket free = new ServerSocket(0, 1, InetAddress.getLoopbackAddress())) {
      port = free.getLocalPort();
    }
    String server = "{mariadb: {host: 127.0.0.1, port: " + port + ", user: nobody, database: ";
    Path config = Files.createDirectories(site).resolve("weftex.yaml");
    Files.writeString(
        config,
        "site: warmup\ncopies:\n  staging: " + server + "one}}\n  live: " + server + "two}}\n");
    ExitStatus status = new Cli(session).run("compare", "--two-way", "--config", config.toString());
    if (status != ExitStatus.UNREACHABLE) {
      throw new IllegalStateException("a server that is not there was reached: " + status);
    }
  }

  /** Looks at the demo's change set on a terminal that is none. */
  private static void review(Path site, Session session) throws IOException {
    // Closing a terminal that is none is worth a warning to its library.
    java.util.logging.Logger.getLogger("org.jline").setLevel(java.util.logging.Level.OFF);
    try (PipedInputStream in = new PipedInputStream();
        PipedOutputStream keys = new PipedOutputStream(in);
        Stream<Path> files = Files.list(site.resolve(".weftex/change-sets"))) {
      Path file = files.filter(f -> f.toString().endsWith(".jsonl")).findFirst().orElseThrow();
      Sitting sitting =
          new Sitting(
              ChangeSetFile.glance(file, Keyring.NONE),
              file.toString(),
              Optional.empty(),
              "a look",
              "warmup",
              ApprovalSigning.NONE,
              session::now,
              SiteModel.PLAIN,
              new Sitting.Seat(true, Map.of(), session.restorer()));
      org.jline.terminal.Terminal terminal =
          TerminalBuilder.builder()
              .system(false)
              .streams(in, OutputStream.nullOutputStream())
              .type("xterm-256color")
              .encoding(StandardCharsets.UTF_8)
              .size(Size.of(120, 40))
              .build();
      keys.write("o\t\u001b[Bwoq".getBytes(StandardCharsets.UTF_8));
      ReviewScreen.show(sitting, CompletableFuture.completedFuture(terminal));
    } catch (Refusal e) {
      throw new IllegalStateException(e);
    }
  }

  /**
   * The demo talks to no server and sits at no terminal, so classes for those are loaded by name;
   * the driver's own are also made ready, which is most of the work of its first connection.
   */
  private static void loadUnused() throws IOException, URISyntaxException {
    URI program = Warmup.class.getProtectionDomain().getCodeSource().getLocation().toURI();
    try (JarFile jar = new JarFile(Path.of(program).toFile())) {
      for (JarEntry entry : Collections.list(jar.entries())) {
        String name = entry.getName();
        boolean driver = name.startsWith("org/mariadb/jdbc/");
        boolean unused =
            driver
                || name.startsWith("org/apache/avro/")
                || name.startsWith("org/jline/terminal/")
                || name.startsWith("org/jline/utils/")
                || name.startsWith("org/jline/keymap/")
                || name.startsWith("weftex/");
        if (unused && name.endsWith(".class")) {
          load(name.substring(0, name.length() - ".class".length()).replace('/', '.'), driver);
        }
      }
    }
  }

  private static void load(String name, boolean ready) {
    try {
      Class.forName(name, ready, Warmup.class.getClassLoader());
    } catch (ClassNotFoundException | LinkageError e) {
      // Parts of the driver need libraries that Weftex does without.
    }
  }
}
