package weftex.core.yaml;

import java.util.Collection;
import java.util.Comparator;
import java.util.Locale;
import java.util.Optional;
import org.apache.commons.text.similarity.LevenshteinDistance;

/** Finds the known word that somebody probably meant. */
public final class Nearest {
  private static final int SHORT = 4;

  private Nearest() {}

  /**
   * The nearest of some words within a third of the written one's length, or empty. Two letters
   * that changed places count as two.
   */
  public static Optional<String> to(String written, Collection<String> known) {
    int furthest = written.length() < SHORT ? 1 : Math.max(2, written.length() / 3);
    LevenshteinDistance distance = LevenshteinDistance.getDefaultInstance();
    String lower = written.toLowerCase(Locale.ROOT);
    return known.stream()
        .filter(word -> distance.apply(lower, word.toLowerCase(Locale.ROOT)) <= furthest)
        .min(Comparator.comparing(word -> distance.apply(lower, word.toLowerCase(Locale.ROOT))));
  }
}
