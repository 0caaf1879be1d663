package weftex.cli.workplace;

import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.util.concurrent.TimeUnit;
import org.apache.commons.cli.CommandLine;
import weftex.cli.page.Visible;
import weftex.cli.session.Session;
import weftex.store.Refusal;

/** Who reviews: as said, or as git knows them, or the system. */
public final class Reviewer {
  private static final int SECONDS = 2;

  private Reviewer() {}

  public static String name(CommandLine line, Session session) throws Refusal {
    if (line.hasOption("by")) {
      return Workplace.name(line, session);
    }
    String known = Visible.line(gitName(session));
    return known.isEmpty() ? session.user() : known;
  }

  private static String gitName(Session session) {
    try {
      ProcessBuilder asking =
          new ProcessBuilder("git", "config", "--get", "user.name")
              .directory(session.folder().toFile())
              .redirectError(ProcessBuilder.Redirect.DISCARD);
      asking.environment().clear();
      asking.environment().putAll(session.environment());
      Process git = asking.start();
      String name = new String(git.getInputStream().readAllBytes(), StandardCharsets.UTF_8);
      return git.waitFor(SECONDS, TimeUnit.SECONDS) && git.exitValue() == 0 ? name.strip() : "";
    } catch (IOException e) {
      // There is no git.
      return "";
    } catch (InterruptedException e) {
      Thread.currentThread().interrupt();
      return "";
    }
  }
}
