package weftex.store.ssh;

import java.io.BufferedReader;
import java.io.IOException;
import java.io.InputStreamReader;
import java.io.OutputStream;
import java.nio.charset.StandardCharsets;
import java.util.Optional;

/**
 * SHA-256 of files, worked out on the other side by its own {@code sha256sum}, so that they need
 * not come over the line. Where no shell or no such program is there, nothing is said.
 */
public final class FarHashes implements AutoCloseable {
  /** Reads paths, a line each, and says a line of each. */
  private static final String LOOP =
      "while IFS= read -r f; do sha256sum < \"$f\" 2>/dev/null || echo; done";

  private final Process process;
  private final BufferedReader in;
  private final OutputStream out;
  private boolean works = true;

  FarHashes(Process process) {
    this.process = process;
    this.in =
        new BufferedReader(
            new InputStreamReader(process.getInputStream(), StandardCharsets.US_ASCII));
    this.out = process.getOutputStream();
  }

  /** The command of the other side's shell. */
  static String command() {
    return LOOP;
  }

  /** The hash of a file in 64 hexadecimal digits; empty if nobody says. */
  public Optional<String> of(String path) {
    if (!works || path.indexOf('\n') >= 0) {
      return Optional.empty();
    }
    try {
      out.write((path + "\n").getBytes(StandardCharsets.UTF_8));
      out.flush();
      String said = in.readLine();
      if (said != null && said.matches("[0-9a-f]{64} .*")) {
        return Optional.of(said.substring(0, 64));
      }
      works = said != null && said.isEmpty();
    } catch (IOException e) {
      works = false;
    }
    return Optional.empty();
  }

  @Override
  public void close() {
    try {
      out.close();
    } catch (IOException e) {
      process.destroy();
    }
    process.destroy();
  }
}
