package weftex.core.reference;

import java.math.BigInteger;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.regex.Pattern;
import weftex.core.model.PlaceRule;
import weftex.core.value.Format;
import weftex.core.value.Place;
import weftex.core.value.Rewriting;
import weftex.core.value.Weaver;

/** Finds the numbers of rows inside values, and puts others in their place. */
public final class NumberPlaces {
  private static final Pattern LIST = Pattern.compile("\\s*\\d+(?:[\\s,]+\\d+)*\\s*");

  /** By the last key of the path; under the empty key those that end in any key. */
  private final Map<String, List<AtPath>> paths = new HashMap<>();

  private final List<TextPattern> patterns = new ArrayList<>();
  private final List<PlaceRule> texts = new ArrayList<>();
  private final List<BlockPlace> blocks = new ArrayList<>();
  private final SignFinder signs;
  private final Format format;
  private final Set<String> hosts;
  private final boolean anyLink;

  /**
   * A rule for a path.
   *
   * @param at its place among the rules: of several that fit the first counts
   */
  private record AtPath(int at, PathPattern pattern, PlaceRule rule) {}

  /** Says what takes the place of a number. */
  public interface Numbers {
    /**
     * The number's successor.
     *
     * @param table whose row it is
     * @return empty to leave the number
     */
    Optional<Weaver> of(String table, BigInteger number);
  }

  /**
   * @param rules where numbers stand
   * @param format how the values are written
   * @param hosts by which the site is known, in lower case: links to others are left alone
   * @param anyLink whether a link is the site's own whatever its host
   */
  public NumberPlaces(List<PlaceRule> rules, Format format, Set<String> hosts, boolean anyLink) {
    this.format = format;
    this.anyLink = anyLink;
    this.hosts = Set.copyOf(hosts);
    int at = 0;
    for (PlaceRule rule : rules) {
      if (!rule.text().block().isEmpty()) {
        blocks.add(BlockPlace.of(rule));
      } else if (rule.isPattern()) {
        texts.add(rule);
        patterns.add(TextPattern.of(rule, anyLink));
      } else {
        PathPattern pattern = new PathPattern(rule.path());
        paths
            .computeIfAbsent(pattern.lastKey(), key -> new ArrayList<>())
            .add(new AtPath(at++, pattern, rule));
      }
    }
    List<List<String>> groups = new ArrayList<>();
    patterns.forEach(pattern -> groups.add(pattern.signs()));
    groups.add(blocks.stream().map(BlockPlace::sign).distinct().toList());
    this.signs = new SignFinder(groups);
  }

  /** Whether a value may hold a number that is meant; most running texts do not. */
  boolean mayHold(byte[] value) {
    return !paths.isEmpty() || format == Format.BASE64 || signs.in(value) != 0;
  }

  /** Rewrites a value; empty if nothing changes. */
  public Optional<Weaver> rewrite(byte[] value, Numbers numbers) {
    if (!mayHold(value)) {
      return Optional.empty();
    }
    return Rewriting.rewrite(
        value,
        format,
        new Rewriting.Visitor() {
          @Override
          public boolean mayTouch(byte[] bytes) {
            return hasDigit(bytes);
          }

          @Override
          public Optional<Weaver> text(Place place, byte[] text) {
            return inText(place, text, numbers);
          }

          @Override
          public Optional<Weaver> number(Place place, byte[] digits) {
            Optional<PlaceRule> rule = rule(place);
            return rule.isPresent()
                ? successor(rule.get(), ascii(digits), numbers)
                : Optional.empty();
          }
        });
  }

  /** Takes the numbers that stand at paths. */
  interface AtPaths {
    void take(PlaceRule rule, List<String> path, BigInteger number);
  }

  /** Goes through the numbers at paths of a value, but for those in lists that a text holds. */
  void each(byte[] value, AtPaths sink) {
    Rewriting.Visitor visitor =
        new Rewriting.Visitor() {
          @Override
          public boolean mayTouch(byte[] bytes) {
            return hasDigit(bytes);
          }

          @Override
          public Optional<Weaver> text(Place place, byte[] text) {
            return number(place, text);
          }

          @Override
          public Optional<Weaver> number(Place place, byte[] digits) {
            return rule(place)
                .flatMap(
                    rule ->
                        successor(
                            rule,
                            ascii(digits),
                            (table, number) -> {
                              sink.take(rule, place.path(), number);
                              return Optional.empty();
                            }));
          }
        };
    Rewriting.rewrite(value, format, visitor);
  }

  private static boolean hasDigit(byte[] bytes) {
    for (byte b : bytes) {
      if (b >= '0' && b <= '9') {
        return true;
      }
    }
    return false;
  }

