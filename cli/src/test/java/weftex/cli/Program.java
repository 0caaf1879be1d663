package weftex.cli;

import java.io.BufferedReader;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.io.InputStream;
import java.io.PrintStream;
import java.io.Reader;
import java.io.UncheckedIOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.time.Clock;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.concurrent.CompletableFuture;
import weftex.cli.session.Restorer;
import weftex.cli.session.RunLog;
import weftex.cli.session.Session;
import weftex.cli.session.Terminal;
import weftex.store.engine.CommitGate;
import weftex.store.seal.Keyring;

/**
 * The program in some folder: run within this process, as its way in would, or as a process of its
 * own where that is what is tried. A process is the packaged program with its archive if the
 * property {@code weftex.built} names the folder it was built in, which starts three times as fast,
 * or else the classes of this run.
 */
public final class Program {
  private final Path folder;
  private final Map<String, String> environment = new HashMap<>();
  private final List<String> wrapper = new ArrayList<>();

  public Program(Path folder) {
    this.folder = folder;
  }

  /** What a run left behind. */
  public record Ran(int status, String out, String err) {}

  Program with(String variable, String value) {
    environment.put(variable, value);
    return this;
  }

  /** Runs the program through a shell command, which gets it as its arguments. */
  public Program through(String shellCommand) {
    wrapper.addAll(List.of("bash", "-c", shellCommand + "; exec \"$0\" \"$@\""));
    return this;
  }

  /** The words that start it; its arguments follow them. */
  static List<String> command() {
    List<String> command =
        new ArrayList<>(
            List.of(
                Path.of(System.getProperty("java.home"), "bin", "java").toString(),
                "-Xlog:disable",
                "-Xlog:all=warning:stderr",
                "-Xshare:auto",
                "-XX:TieredStopAtLevel=1",
                "-XX:+UseSerialGC",
                "-XX:-UsePerfData",
                "-Xmx256m",
                "-cp"));
    String built = System.getProperty("weftex.built");
    if (built == null) {
      command.add(System.getProperty("java.class.path"));
    } else {
      command.add(Path.of(built, "weftex.jar").toString());
      command.add("-XX:SharedArchiveFile=" + Path.of(built, "weftex.jsa"));
    }
    command.add("weftex.cli.Main");
    return command;
  }

  public Process start(String... arguments) {
    List<String> command = new ArrayList<>(wrapper);
    command.addAll(command());
    command.addAll(List.of(arguments));
    ProcessBuilder builder = new ProcessBuilder(command).directory(folder.toFile());
    builder.environment().remove("COLUMNS");
    builder.environment().putAll(environment);
    try {
      return builder.start();
    } catch (IOException e) {
      throw new UncheckedIOException(e);
    }
  }

  /** Runs the program within this process; nobody answers its questions. */
  public Ran run(String... arguments) {
    if (!wrapper.isEmpty()) {
      return runAlone(arguments);
    }
    ByteArrayOutputStream out = new ByteArrayOutputStream();
    ByteArrayOutputStream err = new ByteArrayOutputStream();
    Map<String, String> all = new HashMap<>(System.getenv());
    all.remove("COLUMNS");
    all.putAll(environment);
    Session session =
        new Session(
            folder.toAbsolutePath(),
            all,
            Clock.systemUTC(),
            new Session.Streams(
                new BufferedReader(Reader.nullReader()),
                new PrintStream(out, true, StandardCharsets.UTF_8),
                new PrintStream(err, true, StandardCharsets.UTF_8)),
            Terminal.of(all),
            new CommitGate(),
            new Restorer(),
            new RunLog(),
            Keyring.NONE);
    int status = new Cli(session).run(arguments).code();
    return new Ran(
        status, out.toString(StandardCharsets.UTF_8), err.toString(StandardCharsets.UTF_8));
  }

  /** Runs the program as a process of its own. */
  Ran runAlone(String... arguments) {
    return finish(start(arguments));
  }

  public static Ran finish(Process process) {
    try {
      process.getOutputStream().close();
      CompletableFuture<String> err =
          CompletableFuture.supplyAsync(() -> text(process.getErrorStream()));
      String out = text(process.getInputStream());
      return new Ran(process.waitFor(), out, err.join());
    } catch (IOException e) {
      throw new UncheckedIOException(e);
    } catch (InterruptedException e) {
      Thread.currentThread().interrupt();
      throw new IllegalStateException(e);
    }
  }

  private static String text(InputStream in) {
    try (in) {
      return new String(in.readAllBytes(), StandardCharsets.UTF_8);
    } catch (IOException e) {
      // A process that was killed may take its pipe along.
      return "";
    }
  }
}
