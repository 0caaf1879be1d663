package weftex.cli.around;

import java.io.BufferedReader;
import java.io.IOException;
import java.io.InputStreamReader;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.time.Duration;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.concurrent.TimeUnit;
import java.util.function.Consumer;
import weftex.cli.page.Visible;
import weftex.store.FailureWords;

/** Runs one command of the site, without a shell and with a limit to its time. */
final class CommandRun {
  private static final int LINES = 200;

  private final Path folder;
  private final Duration limit;
  private final Set<String> secrets;

  /**
   * @param folder where commands run
   * @param secrets variables of the environment that they do not get
   */
  CommandRun(Path folder, Duration limit, Set<String> secrets) {
    this.folder = folder;
    this.limit = limit;
    this.secrets = secrets;
  }

  /**
   * Runs it to its end, or ends it when its time is over.
   *
   * @param told what it finds in its environment, by variable
   * @param lines takes what it prints, line by line
   * @return why it did not do its work, as part of a sentence; empty if it did
   */
  Optional<String> run(List<String> words, Map<String, String> told, Consumer<String> lines) {
    ProcessBuilder builder =
        new ProcessBuilder(words).directory(folder.toFile()).redirectErrorStream(true);
    builder.environment().keySet().removeAll(secrets);
    builder.environment().putAll(told);
    try {
      Process process = builder.start();
      process.getOutputStream().close();
      Thread reader = new Thread(() -> read(process, lines), "command");
      reader.setDaemon(true);
      reader.start();
      boolean ended = process.waitFor(limit.toMillis(), TimeUnit.MILLISECONDS);
      if (!ended) {
        process.descendants().forEach(ProcessHandle::destroyForcibly);
        process.destroyForcibly();
        return Optional.of("was still running after " + limit.toSeconds() + " s, and was ended");
      }
      // What it left running in the background may hold its output open for ever.
      reader.join(TimeUnit.SECONDS.toMillis(1));
      return process.exitValue() == 0
          ? Optional.empty()
          : Optional.of("ended with " + process.exitValue());
    } catch (IOException e) {
      return Optional.of("could not be started (" + Visible.line(FailureWords.of(e)) + ")");
    } catch (InterruptedException e) {
      Thread.currentThread().interrupt();
      return Optional.of("was interrupted");
    }
  }

  private static void read(Process process, Consumer<String> lines) {
    try (BufferedReader output =
        new BufferedReader(
            new InputStreamReader(process.getInputStream(), StandardCharsets.UTF_8))) {
      int shown = 0;
      for (String line = output.readLine(); line != null; line = output.readLine()) {
        if (shown++ < LINES) {
          lines.accept(Visible.line(line));
        }
      }
    } catch (IOException e) {
      // It is gone, and what it printed with it.
    }
  }
}
