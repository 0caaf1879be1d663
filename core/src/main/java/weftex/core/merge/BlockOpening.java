package weftex.core.merge;

import java.util.regex.Pattern;

/** The opening of a block. */
record BlockOpening(String name, boolean comment, int from) {
  boolean isBlock() {
    return comment || BetweenBlocks.BLOCKS.contains(name.toLowerCase(java.util.Locale.ROOT));
  }

  Pattern end() {
    String quoted = Pattern.quote(name);
    return Pattern.compile(
        comment ? "\\s*<!--\\s*/" + quoted + "\\s*-->" : "\\s*</" + quoted + "\\s*>");
  }
}
