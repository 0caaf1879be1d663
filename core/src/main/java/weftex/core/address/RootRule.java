package weftex.core.address;

import java.nio.charset.StandardCharsets;
import java.util.Arrays;
import java.util.List;
import java.util.Optional;

/**
 * A link from the root of a host in an attribute or a style sheet, where the copy is at the root
 * and the other one in a folder. Elsewhere a text that begins with a slash may be anything.
 */
final class RootRule implements Rule {
  private static final List<String> QUOTES =
      List.of("\\\\\\\"", "\\\"", "\"", "'", "&quot;", "\\u0022", "");

  private final Needle needle;
  private final boolean quoted;
  private final String to;

  /**
   * @param before what stands before the link and its quote, such as {@code href=}
   * @param quoted whether a link is one only within quotes
   * @param to the path of the other copy's base address
   */
  private RootRule(String before, boolean quoted, String to) {
    this.needle = new Needle(before.getBytes(StandardCharsets.US_ASCII), true);
    this.quoted = quoted;
    this.to = to;
  }

  /** The rules for all places where a link from the root is certain. */
  static List<RootRule> of(String to) {
    return List.of(
        new RootRule("href=", true, to),
        new RootRule("src=", true, to),
        new RootRule("action=", true, to),
        new RootRule("url(", false, to));
  }

  @Override
  public Needle needle() {
    return needle;
  }

  @Override
  public Optional<Hit> around(byte[] text, int at) {
    int after = at + needle.length();
    String quote =
        QUOTES.stream()
            .filter(each -> Encoding.isAt(text, after, bytes(each)))
            .findFirst()
            .orElse("");
    int start = after + quote.length();
    byte[] slash = PathRule.slashAt(text, start);
    if (slash.length == 0 || quoted && quote.isEmpty()) {
      return Optional.empty();
    }
    String spelled = new String(slash, StandardCharsets.US_ASCII);
    byte[] path = bytes(to.replace("/", spelled));
    int end = start + path.length;
    boolean elsewhere = Encoding.isAt(text, start + slash.length, slash);
    boolean there =
        end <= text.length
            && Arrays.equals(text, start, end, path, 0, path.length)
            && !Signs.goesOn(text, end);
    return elsewhere || there
        ? Optional.empty()
        : Optional.of(new Hit(start, start, Form.ROOT, path));
  }

  private static byte[] bytes(String text) {
    return text.getBytes(StandardCharsets.UTF_8);
  }
}
