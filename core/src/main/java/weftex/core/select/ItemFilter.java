package weftex.core.select;

import weftex.core.change.Item;
import weftex.core.row.Glob;

/**
 * Some things: {@code page:Winter*} or {@code setting:tagline}; without a colon all of a kind.
 *
 * @param kind pattern of the kind
 * @param name pattern of the name
 */
public record ItemFilter(String kind, String name) {

  /** Reads the written form. */
  public static ItemFilter parse(String text) {
    int colon = text.indexOf(':');
    return colon < 0
        ? new ItemFilter(text.strip(), "*")
        : new ItemFilter(text.substring(0, colon).strip(), text.substring(colon + 1).strip());
  }

  /** Whether a thing is meant. */
  public boolean accepts(Item item) {
    return Glob.matches(kind, item.kind()) && Glob.matches(name, item.name());
  }
}