  private Optional<PlaceRule> rule(Place place) {
    if (paths.isEmpty()) {
      return Optional.empty();
    }
    List<String> path = place.path();
    List<String> of = place.isKey() ? path.subList(0, path.size() - 1) : path;
    String last = of.isEmpty() ? "" : of.get(of.size() - 1);
    AtPath first = null;
    for (String key : last.isEmpty() ? List.of("") : List.of(last, "")) {
      for (AtPath at : paths.getOrDefault(key, List.of())) {
        if ((first == null || at.at() < first.at())
            && at.rule().keys() == place.isKey()
            && at.pattern().matches(of)) {
          first = at;
        }
      }
    }
    return Optional.ofNullable(first).map(AtPath::rule);
  }

  private static Optional<Weaver> successor(PlaceRule rule, String digits, Numbers numbers) {
    return digits.equals(rule.unset()) || !digits.matches("\\d{1,20}")
        ? Optional.empty()
        : numbers.of(rule.to(), new BigInteger(digits));
  }

  private Optional<Weaver> inText(Place place, byte[] text, Numbers numbers) {
    Optional<PlaceRule> atPath = rule(place);
    long found = place.isKey() ? 0 : signs.in(text);
    if (atPath.isEmpty() && found == 0) {
      return Optional.empty();
    }
    String latin = new String(text, StandardCharsets.ISO_8859_1);
    TextEdits edits = new TextEdits(latin, numbers);
    if (atPath.isPresent() && LIST.matcher(latin).matches()) {
      edits.list(0, latin.length(), atPath.get().to(), atPath.get().unset());
    } else if (!place.isKey()) {
      for (int i = 0; i < patterns.size(); i++) {
        if ((found & SignFinder.bit(i)) != 0) {
          patterns.get(i).find(latin, hosts, (to, from, end) -> edits.list(from, end, to, "0"));
        }
      }
      if ((found & SignFinder.bit(patterns.size())) != 0) {
        blocks(latin, text, numbers, edits);
      }
    }
    return edits.isEmpty() ? Optional.empty() : Optional.of(edits.woven(text));
  }

  /** Comments such as {@code <!-- wp:image {"id":12} -->}, whatever stands before the colon. */
  private void blocks(String text, byte[] bytes, Numbers numbers, TextEdits edits) {
    for (int open = text.indexOf("<!--"); open >= 0; open = text.indexOf("<!--", open + 4)) {
      int close = text.indexOf("-->", open + 4);
      int brace = text.indexOf('{', open + 4);
      if (close < 0) {
        return;
      }
      int end = brace < 0 ? -1 : text.lastIndexOf('}', close) + 1;
      if (brace < 0 || brace > close || end <= brace) {
        continue;
      }
      String name = text.substring(open + 4, brace).strip();
      String bare = name.substring(name.indexOf(':') + 1);
      String attributesText = text.substring(brace, end);
      List<PlaceRule> own =
          blocks.stream()
              .filter(
                  r -> r.rule().text().block().equals("*") || r.rule().text().block().equals(bare))
              .filter(r -> r.mayBeIn(attributesText))
              .map(BlockPlace::rule)
              .filter(r -> isTold(r, attributesText))
              .toList();
      if (!own.isEmpty() && name.matches("[a-z][a-z0-9-]*:[a-z][a-z0-9_/-]*")) {
        byte[] attributes = java.util.Arrays.copyOfRange(bytes, brace, end);
        inAttributes(own, attributes, numbers).ifPresent(by -> edits.replace(brace, end, by));
      }
    }
  }

  private static boolean isTold(PlaceRule rule, String attributes) {
    return rule.text().where().entrySet().stream()
        .allMatch(
            told ->
                Pattern.compile(
                        Pattern.quote("\"" + told.getKey() + "\"")
                            + "\\s*:\\s*"
                            + Pattern.quote("\"" + told.getValue() + "\""))
                    .matcher(attributes)
                    .find());
  }

  /** What stands beside an attribute, such as a link, follows the rules of running text. */
  private Optional<Weaver> inAttributes(List<PlaceRule> rules, byte[] json, Numbers numbers) {
    List<PlaceRule> inside = new ArrayList<>(texts);
    rules.forEach(r -> inside.add(PlaceRule.at(r.to(), r.text().attribute(), r.keys(), r.unset())));
    return new NumberPlaces(inside, Format.JSON, hosts, anyLink).rewrite(json, numbers);
  }

  private static String ascii(byte[] digits) {
    return new String(digits, StandardCharsets.US_ASCII);
  }
}
