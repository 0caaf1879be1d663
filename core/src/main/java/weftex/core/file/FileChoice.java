package weftex.core.file;

import java.util.List;
import java.util.Optional;
import weftex.core.row.Glob;

/**
 * Which files travel.
 *
 * @param none whether no file does
 * @param except patterns of paths that do not, from the copy's folder or from any folder in it
 * @param asked patterns of files that are asked for by name; programs of the site's kind travel
 *     only so
 * @param most the largest size in bytes; 0 for any
 */
public record FileChoice(boolean none, List<String> except, List<String> asked, long most) {
  /** The word of a selection by which no file travels. */
  public static final String WITHOUT = "without-files";

  /** The word of a selection for files that are asked for by name. */
  public static final String ASKED = "files";

  /** What rows name, but for programs. */
  public static final FileChoice USUAL = new FileChoice(false, List.of(), List.of(), 0);

  public FileChoice {
    except = List.copyOf(except);
    asked = List.copyOf(asked);
  }

  /** The same, as far as a selection says otherwise. */
  public FileChoice and(boolean without, List<String> files) {
    return new FileChoice(none || without, except, files, most);
  }

  /** Why a file stays where it is, as a clause; empty if it travels. */
  Optional<String> refusal(String path, long size) {
    if (asked.contains(path)) {
      return Optional.empty();
    }
    if (SafePath.isProgram(path)) {
      return Optional.of(
          "a program of the site's kind travels only if it is asked for by its whole name");
    }
    if (except.stream().anyMatch(pattern -> matches(pattern, path))) {
      return Optional.of("weftex.yaml or an option leaves it out");
    }
    return most > 0 && size > most
        ? Optional.of("it is larger than what may travel")
        : Optional.empty();
  }

  /** Whether a file is asked for. */
  public boolean asksFor(String path) {
    return asked.stream().anyMatch(pattern -> Glob.matches(pattern, path));
  }

  /**
   * The folders in which files may be that are asked for: what stands before the first star of each
   * pattern, up to its last slash.
   */
  public List<String> folders() {
    return asked.stream()
        .map(pattern -> pattern.split("[*?]", 2)[0])
        .map(start -> start.substring(0, Math.max(0, start.lastIndexOf('/'))))
        .distinct()
        .toList();
  }

  /** {@code cache/*} is any folder of that name, wherever it stands. */
  private static boolean matches(String pattern, String path) {
    return Glob.matches(pattern, path) || Glob.matches("*/" + pattern, path);
  }
}
