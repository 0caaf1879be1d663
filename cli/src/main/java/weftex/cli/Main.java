package weftex.cli;

import java.io.BufferedReader;
import java.io.FileDescriptor;
import java.io.FileOutputStream;
import java.io.InputStreamReader;
import java.io.PrintStream;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.time.Clock;
import java.util.Map;
import weftex.cli.screen.Restorer;
import weftex.store.apply.CommitGate;

/** The way in: gathers what is outside, and runs one command. */
public final class Main {
  private static final int INTERRUPTED = 130;

  private Main() {}

  public static void main(String[] args) {
    Map<String, String> environment = System.getenv();
    CommitGate gate = new CommitGate();
    PrintStream err = stream(FileDescriptor.err);
    Restorer restorer = new Restorer();
    Session session =
        new Session(
            Path.of(environment.getOrDefault("WEFTEX_FOLDER", "")).toAbsolutePath(),
            environment,
            Clock.systemUTC(),
            new BufferedReader(new InputStreamReader(System.in, StandardCharsets.UTF_8)),
            stream(FileDescriptor.out),
            err,
            Terminal.of(environment),
            gate,
            restorer);
    Thread onInterrupt = new Thread(() -> sayHowFar(gate, restorer, err), "interrupted");
    Runtime.getRuntime().addShutdownHook(onInterrupt);
    int code = new Cli(session).run(args).code();
    Runtime.getRuntime().removeShutdownHook(onInterrupt);
    session.out().flush();
    err.flush();
    // A reader thread may still be waiting for a server.
    Runtime.getRuntime().halt(code);
  }

  private static void sayHowFar(CommitGate gate, Restorer restorer, PrintStream err) {
    if (restorer.restore()) {
      err.println("Interrupted. Every decision that was made is in the change set.");
      err.flush();
      Runtime.getRuntime().halt(INTERRUPTED);
    }
    switch (gate.interrupt()) {
      case IDLE -> err.println("Interrupted. Nothing was changed.");
      case WRITING -> err.println("Interrupted. Everything is rolled back; nothing was changed.");
      case WRITING_AFTER_SCHEMA ->
          err.println(
              "Interrupted. No row was changed. New tables and columns that were made before the rows are still there, unused: 'weftex history' takes them away.");
      case COMMITTING ->
          err.println(
              "Interrupted while the commit was on its way: either all was written or nothing. Run 'weftex history' to see which.");
      case COMMITTED -> err.println("Interrupted after the commit: all changes are made.");
      case INTERRUPTED -> {}
    }
    err.flush();
    Runtime.getRuntime().halt(INTERRUPTED);
  }

  private static PrintStream stream(FileDescriptor descriptor) {
    return new PrintStream(
        new java.io.BufferedOutputStream(new FileOutputStream(descriptor), 1 << 13),
        descriptor == FileDescriptor.err,
        StandardCharsets.UTF_8);
  }
}
