package weftex.cli;

import java.io.BufferedReader;
import java.io.IOException;
import java.io.OutputStream;
import java.io.PipedInputStream;
import java.io.PipedOutputStream;
import java.io.PrintStream;
import java.io.StringReader;
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
import weftex.cli.screen.Restorer;
import weftex.cli.screen.ReviewScreen;
import weftex.core.site.SiteModel;
import weftex.store.Refusal;
import weftex.store.apply.ChangeIndex;
import weftex.store.apply.CommitGate;

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
            new BufferedReader(new StringReader("")),
            nowhere,
            nowhere,
            Terminal.of(environment),
            new CommitGate(),
            new Restorer());
    new Cli(session).run("--help");
    ExitStatus status = new Cli(session).run("demo", "demo", "--no-pause");
    if (status != ExitStatus.DONE) {
      throw new IllegalStateException("the demo ended with " + status);
    }
    review(Path.of(args[0]).resolve("demo"), session);
    loadUnused();
  }

  /** Looks at the demo's change set on a terminal that is none. */
  private static void review(Path site, Session session) throws IOException {
    // Closing a terminal that is none is worth a warning to its library.
    java.util.logging.Logger.getLogger("org.jline").setLevel(java.util.logging.Level.OFF);
    try (PipedInputStream in = new PipedInputStream();
        PipedOutputStream keys = new PipedOutputStream(in);
        Stream<Path> files = Files.list(site.resolve(".weftex/change-sets"))) {
      Path file = files.filter(f -> f.toString().endsWith(".jsonl")).findFirst().orElseThrow();
      ReviewScreen.Sitting sitting =
          new ReviewScreen.Sitting(
              ChangeIndex.glance(file),
              file.toString(),
              Optional.empty(),
              "a look",
              "warmup",
              session::now,
              SiteModel.PLAIN,
              true,
              Map.of(),
              session.restorer());
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
   * The demo talks to no server and sits at no terminal, so classes for those are loaded by name.
   */
  private static void loadUnused() throws IOException, URISyntaxException {
    URI program = Warmup.class.getProtectionDomain().getCodeSource().getLocation().toURI();
    try (JarFile jar = new JarFile(Path.of(program).toFile())) {
      for (JarEntry entry : Collections.list(jar.entries())) {
        String name = entry.getName();
        boolean unused =
            name.startsWith("org/mariadb/jdbc/")
                || name.startsWith("org/jline/terminal/")
                || name.startsWith("org/jline/utils/")
                || name.startsWith("org/jline/keymap/")
                || name.startsWith("weftex/cli/screen/");
        if (unused && name.endsWith(".class")) {
          load(name.substring(0, name.length() - ".class".length()).replace('/', '.'));
        }
      }
    }
  }

  private static void load(String name) {
    try {
      Class.forName(name, false, Warmup.class.getClassLoader());
    } catch (ClassNotFoundException | LinkageError e) {
      // Parts of the driver need libraries that Weftex does without.
    }
  }
}
