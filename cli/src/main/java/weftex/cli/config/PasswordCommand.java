package weftex.cli.config;

import java.io.File;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.concurrent.TimeUnit;
import weftex.store.Refusal;
import weftex.store.database.CopySpec;

/**
 * A password that a program prints, such as a password manager: its first line. It is run once in a
 * run, however many connections there are, since it may ask its owner something.
 */
final class PasswordCommand implements CopySpec.Password {
  private static final int SECONDS = 60;

  private final List<String> words;
  private final Map<String, String> environment;
  private final Set<String> withheld;
  private String password;

  private PasswordCommand(
      List<String> words, Map<String, String> environment, Set<String> withheld) {
    this.words = List.copyOf(words);
    this.environment = environment;
    this.withheld = withheld;
  }

  /**
   * A password.
   *
   * @param words a program and its arguments; no shell reads them
   * @param withheld variables that it does not get
   */
  static CopySpec.Password password(
      List<String> words, Map<String, String> environment, Set<String> withheld) {
    return new PasswordCommand(words, environment, withheld);
  }

  @Override
  public String source() {
    return "the command " + words.get(0);
  }

  @Override
  public synchronized String fetch() throws Refusal {
    if (password == null) {
      password = printed();
    }
    return password;
  }

  private String printed() throws Refusal {
    ProcessBuilder builder = new ProcessBuilder(words);
    builder.environment().clear();
    builder.environment().putAll(environment);
    builder.environment().keySet().removeAll(withheld);
    builder.redirectInput(new File("/dev/null")).redirectError(ProcessBuilder.Redirect.INHERIT);
    Process process;
    try {
      process = builder.start();
    } catch (IOException e) {
      throw refusal("can't be run: there is no such program", e);
    }
    try {
      // Whoever prints more than a pipe holds prints no password.
      if (!process.waitFor(SECONDS, TimeUnit.SECONDS)) {
        process.destroyForcibly();
        throw refusal("did not end within " + SECONDS + " seconds", null);
      }
      String all = new String(process.getInputStream().readAllBytes(), StandardCharsets.UTF_8);
      if (process.exitValue() != 0) {
        throw refusal("failed with exit status " + process.exitValue(), null);
      }
      String first = all.lines().findFirst().orElse("");
      if (first.isEmpty()) {
        throw refusal("printed nothing", null);
      }
      return first;
    } catch (IOException e) {
      throw refusal("can't be read from", e);
    } catch (InterruptedException e) {
      process.destroyForcibly();
      Thread.currentThread().interrupt();
      throw refusal("was interrupted", e);
    }
  }

  private Refusal refusal(String what, Exception cause) {
    return new Refusal(
        Refusal.Kind.WRONG_INPUT,
        "The command '"
            + words.get(0)
            + "', which should print a password, "
            + what
            + ". Nothing was changed.",
        "Try it by hand: " + String.join(" ", words),
        cause);
  }
}
