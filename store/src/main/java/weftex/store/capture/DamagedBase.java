package weftex.store.capture;

import java.io.EOFException;
import java.io.IOException;
import java.nio.file.Path;
import weftex.store.FileProblem;

/** Says that a recorded base can't be relied on: a file of it is missing, cut short or altered. */
public final class DamagedBase extends IOException {
  private static final long serialVersionUID = 1;

  private DamagedBase(Path file, String why, Exception cause) {
    super("The base is damaged in " + file + ": " + why, cause);
  }

  /** What can't be opened is another matter, and says so itself. */
  static IOException of(Path file, Exception cause) {
    for (Throwable each = cause; each != null; each = each.getCause()) {
      if (each instanceof FileProblem sealed) {
        return sealed;
      }
    }
    return cause instanceof DamagedBase known
        ? known
        : new DamagedBase(
            file,
            cause instanceof EOFException
                ? "it was cut short"
                : "it can't be read (" + reason(cause) + ")",
            cause);
  }

  /** Avro wraps what a decompressor says, and puts the name of its class before it. */
  private static String reason(Exception cause) {
    Throwable root = cause;
    while (root.getCause() != null) {
      root = root.getCause();
    }
    return String.valueOf(root.getMessage());
  }

  static DamagedBase of(Path file, String why) {
    return new DamagedBase(file, why, null);
  }
}
