package weftex.cli.session;

import java.io.BufferedReader;
import java.io.PrintStream;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.time.Clock;
import java.time.temporal.ChronoUnit;
import java.util.Map;
import weftex.store.engine.CommitGate;
import weftex.store.seal.Keyring;

/**
 * Everything that a command needs from outside.
 *
 * @param folder the working folder
 * @param environment the environment's variables
 * @param gate where an interrupt can stop a commit
 * @param restorer gives the terminal back if the program is ended from outside
 * @param log what is kept of the run
 * @param keys the user's private keys, which open what is sealed
 */
public record Session(
    Path folder,
    Map<String, String> environment,
    Clock clock,
    Streams streams,
    Terminal terminal,
    CommitGate gate,
    Restorer restorer,
    RunLog log,
    Keyring keys) {

  /** The version of this program. */
  public static final String VERSION = "0.1.0";

  /** What files remember of the program that wrote them. */
  public static final String TOOL = "weftex " + VERSION;

  /**
   * What is read and written.
   *
   * @param in answers to questions; asked only if {@code terminal.in()}
   * @param out results
   * @param err progress and messages
   */
  public record Streams(BufferedReader in, PrintStream out, PrintStream err) {}

  public BufferedReader in() {
    return streams.in();
  }

  public PrintStream out() {
    return streams.out();
  }

  public PrintStream err() {
    return streams.err();
  }

  /** The same session in another folder. */
  public Session in(Path other) {
    return with(other, out(), terminal, keys);
  }

  /** The same session with nobody to ask. */
  public Session unattended() {
    return with(folder, out(), terminal.withoutAnswers(), keys);
  }

  /** The same session without results on the screen, and with nobody to ask. */
  public Session silent() {
    PrintStream nowhere =
        new PrintStream(PrintStream.nullOutputStream(), false, StandardCharsets.UTF_8);
    return with(folder, nowhere, terminal.withoutAnswers(), keys);
  }

  /** The same session without styles. */
  public Session plain() {
    return with(folder, out(), terminal.plain(), keys);
  }

  /** The same session with other keys. */
  public Session with(Keyring others) {
    return with(folder, out(), terminal, others);
  }

  private Session with(Path where, PrintStream results, Terminal on, Keyring open) {
    Streams own = new Streams(in(), results, err());
    return new Session(where, environment, clock, own, on, gate, restorer, log, open);
  }

  /** The time, to the second, as an ISO 8601 instant. */
  public String now() {
    return clock.instant().truncatedTo(ChronoUnit.SECONDS).toString();
  }

  /** Who is at work, as far as the system says. */
  public String user() {
    return environment.getOrDefault("USER", System.getProperty("user.name", "unknown"));
  }
}
