package weftex.core.plan;

import java.io.IOException;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import weftex.core.compare.Comparison;
import weftex.core.compare.Difference;
import weftex.core.match.Matching;
import weftex.core.match.SettledSides;
import weftex.core.match.Sides;
import weftex.core.row.Value;
import weftex.core.select.MemberFilter;

/**
 * The rows of a plan on their sides. A plan passes over them several times, so those that come
 * first stay in memory with what they merge to, up to so many bytes; of the others what was found
 * is written down. To let the oldest go instead would keep none until it is asked for again.
 */
final class KeptSides {
  /** A sixteenth of what Java gets. */
  static final long BYTES = 16L * 1024 * 1024;

  /** What an object takes besides its contents. */
  private static final int OVERHEAD = 32;

  private final Comparison comparison;
  private final Matching matching;
  private final Map<Long, Kept> byPosition = new HashMap<>();
  private final SettledSides settled;
  private Optional<Last> last = Optional.empty();
  private long left;

  /**
   * @param most how many bytes are kept, about
   */
  KeptSides(Comparison comparison, Matching matching, long most) {
    this.comparison = comparison;
    this.matching = matching;
    this.left = most;
    this.settled = new SettledSides(comparison.log());
  }

  /** A row that was read and is not kept, with its difference. */
  private record Last(long at, Difference read, Sides sides) {}

  /** A row, as far as these of its members are chosen. */
  private record Kept(Sides whole, MemberFilter members, Sides chosen) {}

  /** A whole row. */
  Sides whole(long at) throws IOException {
    Kept kept = byPosition.get(at);
    if (kept != null) {
      return kept.whole();
    }
    Difference read = comparison.log().read(at);
    Optional<Sides> before = settled.read(at, read);
    if (before.isPresent()) {
      return before.get();
    }
    Sides sides = Sides.of(comparison, matching, at, read);
    long bytes = bytes(sides);
    if (bytes <= left) {
      left -= bytes;
      byPosition.put(at, new Kept(sides, MemberFilter.ALL, sides));
    } else {
      last = Optional.of(new Last(at, read, sides));
    }
    return sides;
  }

  /** Says that a row, which was read last, is merged and will be asked for again. */
  void settle(long at) throws IOException {
    if (last.isPresent() && last.get().at() == at) {
      settled.write(at, last.get().read(), last.get().sides());
      last = Optional.empty();
    }
  }

  /** A row with what is chosen of it. */
  Sides chosen(Planned planned) throws IOException {
    Kept kept = byPosition.get(planned.at);
    if (kept != null && kept.members() == planned.members) {
      return kept.chosen();
    }
    Sides whole = whole(planned.at);
    if (planned.members.isAll()) {
      return whole;
    }
    Sides chosen =
        new MemberChoice(comparison.tables().get(planned.table).table(), planned.members).of(whole);
    byPosition.computeIfPresent(
        planned.at, (at, before) -> new Kept(before.whole(), planned.members, chosen));
    return chosen;
  }

  /** Says that a row is not asked for again. */
  void forget(long at) {
    Kept kept = byPosition.remove(at);
    left += kept == null ? 0 : bytes(kept.whole());
  }

  /** About what a row takes, and what it may merge to. */
  private static long bytes(Sides sides) {
    return OVERHEAD
        + bytes(sides.base().isPresent() ? sides.base().values() : List.of())
        + 2 * bytes(sides.source())
        + bytes(sides.rawSource())
        + bytes(sides.target().isPresent() ? sides.target().values() : List.of());
  }

  private static long bytes(List<Value> values) {
    long bytes = OVERHEAD;
    for (Value value : values) {
      bytes += OVERHEAD;
      if (value instanceof Value.Text text) {
        bytes += text.utf8().length;
      } else if (value instanceof Value.Binary binary) {
        bytes += binary.bytes().length;
      }
    }
    return bytes;
  }
}
