package weftex.cli;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.io.InputStreamReader;
import java.io.OutputStream;
import java.io.Reader;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.time.Instant;
import java.util.Map;
import java.util.concurrent.TimeUnit;
import java.util.function.Predicate;
import java.util.stream.Stream;
import org.jline.utils.ScreenTerminal;

/**
 * The program on a pseudo-terminal of the system, with keys that are sent and a screen that is read
 * back from an emulated terminal.
 */
final class PtyTerminal implements AutoCloseable {
  private static final Duration PATIENCE = Duration.ofSeconds(20);
  private static final Duration QUIET = Duration.ofMillis(250);

  private final Process process;
  private final OutputStream keys;
  private final ScreenTerminal screen;
  private final Path device;
  private final Path status;
  private volatile Instant lastOutput = Instant.now();
  private volatile RuntimeException misread;

  /**
   * @param folder where the program runs, and where a few files of this terminal lie
   * @param environment beyond that of the test
   */
  PtyTerminal(
      Path folder, int columns, int rows, Map<String, String> environment, String... arguments)
      throws IOException {
    this.screen = new ScreenTerminal(columns, rows);
    this.device = Files.createTempFile(folder, ".tty", "");
    this.status = Files.createTempFile(folder, ".status", "");
    StringBuilder command = new StringBuilder();
    command.append("stty cols ").append(columns).append(" rows ").append(rows);
    command.append("; tty >").append(device).append(";");
    Stream.concat(Program.command().stream(), Stream.of(arguments))
        .forEach(word -> command.append(" '").append(word).append('\''));
    command.append("; echo $? >").append(status);
    ProcessBuilder builder =
        new ProcessBuilder("script", "-qec", command.toString(), "/dev/null")
            .directory(folder.toFile())
            .redirectErrorStream(true);
    builder.environment().put("WEFTEX_TERMINAL", "in,out,err");
    builder.environment().put("COLUMNS", String.valueOf(columns));
    builder.environment().put("TERM", "xterm-256color");
    builder.environment().put("LC_ALL", "C.UTF-8");
    builder.environment().putAll(environment);
    this.process = builder.start();
    this.keys = process.getOutputStream();
    Thread reader = new Thread(this::read, "screen");
    reader.setDaemon(true);
    reader.start();
  }

  private void read() {
    try (Reader out = new InputStreamReader(process.getInputStream(), StandardCharsets.UTF_8)) {
      char[] buffer = new char[4096];
      for (int read = out.read(buffer); read > 0; read = out.read(buffer)) {
        screen.write(new String(buffer, 0, read));
        lastOutput = Instant.now();
      }
    } catch (IOException e) {
      // The terminal is gone.
    } catch (RuntimeException e) {
      misread = e;
      throw e;
    }
  }

  /** Fails, and says what is on the screen, if the program has ended. */
  PtyTerminal lives() {
    assertThat(misread).as("the screen is read").isNull();
    assertThat(process.isAlive()).as("the program runs; the screen shows:%n%s", text()).isTrue();
    return this;
  }

  /** What can be seen, a line for each row. */
  String text() {
    return screen.toString();
  }

  /** Waits until something can be seen. */
  PtyTerminal sees(String text) {
    return sees(shown -> shown.contains(text), "'" + text + "'");
  }

  /** Waits until something can be seen no longer. */
  PtyTerminal seesNo(String text) {
    return sees(shown -> !shown.contains(text), "no '" + text + "'");
  }

  private PtyTerminal sees(Predicate<String> what, String words) {
    Instant until = Instant.now().plus(PATIENCE);
    while (!what.test(text())) {
      assertThat(Instant.now())
          .as("the screen never showed %s but:%n%s", words, text())
          .isBefore(until);
      pause();
    }
    return this;
  }

  private static void pause() {
    try {
      TimeUnit.MILLISECONDS.sleep(20);
    } catch (InterruptedException e) {
      Thread.currentThread().interrupt();
      throw new IllegalStateException(e);
    }
  }

  /** Waits until nothing more is written for a while. */
  PtyTerminal rest() {
    Instant until = Instant.now().plus(PATIENCE);
    while (lastOutput.plus(QUIET).isAfter(Instant.now())) {
      assertThat(Instant.now()).as("the screen never came to rest").isBefore(until);
      pause();
    }
    return this;
  }

  /** Types. */
  PtyTerminal keys(String typed) throws IOException {
    keys.write(typed.getBytes(StandardCharsets.UTF_8));
    keys.flush();
    return this;
  }

  /** Makes the terminal larger or smaller. */
  PtyTerminal resize(int columns, int rows) throws IOException, InterruptedException {
    screen.setSize(org.jline.terminal.Size.of(columns, rows));
    Process stty =
        new ProcessBuilder(
                "stty",
                "-F",
                Files.readString(device).strip(),
                "cols",
                String.valueOf(columns),
                "rows",
                String.valueOf(rows))
            .inheritIO()
            .start();
    assertThat(stty.waitFor()).isZero();
    return this;
  }

  /** Waits for the end of the program, and says how it ended. */
  int status() throws IOException, InterruptedException {
    assertThat(process.waitFor(PATIENCE.toSeconds(), TimeUnit.SECONDS))
        .as("the program never ended; the screen shows:%n%s", text())
        .isTrue();
    return Integer.parseInt(Files.readString(status).strip());
  }

  /** Ends everything on the terminal, as if its window were closed. */
  @Override
  public void close() {
    process.descendants().forEach(ProcessHandle::destroy);
    process.destroy();
  }
}
