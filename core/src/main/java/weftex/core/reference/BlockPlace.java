package weftex.core.reference;

import java.util.List;
import java.util.stream.Stream;
import weftex.core.model.PlaceRule;

/**
 * A rule for attributes of blocks.
 *
 * @param keys without which no attribute is meant
 */
record BlockPlace(PlaceRule rule, List<String> keys) {
  static BlockPlace of(PlaceRule rule) {
    List<String> keys =
        Stream.of(rule.text().attribute().split("\\."))
            .filter(key -> !key.startsWith("*"))
            .toList();
    return new BlockPlace(rule, keys);
  }

  /** What stands in every text that has such an attribute: few endings stand for many names. */
  String sign() {
    if (!rule.text().block().equals("*") || keys.isEmpty()) {
      return rule.text().block().equals("*") ? "<!--" : ":" + rule.text().block();
    }
    String last = keys.get(keys.size() - 1);
    return last.substring(Math.max(0, last.length() - 2)) + "\"";
  }

  /** Of the many names that an attribute may have, few stand in a block. */
  boolean mayBeIn(String attributes) {
    return keys.stream().allMatch(attributes::contains);
  }
}
