package weftex.core.compare;

import java.io.IOException;
import java.util.function.LongConsumer;
import weftex.core.row.Row;
import weftex.core.row.RowStream;
import weftex.core.site.TableModel;

/** Joins a table with a key: the rows of one key on the three sides are one. */
final class KeyJoin {
  private final Comparison comparison;
  private final int table;

  KeyJoin(Comparison comparison, int table) {
    this.comparison = comparison;
    this.table = table;
  }

  /**
   * @param rows is told, now and then, how many rows are compared
   * @return how many there were
   */
  long run(RowStream bases, RowStream sources, RowStream targets, LongConsumer rows)
      throws IOException {
    Row base = bases.next();
    Row source = sources.next();
    Row target = targets.next();
    long seen = 0;
    while (base.isPresent() || source.isPresent() || target.isPresent()) {
      if ((++seen & 0x3FFF) == 0) {
        rows.accept(seen);
      }
      // Nearly every row is on all sides.
      if (comparison.hasBase() && isAt(source, base) && isAt(target, base)) {
        comparison.addRaw(table, base, source, target);
        base = bases.next();
        source = sources.next();
        target = targets.next();
        continue;
      }
      Row least = least(least(base, source), target);
      boolean inBase = isAt(base, least);
      boolean inSource = isAt(source, least);
      boolean inTarget = isAt(target, least);
      Row rowOfTarget = inTarget ? target : Row.ABSENT;
      if (inSource && inTarget && isByChance(source, target)) {
        comparison.addRaw(table, Row.ABSENT, Row.ABSENT, target);
        rowOfTarget = Row.ABSENT;
      }
      comparison.addRaw(
          table,
          baseOf(inBase ? base : Row.ABSENT, inSource ? rowOfTarget : Row.ABSENT),
          inSource ? source : Row.ABSENT,
          rowOfTarget);
      base = inBase ? bases.next() : base;
      source = inSource ? sources.next() : source;
      target = inTarget ? targets.next() : target;
    }
    rows.accept(seen);
    return seen;
  }

  /** Whether both copies gave one number to two things. */
  private boolean isByChance(Row source, Row target) {
    TableModel model = comparison.tables().get(table);
    return comparison.pairs() == Comparison.Pairs.BY_IDENTITY
        && model.table().isNumbered()
        && !source.sameValues(target)
        && !model.mayBeOne(source.values(), target.values());
  }

  /** Without a base the target stands for it, except for a row that the source lacks. */
  private Row baseOf(Row recorded, Row standIn) {
    return comparison.hasBase() ? recorded : standIn;
  }

  private static Row least(Row one, Row other) {
    if (!one.isPresent() || !other.isPresent()) {
      return one.isPresent() ? one : other;
    }
    return one.key().compareTo(other.key()) <= 0 ? one : other;
  }

  private static boolean isAt(Row row, Row least) {
    return row.isPresent() && least.isPresent() && (row == least || row.key().equals(least.key()));
  }
}
