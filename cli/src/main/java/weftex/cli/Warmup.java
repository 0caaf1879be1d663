package weftex.cli;

import java.io.BufferedReader;
import java.io.IOException;
import java.io.PrintStream;
import java.io.StringReader;
import java.net.URI;
import java.net.URISyntaxException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.time.Clock;
import java.util.Collections;
import java.util.Map;
import java.util.jar.JarEntry;
import java.util.jar.JarFile;
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
            new CommitGate());
    new Cli(session).run("--help");
    ExitStatus status = new Cli(session).run("demo", "demo", "--no-pause");
    if (status != ExitStatus.DONE) {
      throw new IllegalStateException("the demo ended with " + status);
    }
    loadDriver();
  }

  /** The demo talks to no server, so the driver's classes are loaded by name. */
  private static void loadDriver() throws IOException, URISyntaxException {
    URI program = Warmup.class.getProtectionDomain().getCodeSource().getLocation().toURI();
    try (JarFile jar = new JarFile(Path.of(program).toFile())) {
      for (JarEntry entry : Collections.list(jar.entries())) {
        String name = entry.getName();
        if (name.startsWith("org/mariadb/jdbc/") && name.endsWith(".class")) {
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
