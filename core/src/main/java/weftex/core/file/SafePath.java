package weftex.core.file;

import java.nio.charset.StandardCharsets;
import java.text.Normalizer;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.Set;

/**
 * Paths of files as rows name them. A name from a database may come from anybody: what leads out of
 * the folder, or could be read in two ways, names no file.
 */
public final class SafePath {
  /** Of one name in bytes, on every usual file system. */
  private static final int LONGEST_NAME = 255;

  private static final int LONGEST = 1000;

  /** Endings that some servers run wherever in a name they stand. */
  private static final Set<String> RUN_ANYWHERE =
      Set.of(
          "php",
          "php3",
          "php4",
          "php5",
          "php6",
          "php7",
          "php8",
          "phps",
          "pht",
          "phtm",
          "phtml",
          "phar",
          "cgi",
          "fcgi",
          "htaccess",
          "htpasswd",
          "htgroup");

  /** Endings of what servers run, or take orders from. */
  private static final Set<String> RUN =
      Set.of(
          "inc", "pl", "py", "rb", "sh", "bash", "asp", "aspx", "ashx", "asmx", "asa", "jsp",
          "jspx", "cfm", "cfc", "shtml", "shtm", "stm");

  private SafePath() {}

  /**
   * The path in its one spelling, with single slashes and none at its ends; empty if it names no
   * file that may be touched.
   */
  public static Optional<String> of(String said) {
    String path = said.replaceAll("/+", "/").replaceAll("/$", "");
    if (path.isEmpty()
        || path.startsWith("/")
        || path.length() > LONGEST
        || !Normalizer.isNormalized(said, Normalizer.Form.NFC)
            && !Normalizer.isNormalized(said, Normalizer.Form.NFD)
        || !isPlain(path)
        // A full-width dot or slash becomes a plain one where somebody normalises names.
        || !isPlain(Normalizer.normalize(path, Normalizer.Form.NFKC))
        || slashes(Normalizer.normalize(path, Normalizer.Form.NFKC)) != slashes(path)) {
      return Optional.empty();
    }
    return Optional.of(path);
  }

  private static long slashes(String path) {
    return path.chars().filter(c -> c == '/').count();
  }

  private static boolean isPlain(String path) {
    if (path.matches("[A-Za-z]:.*") || path.indexOf('\\') >= 0 || path.startsWith("~")) {
      return false;
    }
    for (int i = 0; i < path.length(); i++) {
      char c = path.charAt(i);
      boolean lone = Character.isSurrogate(c) && path.codePointAt(i) == c;
      boolean second = i > 0 && Character.isSurrogatePair(path.charAt(i - 1), c);
      int type = Character.getType(c);
      if (Character.isISOControl(c)
          || lone && !second
          || type == Character.FORMAT
          || type == Character.LINE_SEPARATOR
          || type == Character.PARAGRAPH_SEPARATOR) {
        return false;
      }
    }
    for (String name : path.split("/", -1)) {
      if (name.isEmpty()
          || name.strip().isEmpty()
          || name.equals(".")
          || name.equals("..")
          || name.getBytes(StandardCharsets.UTF_8).length > LONGEST_NAME) {
        return false;
      }
    }
    return true;
  }

  /**
   * Whether a server of such sites may run the file, or read its settings from it; {@code
   * picture.php.jpg} is run by some.
   */
  public static boolean isProgram(String path) {
    String name =
        Normalizer.normalize(path.substring(path.lastIndexOf('/') + 1), Normalizer.Form.NFKC)
            .toLowerCase(Locale.ROOT);
    if (name.equals(".user.ini") || name.equals("web.config")) {
      return true;
    }
    // Some systems drop points and spaces at the end of a name.
    List<String> parts = List.of(name.replaceAll("[. ]+$", "").split("\\."));
    return parts.size() > 1
        && (RUN.contains(parts.get(parts.size() - 1).strip())
            || parts.stream().skip(1).map(String::strip).anyMatch(RUN_ANYWHERE::contains));
  }
}
