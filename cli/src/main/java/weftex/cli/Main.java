package weftex.cli;

import java.io.BufferedReader;
import java.io.FileDescriptor;
import java.io.FileOutputStream;
import java.io.InputStreamReader;
import java.io.OutputStream;
import java.io.PrintStream;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.time.Clock;
import java.util.Map;
import weftex.cli.session.ExitStatus;
import weftex.cli.session.Restorer;
import weftex.cli.session.RunLog;
import weftex.cli.session.Session;
import weftex.cli.session.Terminal;
import weftex.store.engine.CommitGate;
import weftex.store.scratch.PrivateServer;
import weftex.store.seal.Keyring;
import weftex.store.ssh.SshLines;

/** The way in: gathers what is outside, and runs one command. */
public final class Main {
  private static final int INTERRUPTED = 130;

  private Main() {}

  public static void main(String[] args) {
    Map<String, String> environment = System.getenv();
    CommitGate gate = new CommitGate();
    PrintStream err = stream(FileDescriptor.err, new FileOutputStream(FileDescriptor.err));
    ResultStream out = new ResultStream(new FileOutputStream(FileDescriptor.out));
    Restorer restorer = new Restorer();
    Session session =
        new Session(
            Path.of(environment.getOrDefault("WEFTEX_FOLDER", "")).toAbsolutePath(),
            environment,
            Clock.systemUTC(),
            new Session.Streams(
                new BufferedReader(new InputStreamReader(System.in, StandardCharsets.UTF_8)),
                stream(FileDescriptor.out, out),
                err),
            Terminal.of(environment),
            gate,
            restorer,
            new RunLog(),
            Keyring.NONE);
    Thread onInterrupt = new Thread(() -> sayHowFar(gate, restorer, err), "interrupted");
    Runtime.getRuntime().addShutdownHook(onInterrupt);
    int code = new Cli(session).run(args).code();
    SshLines.close();
    Runtime.getRuntime().removeShutdownHook(onInterrupt);
    session.out().flush();
    if (out.failure().isPresent()) {
      err.println(
          "weftex: The result could not be written to standard output: "
              + out.failure().get()
              + ". "
              + Failures.whatIsChanged(gate));
      code = Math.max(code, ExitStatus.UNREACHABLE.code());
    }
    err.flush();
    PrivateServer.stopAll();
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
      case WRITING_AFTER_MAKING ->
          err.println(
              "Interrupted. No row was changed. New tables, columns and files that were made before the rows are still there, unused: 'weftex history' takes them away.");
      case COMMITTING ->
          err.println(
              "Interrupted while the commit was on its way: either all was written or nothing. Run 'weftex history' to see which.");
      case COMMITTED -> err.println("Interrupted after the commit: all changes are made.");
      case INTERRUPTED -> {}
    }
    err.flush();
    restorer.finish();
    err.flush();
    PrivateServer.stopAll();
    Runtime.getRuntime().halt(INTERRUPTED);
  }

  private static PrintStream stream(FileDescriptor descriptor, OutputStream to) {
    return new PrintStream(
        new java.io.BufferedOutputStream(to, 1 << 13),
        descriptor == FileDescriptor.err,
        StandardCharsets.UTF_8);
  }
}
