package weftex.core.merge;

import java.util.ArrayList;
import java.util.List;
import org.eclipse.jgit.diff.Sequence;
import org.eclipse.jgit.diff.SequenceComparator;
import org.eclipse.jgit.merge.MergeAlgorithm;
import org.eclipse.jgit.merge.MergeChunk;

/**
 * Three sequences merged, piece by piece. The engine is JGit's merge of sequences (a diff3 over
 * histogram diffs), but for one thing: its own range of the base in a clash is of no use, since
 * what both sides added alike around the clash is counted off from it as if the base had it, even
 * below zero. Here the base of a clash is what lies between the pieces of it that stand around.
 */
final class Chunks {
  private static final int BASE = 0;

  private Chunks() {}

  /** A stretch of a sequence: from, inclusive, and to, exclusive. */
  record Stretch(int from, int to) {
    int length() {
      return to - from;
    }
  }

  /** Takes the pieces in their order. */
  interface Sink {
    /**
     * A piece that nobody disputes.
     *
     * @param side 0 for the base's, 1 for the source's, 2 for the target's
     * @param base what it takes the place of; the same stretch if it is the base's
     */
    void agreed(int side, Stretch stretch, Stretch base);

    /** A piece that both sides changed, each in its own way. */
    void clash(Stretch base, Stretch source, Stretch target);
  }

  static <S extends Sequence> void merge(
      SequenceComparator<S> comparator, S base, S source, S target, Sink sink) {
    if (base.size() == 0 && (source.size() == 0 || target.size() == 0)) {
      // The engine takes the empty side for one that removed everything, and sees a clash.
      int side = target.size() == 0 ? 1 : 2;
      sink.agreed(side, new Stretch(0, Math.max(source.size(), target.size())), new Stretch(0, 0));
      return;
    }
    List<MergeChunk> chunks = new ArrayList<>();
    new MergeAlgorithm().merge(comparator, base, source, target).forEach(chunks::add);
    Stretch ours = new Stretch(0, 0);
    int baseFrom = 0;
    for (int i = 0; i < chunks.size(); i++) {
      MergeChunk chunk = chunks.get(i);
      switch (chunk.getConflictState()) {
        case NO_CONFLICT -> {
          boolean isBase = chunk.getSequenceIndex() == BASE;
          int baseTo = isBase ? chunk.getEnd() : nextBase(chunks, i, base.size());
          Stretch replaced = isBase ? stretch(chunk) : new Stretch(baseFrom, baseTo);
          sink.agreed(chunk.getSequenceIndex(), stretch(chunk), replaced);
          baseFrom = baseTo;
        }
        case FIRST_CONFLICTING_RANGE -> ours = stretch(chunk);
        case BASE_CONFLICTING_RANGE -> {}
        case NEXT_CONFLICTING_RANGE ->
            sink.clash(
                new Stretch(baseFrom, nextBase(chunks, i, base.size())), ours, stretch(chunk));
      }
    }
  }

  private static Stretch stretch(MergeChunk chunk) {
    return new Stretch(chunk.getBegin(), chunk.getEnd());
  }

  /** Where the base goes on after a clash. */
  private static int nextBase(List<MergeChunk> chunks, int clash, int end) {
    for (MergeChunk chunk : chunks.subList(clash + 1, chunks.size())) {
      if (chunk.getConflictState() == MergeChunk.ConflictState.NO_CONFLICT
          && chunk.getSequenceIndex() == BASE) {
        return chunk.getBegin();
      }
    }
    return end;
  }
}
