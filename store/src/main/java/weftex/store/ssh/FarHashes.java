package weftex.store.ssh;

import java.io.BufferedReader;
import java.io.EOFException;
import java.io.IOException;
import java.io.InputStreamReader;
import java.io.OutputStream;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/**
 * SHA-256 of files, worked out on the other side by its own {@code sha256sum}, so that they need
 * not come over the line. Where no shell or no such program is there, nothing is said.
 */
public final class FarHashes implements AutoCloseable {
  /** Reads paths, a line each, and at an empty line says a line of each, and an empty one. */
  private static final String LOOP =
      "exec sh -c 'while IFS= read -r f; do if [ -n \"$f\" ]; then set -- \"$@\" \"$f\"; else"
          + " sha256sum \"$@\" 2>/dev/null; echo; set --; fi; done'";

  /** Paths at once, of which a system takes some hundred thousand bytes. */
  private static final int MOST = 50;

  /** As it begins; a backslash stands before it where one is in the name. */
  private static final Pattern SAID = Pattern.compile("\\\\?([0-9a-f]{64}) .*");

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

  /**
   * The hashes of files in 64 hexadecimal digits, in the order of the paths; empty if nobody says,
   * or if one of them can't be read.
   */
  public Optional<List<String>> of(List<String> paths) {
    List<String> hashes = new ArrayList<>();
    for (int from = 0; works && from < paths.size(); from += MOST) {
      List<String> some = paths.subList(from, Math.min(paths.size(), from + MOST));
      if (some.stream().anyMatch(path -> path.indexOf('\n') >= 0)) {
        return Optional.empty();
      }
      try {
        hashes.addAll(asked(some));
      } catch (IOException e) {
        works = false;
      }
    }
    return hashes.size() == paths.size() ? Optional.of(hashes) : Optional.empty();
  }

  private List<String> asked(List<String> paths) throws IOException {
    out.write((String.join("\n", paths) + "\n\n").getBytes(StandardCharsets.UTF_8));
    out.flush();
    List<String> hashes = new ArrayList<>();
    for (String said = in.readLine(); ; said = in.readLine()) {
      if (said == null) {
        throw new EOFException("the other side has no shell, or no such program");
      }
      Matcher hash = SAID.matcher(said);
      if (said.isEmpty()) {
        return hashes;
      }
      if (!hash.matches()) {
        throw new IOException("another program answered");
      }
      hashes.add(hash.group(1));
    }
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
