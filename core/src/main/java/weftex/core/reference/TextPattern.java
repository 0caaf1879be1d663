package weftex.core.reference;

import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Set;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import weftex.core.model.PlaceRule;

/**
 * Finds numbers in running text. Texts are looked at as Latin-1, so that a position is an offset
 * into the bytes. Group 1 of the expression is a number or a list of numbers.
 */
final class TextPattern {
  private static final String NUMBERS = "(\\d+(?:\\s*,\\s*\\d+)*)(?![0-9A-Za-z_])";

  /** Quotes as they are, escaped any number of times, or written for HTML. */
  private static final String QUOTE = "(?:\\\\*[\"']|&quot;|&#0?39;)?";

  private static final Pattern LINK_START = Pattern.compile("[^\\s\"'<>()\\[\\]]*$");
  private static final Pattern HOST =
      Pattern.compile(
          "(?i)^.*?(?::|%3a|%253a|&#58;)?(?:(?:\\\\*/){2}|(?:%2f){2}|(?:%252f){2}|(?:&#0?47;){2})([^/\\\\%&?:]+).*$");

  private final Pattern pattern;

  private final List<String> signs;

  private final boolean ownLinksOnly;
  private final String to;

  private TextPattern(Pattern pattern, List<String> signs, boolean ownLinksOnly, String to) {
    this.pattern = pattern;
    this.signs = signs;
    this.ownLinksOnly = ownLinksOnly;
    this.to = to;
  }

  static TextPattern of(PlaceRule rule, boolean anyLink) {
    if (!rule.text().cssClass().isEmpty()) {
      String name = Pattern.quote(rule.text().cssClass());
      return new TextPattern(
          Pattern.compile("(?<![A-Za-z0-9_-])" + name + "(\\d+)(?![A-Za-z0-9_-])"),
          List.of(rule.text().cssClass()),
          false,
          rule.to());
    }
    if (!rule.text().query().isEmpty()) {
      String names = String.join("|", rule.text().query().stream().map(Pattern::quote).toList());
      return new TextPattern(
          Pattern.compile(
              "(?:\\?|&amp;|&#0?38;|&|%3[Ff]|%26|\\\\u0026)(?:"
                  + names
                  + ")(?:=|%3[Dd])(\\d+)(?![0-9A-Za-z_])"),
          querySigns(rule.text().query()),
          !anyLink,
          rule.to());
    }
    if (!rule.text().shortcode().isEmpty()) {
      return new TextPattern(
          Pattern.compile(
              "\\["
                  + Pattern.quote(rule.text().shortcode())
                  + "(?=\\s)[^\\[\\]]*?\\s"
                  + attribute(rule.text().attribute())),
          List.of("[" + rule.text().shortcode()),
          false,
          rule.to());
    }
    String attribute = rule.text().htmlAttribute();
    int equals = attribute.indexOf('=');
    // What stands before the number is the rarer sign.
    String sign = equals < 0 ? attribute : attribute.substring(equals + 1);
    return new TextPattern(
        Pattern.compile("(?<=[\\s\"'])" + attribute(attribute)), List.of(sign), false, rule.to());
  }

  /** What stands before a parameter's name, and after it, in every way of writing. */
  private static List<String> querySigns(List<String> names) {
    List<String> signs = new ArrayList<>();
    for (String name : names) {
      for (String before : List.of("?", "&", ";", "%3F", "%3f", "%26", "u0026")) {
        for (String after : List.of("=", "%3D", "%3d")) {
          signs.add(before + name + after);
        }
      }
    }
    return signs;
  }

  /** Strings of which one stands in every text in which the pattern is found. */
  List<String> signs() {
    return signs;
  }

  /** {@code id}, or {@code id=attachment_} where the number has something before it. */
  private static String attribute(String written) {
    int equals = written.indexOf('=');
    String name = equals < 0 ? written : written.substring(0, equals);
    String before = equals < 0 ? "" : Pattern.quote(written.substring(equals + 1));
    return Pattern.quote(name) + "\\s*=\\s*" + QUOTE + before + NUMBERS;
  }

  /** Is told where numbers stand. */
  interface Sink {
    void numbers(String table, int from, int to);
  }

  /**
   * Finds.
   *
   * @param hosts by which the site is known, in lower case
   */
  void find(String text, Set<String> hosts, Sink sink) {
    Matcher matcher = pattern.matcher(text);
    while (matcher.find()) {
      if (!ownLinksOnly || isOwnLink(text, matcher.start(), hosts)) {
        sink.numbers(to, matcher.start(1), matcher.end(1));
      }
    }
  }

  /** A link without a host leads to the site itself, another one only to a host that it knows. */
  private static boolean isOwnLink(String text, int at, Set<String> hosts) {
    Matcher start = LINK_START.matcher(text.substring(Math.max(0, at - 500), at));
    String before = start.find() ? start.group() : "";
    Matcher host = HOST.matcher(before);
    return !host.matches() || hosts.contains(host.group(1).toLowerCase(Locale.ROOT));
  }
}
