package weftex.core.merge;

import java.util.ArrayList;
import java.util.List;
import java.util.regex.Pattern;
import org.eclipse.jgit.merge.MergeAlgorithm;
import org.eclipse.jgit.merge.MergeChunk;
import org.eclipse.jgit.merge.MergeResult;

/**
 * Three-way merge of running text: first by lines and blocks of markup, then, where those clash, by
 * words. The engine is JGit's merge of sequences (a diff3 over histogram diffs).
 */
final class TextMerger {
  private static final int SHOWN = 60;
  private static final int BASE = 0;

  private final boolean sourceWins;
  private final List<String> clashes;

  /**
   * @param sourceWins whose passage stands where both changed it
   * @param clashes takes the passages that both changed, shortened
   */
  TextMerger(boolean sourceWins, List<String> clashes) {
    this.sourceWins = sourceWins;
    this.clashes = clashes;
  }

  /** Merges; texts carry one byte a character. */
  String merge(String base, String source, String target) {
    return merge(base, source, target, TextTokens.BLOCK);
  }

  private String merge(String base, String source, String target, Pattern by) {
    TextTokens b = TextTokens.of(base, by);
    TextTokens s = TextTokens.of(source, by);
    TextTokens t = TextTokens.of(target, by);
    MergeResult<TextTokens> result = new MergeAlgorithm().merge(TextTokens.COMPARATOR, b, s, t);
    List<TextTokens> sides = List.of(b, s, t);
    List<MergeChunk> chunks = new ArrayList<>();
    result.forEach(chunks::add);
    StringBuilder merged = new StringBuilder();
    String ours = "";
    int baseFrom = 0;
    for (int i = 0; i < chunks.size(); i++) {
      MergeChunk chunk = chunks.get(i);
      switch (chunk.getConflictState()) {
        case NO_CONFLICT -> {
          merged.append(text(sides, chunk));
          baseFrom = chunk.getSequenceIndex() == BASE ? chunk.getEnd() : baseFrom;
        }
        case FIRST_CONFLICTING_RANGE -> ours = text(sides, chunk);
        case BASE_CONFLICTING_RANGE -> {}
        case NEXT_CONFLICTING_RANGE -> {
          String common = b.text(baseFrom, nextBase(chunks, i, b.size()));
          merged.append(clash(common, ours, text(sides, chunk), by));
        }
      }
    }
    return merged.toString();
  }

  private static String text(List<TextTokens> sides, MergeChunk chunk) {
    return sides.get(chunk.getSequenceIndex()).text(chunk.getBegin(), chunk.getEnd());
  }

  /**
   * Where the base goes on after a clash. The engine's own range of the base in a clash is of no
   * use: what both sides added alike around the clash is counted off from it as if the base had it.
   */
  private static int nextBase(List<MergeChunk> chunks, int clash, int end) {
    for (MergeChunk chunk : chunks.subList(clash + 1, chunks.size())) {
      if (chunk.getConflictState() == MergeChunk.ConflictState.NO_CONFLICT
          && chunk.getSequenceIndex() == BASE) {
        return chunk.getBegin();
      }
    }
    return end;
  }

  private String clash(String base, String source, String target, Pattern by) {
    if (by == TextTokens.BLOCK && !base.isEmpty()) {
      return merge(base, source, target, TextTokens.WORD);
    }
    String passage = (base.isBlank() ? source : base).strip();
    clashes.add(passage.length() > SHOWN ? passage.substring(0, SHOWN - 1) + "…" : passage);
    return sourceWins ? source : target;
  }
}
