package weftex.core.file;

import java.nio.charset.StandardCharsets;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Locale;
import java.util.Set;
import weftex.core.address.Needle;

/**
 * Finds the files of a copy that running text names: by a path below one of the folders that hold
 * files, behind the copy's own host or behind none. A link to another host names a file there.
 */
final class FileMentions {
  private static final int LONGEST = 400;
  private static final String ENDS = " \t\r\n\"'<>()[]{}?#,;|&";

  private final List<String> folders;
  private final List<Needle> needles;
  private final Set<String> hosts;

  /**
   * @param folders such as {@code wp-content/uploads/}; a text names a file by what follows
   * @param hosts by which the copies are known, in lower case
   */
  FileMentions(List<String> folders, Set<String> hosts) {
    this.folders = folders.stream().map(f -> f.endsWith("/") ? f : f + "/").toList();
    this.needles =
        folders.stream()
            // Inside of JSON the slashes may be escaped, so only the last name is looked for.
            .map(folder -> new Needle(lastName(folder).getBytes(StandardCharsets.UTF_8), false))
            .toList();
    this.hosts = hosts;
  }

  private static String lastName(String folder) {
    String bare = folder.replaceAll("/$", "");
    return bare.substring(bare.lastIndexOf('/') + 1);
  }

  /** Whether a stretch of bytes may name a file. */
  boolean mayBeIn(byte[] bytes, int from, int to) {
    return needles.stream().anyMatch(needle -> needle.find(bytes, from, to) >= 0);
  }

  /** The paths that a text names, from the copy's folder, each once. */
  Set<String> in(byte[] utf8) {
    Set<String> paths = new LinkedHashSet<>();
    if (!mayBeIn(utf8, 0, utf8.length)) {
      return paths;
    }
    String text = new String(utf8, StandardCharsets.UTF_8).replace("\\/", "/");
    for (String folder : folders) {
      for (int at = text.indexOf(folder); at >= 0; at = text.indexOf(folder, at + 1)) {
        int end = at + folder.length();
        while (end < text.length()
            && end - at < LONGEST
            && ENDS.indexOf(text.charAt(end)) < 0
            && text.charAt(end) != '\\') {
          end++;
        }
        if (end > at + folder.length() && isOwn(text, at) && namesAFile(text, at, end)) {
          paths.add(decoded(text.substring(at, end)));
        }
      }
    }
    return paths;
  }

  /** Whether the path begins at the root of the site itself. */
  private boolean isOwn(String text, int at) {
    if (at == 0 || text.charAt(at - 1) != '/') {
      return false;
    }
    int from = at - 1;
    while (from > 0 && at - from < LONGEST && ENDS.indexOf(text.charAt(from - 1)) < 0) {
      from--;
    }
    String before = text.substring(from, at);
    int host = before.indexOf("//");
    if (host < 0) {
      return before.startsWith("/");
    }
    String name = before.substring(host + 2, before.indexOf('/', host + 2));
    return hosts.contains(name.toLowerCase(Locale.ROOT));
  }

  private static boolean namesAFile(String text, int at, int end) {
    String last = text.substring(text.lastIndexOf('/', end - 1) + 1, end);
    int point = last.lastIndexOf('.');
    return point > 0 && point < last.length() - 1 && end > at;
  }

  private static String decoded(String path) {
    try {
      return java.net.URLDecoder.decode(path.replace("+", "%2B"), StandardCharsets.UTF_8);
    } catch (IllegalArgumentException e) {
      return path;
    }
  }
}
