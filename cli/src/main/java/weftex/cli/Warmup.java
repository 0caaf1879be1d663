package weftex.cli;

import java.io.BufferedReader;
import java.io.PrintStream;
import java.io.StringReader;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.time.Clock;
import java.util.Map;
import weftex.store.apply.CommitGate;

/**
 * Runs the demo in a scratch folder so that the virtual machine can write down the classes of a
 * typical run. Called by the launcher after a build.
 */
final class Warmup {
  private Warmup() {}

  public static void main(String[] args) {
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
  }
}
