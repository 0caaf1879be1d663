package weftex.core.address;

import java.util.Arrays;
import java.util.Optional;

/**
 * A link from the root of the host, {@code /sub/page}, where the copies lie in different folders of
 * their hosts. Only a whole first part of a path is one, so something must stand before it that
 * ends a word.
 */
final class PathRule implements Rule {
  /** What may stand before a link. */
  private static final String BEFORE = "\"'`(=,>; \t\r\n";

  private final TextRule path;
  private final String to;

  /**
   * @param from the path of the base address, not empty
   * @param to the other copy's; may be empty
   */
  PathRule(String from, String to) {
    this.path = new TextRule(from, to, Form.ROOT);
    this.to = to;
  }

  @Override
  public Needle needle() {
    return path.needle();
  }

  @Override
  public Optional<Hit> around(byte[] text, int at) {
    return path.around(text, at)
        .filter(hit -> isFirst(text, hit.from()))
        .map(hit -> kept(text, hit));
  }

  private static boolean isFirst(byte[] text, int from) {
    return from == 0 || BEFORE.indexOf(text[from - 1]) >= 0 || Signs.isEncodedSign(text, from);
  }

  /** The root of a host has a slash, too, where none follows. */
  private Hit kept(byte[] text, Hit hit) {
    byte[] slash = slashAt(text, hit.from());
    return !to.isEmpty() || slashAt(text, hit.to()).length > 0
        ? hit
        : new Hit(hit.from(), hit.to(), hit.form(), slash);
  }

  /** A slash in whatever spelling, as it stands there; empty if there is none. */
  static byte[] slashAt(byte[] text, int from) {
    for (Encoding encoding : Encoding.values()) {
      int length = encoding.slashAt(text, from).length;
      if (length > 0) {
        return Arrays.copyOfRange(text, from, from + length);
      }
    }
    return new byte[0];
  }
}
