package weftex.core.merge;

import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import weftex.core.row.Glob;
import weftex.core.value.Structure;

/**
 * Three-way merge inside a value: structured values member by member, running text by blocks, lines
 * and words. What both sides changed, each in its own way, is named and decided for one side.
 */
public final class ValueMerger {
  /** Shorter texts, such as titles, dates and names, are one thing that nobody wrote by halves. */
  private static final int FEWEST_WORDS = 8;

  private static final Pattern WORD = Pattern.compile("\\S+");

  private final List<String> sets;
  private final List<String> units;

  /**
   * What is known of the places inside. Paths are keys joined by dots; {@code *} matches any signs,
   * and the empty path is the value as a whole.
   *
   * @param sets lists whose order means nothing
   * @param units members that are one thing, of which nothing is taken without the rest
   */
  public ValueMerger(List<String> sets, List<String> units) {
    this.sets = List.copyOf(sets);
    this.units = List.copyOf(units);
  }

  /**
   * What became of a value that both sides changed.
   *
   * @param ifSource the merged value if the source wins wherever both clash
   * @param ifTarget the same if the target does
   * @param clashes what clashes, by path or passage; empty if everything could be merged
   */
  public record Outcome(byte[] ifSource, byte[] ifTarget, List<String> clashes) {
    public Outcome {
      clashes = List.copyOf(clashes);
    }
  }

  /**
   * Merges what both sides added: members that only one side has stay, others must be alike.
   *
   * @return empty if the values are not structured in the same way, or are one thing
   */
  public Optional<Outcome> mergeAdded(byte[] source, byte[] target) {
    Optional<Structure> s = Structure.detect(source);
    Optional<Structure> t = Structure.detect(target);
    boolean alike =
        s.isPresent()
            && t.isPresent()
            && s.get().syntax() == t.get().syntax()
            && s.get().root().isContainer()
            && s.get().root().kind() == t.get().root().kind();
    if (!alike || isUnit(List.of())) {
      return Optional.empty();
    }
    List<String> clashes = new ArrayList<>();
    Optional<byte[]> ifSource =
        new TreeMerger(this, Optional.empty(), s.get(), t.get(), true, clashes).merge(List.of());
    Optional<byte[]> ifTarget =
        new TreeMerger(this, Optional.empty(), s.get(), t.get(), false, new ArrayList<>())
            .merge(List.of());
    return ifSource.flatMap(one -> ifTarget.map(other -> new Outcome(one, other, clashes)));
  }

  /** Merges; empty if the value is one thing, or its format is not known. */
  public Optional<Outcome> merge(byte[] base, byte[] source, byte[] target) {
    if (isUnit(List.of())) {
      return Optional.empty();
    }
    List<String> clashes = new ArrayList<>();
    Optional<byte[]> ifSource = merge(base, source, target, true, clashes);
    if (ifSource.isEmpty()) {
      return Optional.empty();
    }
    Optional<byte[]> ifTarget =
        clashes.isEmpty() ? ifSource : merge(base, source, target, false, new ArrayList<>());
    return ifTarget.map(bytes -> new Outcome(ifSource.get(), bytes, clashes));
  }

  private Optional<byte[]> merge(
      byte[] base, byte[] source, byte[] target, boolean sourceWins, List<String> clashes) {
    return mergeAt(List.of(), base, source, target, sourceWins, clashes);
  }

  /** Merges a value at a path of an outer one. */
  Optional<byte[]> mergeAt(
      List<String> path,
      byte[] base,
      byte[] source,
      byte[] target,
      boolean sourceWins,
      List<String> clashes) {
    Optional<Structure> s = Structure.detect(source);
    Optional<Structure> t = Structure.detect(target);
    Optional<Structure> b = Structure.detect(base);
    if (s.isPresent() && t.isPresent() && b.isPresent()) {
      boolean alike = s.get().syntax() == t.get().syntax() && b.get().syntax() == t.get().syntax();
      return alike
          ? new TreeMerger(this, b, s.get(), t.get(), sourceWins, clashes).merge(path)
          : Optional.empty();
    }
    boolean structured = s.isPresent() || t.isPresent() || b.isPresent();
    boolean malformed =
        Structure.malformed(source).isPresent() || Structure.malformed(target).isPresent();
    if (structured || malformed || !isProse(base) || !isProse(source) || !isProse(target)) {
      return Optional.empty();
    }
    String merged =
        new TextMerger(sourceWins, clashes).merge(latin(base), latin(source), latin(target));
    return Optional.of(merged.getBytes(StandardCharsets.ISO_8859_1));
  }

  boolean isSet(List<String> path) {
    return matches(sets, path);
  }

  boolean isUnit(List<String> path) {
    return matches(units, path);
  }

  private static boolean matches(List<String> patterns, List<String> path) {
    String written = String.join(".", path);
    return patterns.stream().anyMatch(pattern -> Glob.matches(pattern, written));
  }

  private static boolean isProse(byte[] text) {
    Matcher word = WORD.matcher(latin(text));
    int words = 0;
    while (words < FEWEST_WORDS && word.find()) {
      words++;
    }
    return words >= FEWEST_WORDS;
  }

  private static String latin(byte[] bytes) {
    return new String(bytes, StandardCharsets.ISO_8859_1);
  }
}
