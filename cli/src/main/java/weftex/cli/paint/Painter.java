package weftex.cli.paint;

import java.nio.charset.Charset;
import java.nio.charset.CharsetEncoder;
import java.util.List;
import org.jline.utils.AttributedString;
import org.jline.utils.AttributedStringBuilder;
import org.jline.utils.AttributedStyle;
import weftex.cli.page.Columns;

/**
 * Turns lines into what a terminal shows; without colours, and with plain signs, where it must be.
 */
public final class Painter {
  // Of the 256 colours those that can be read on black as well as on white.
  private static final int ALERT = 162;
  private static final int OLD = 130;
  private static final int NEW = 31;

  private final boolean colour;
  private final boolean unicode;
  private final CharsetEncoder encoder;

  public Painter(boolean colour, Charset encoding) {
    this.colour = colour;
    this.encoder = encoding.newEncoder();
    this.unicode = encoder.canEncode('┆') && encoder.canEncode('→');
  }

  /** What parts two halves of the screen. */
  public String upright() {
    return unicode ? "┆" : "|";
  }

  public String level() {
    return unicode ? "╌" : "-";
  }

  public String pointer() {
    return unicode ? "▸" : ">";
  }

  private AttributedStyle style(Style style) {
    AttributedStyle plain = AttributedStyle.DEFAULT;
    return switch (style) {
      case PLAIN -> plain;
      case STRONG -> plain.bold();
      case FAINT -> plain.faint();
      case ALERT -> colour ? plain.bold().foreground(ALERT) : plain.bold();
      case OLD -> colour ? plain.crossedOut().foreground(OLD) : plain.crossedOut();
      case NEW -> colour ? plain.underline().foreground(NEW) : plain.underline();
    };
  }

  /** A line in exactly a width. */
  public AttributedString line(List<Line.Span> spans, int width, boolean inverse) {
    AttributedStringBuilder line = new AttributedStringBuilder();
    int left = width;
    for (Line.Span span : spans) {
      String text = Columns.cut(shown(span.text()), left);
      left -= Columns.width(text);
      AttributedStyle own = style(span.style());
      line.styled(inverse ? own.inverse() : own, text);
    }
    AttributedStyle end = inverse ? AttributedStyle.DEFAULT.inverse() : AttributedStyle.DEFAULT;
    return line.styled(end, " ".repeat(Math.max(0, left))).toAttributedString();
  }

  private String shown(String text) {
    String flat = text.replace('\n', ' ').replace("\t", "    ");
    if (unicode) {
      return flat;
    }
    String plain = flat.replace("→", "->").replace("…", "...").replace("—", "-").replace('×', 'x');
    StringBuilder shown = new StringBuilder();
    plain
        .codePoints()
        .mapToObj(Character::toString)
        .forEach(c -> shown.append(encoder.canEncode(c) ? c : "?"));
    return shown.toString();
  }
}
