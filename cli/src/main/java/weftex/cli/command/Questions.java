package weftex.cli.command;

import java.io.IOException;
import java.util.Optional;
import org.apache.commons.cli.CommandLine;
import weftex.cli.session.Session;
import weftex.store.Refusal;

/** Takes values from options, or asks for them if somebody is there to answer. */
final class Questions {
  private final CommandLine line;
  private final Session session;
  private boolean asked;

  Questions(CommandLine line, Session session) {
    this.line = line;
    this.session = session;
  }

  /** What becomes of an answer. */
  interface Answered<T> {
    T of(String answer) throws Refusal, IOException;
  }

  /** Whether somebody was asked something. */
  boolean asked() {
    return asked;
  }

  /** Whether there is somebody to ask. */
  boolean canAsk() {
    return session.terminal().in() && !line.hasOption("json");
  }

  /** The option's value, or an answer; otherwise the proposal. */
  String ask(String option, String question, String proposed) throws Refusal, IOException {
    return ask(option, question, proposed, answer -> answer);
  }

  /** The same; what is wrong with an answer is said, and it is asked again. */
  <T> T ask(String option, String question, String proposed, Answered<T> answered)
      throws Refusal, IOException {
    String given = line.getOptionValue(option);
    if (given != null) {
      return answered.of(given);
    }
    if (!canAsk()) {
      return answered.of(proposed);
    }
    while (true) {
      Optional<String> answer = read(question, proposed);
      try {
        return answered.of(answer.orElse(proposed));
      } catch (Refusal e) {
        if (answer.isEmpty()) {
          throw e;
        }
        session.err().println("  " + e.getMessage().replace(" Nothing was changed.", ""));
        session.err().println("  " + e.next());
      }
    }
  }

  /** Whether what was shown is right; yes where nobody was asked anything. */
  boolean confirm(String question) throws IOException {
    if (!asked) {
      return true;
    }
    String answer = read(question, "yes").orElse("no");
    return answer.equalsIgnoreCase("yes") || answer.equalsIgnoreCase("y");
  }

  /** An answer; empty if there is none to come. */
  private Optional<String> read(String question, String proposed) throws IOException {
    asked = true;
    session.err().print(question + (proposed.isEmpty() ? ": " : " [" + proposed + "]: "));
    session.err().flush();
    return Optional.ofNullable(session.in().readLine())
        .map(answer -> answer.isBlank() ? proposed : answer.strip());
  }
}
