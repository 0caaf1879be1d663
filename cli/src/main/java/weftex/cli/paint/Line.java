package weftex.cli.paint;

import java.util.ArrayList;
import java.util.List;
import java.util.Optional;

/**
 * A line of text.
 *
 * @param spans from left to right
 * @param spot what can be decided here; empty for lines of which nothing can
 */
public record Line(List<Span> spans, Optional<Spot> spot) {
  public Line {
    spans = List.copyOf(spans);
  }

  /** A stretch of text that looks alike; it has no line breaks. */
  public record Span(String text, Style style) {}

  /**
   * What a decision can be about.
   *
   * @param change its number
   * @param column one column of it
   * @param passage one passage of the column's text, from 1; 0 for the whole column
   * @param passages how many there are; 0 if they can't be decided one by one
   */
  public record Spot(int change, Optional<String> column, int passage, int passages) {
    public static Spot of(int change) {
      return new Spot(change, Optional.empty(), 0, 0);
    }
  }

  public static Line of(String text, Style style) {
    return new Line(List.of(new Span(text, style)), Optional.empty());
  }

  public static Line blank() {
    return new Line(List.of(), Optional.empty());
  }

  public Line at(Spot where) {
    return new Line(spans, Optional.of(where));
  }

  /** The text without its looks. */
  public String text() {
    StringBuilder text = new StringBuilder();
    spans.forEach(span -> text.append(span.text()));
    return text.toString();
  }

  /** Puts a line together. */
  public static final class Builder {
    private final List<Span> spans = new ArrayList<>();

    public Builder add(String text, Style style) {
      if (!text.isEmpty()) {
        spans.add(new Span(text, style));
      }
      return this;
    }

    public Line build() {
      return new Line(spans, Optional.empty());
    }
  }
}
