package weftex.core.match;

import java.util.List;
import java.util.Optional;
import weftex.core.row.Row;
import weftex.core.row.RowName;
import weftex.core.row.Value;

/** A row that the source has added, and what becomes of it on the target. */
public final class Newcomer {
  public final int table;
  public final long at;

  /** By which the source knows it; empty where rows have no numbers. */
  final Optional<RowName> name;

  Fate fate;
  boolean deciding;

  Newcomer(int table, long at, Optional<RowName> name) {
    this.table = table;
    this.at = at;
    this.name = name;
  }

  /** What becomes of a row that the source has added. */
  public sealed interface Fate {}

  /**
   * It is new to the target and gets a number there.
   *
   * @param renumbered whether its own number is taken
   */
  public record Numbered(RowName name, boolean renumbered) implements Fate {}

  /** It is new to the target under its own key, which is no number. */
  record Keyed() implements Fate {}

  /**
   * It was on the target, which has removed it since: an earlier merge made it there, or the source
   * made a part of a thing anew that both copies had and removed.
   *
   * @param twin what it was there; empty for a row whose key is no number
   * @param before as both had it, in the target's terms; empty if that is known by the twin
   */
  public record Gone(Optional<PastMerges.Twin> twin, Optional<List<Value>> before) implements Fate {
    Gone(Optional<PastMerges.Twin> twin) {
      this(twin, Optional.empty());
    }

    /** Whether the target has given its number to another row. */
    boolean isReplaced() {
      return twin.map(PastMerges.Twin::replaced).orElse(false);
    }
  }

  /**
   * The target has the same thing.
   *
   * @param row the target's row
   * @param removedAt where the log says that the source removed that very row and made it anew; -1
   *     if both copies added it
   */
  public record Matched(Row row, long removedAt) implements Fate {}
}
