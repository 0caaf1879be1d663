package weftex.core.compare;

import java.io.IOException;
import weftex.core.row.Row;
import weftex.core.row.RowStream;
import weftex.core.row.SortKey;

/**
 * Joins a table without a key as a multiset of whole rows: equal rows stand together, each side has
 * some number of them, and only numbers can differ. The source's change of the number is made on
 * the target as far as the target has not made it too.
 */
final class MultisetJoin {
  private final Comparison comparison;
  private final int table;

  MultisetJoin(Comparison comparison, int table) {
    this.comparison = comparison;
    this.table = table;
  }

  void run(RowStream bases, RowStream sources, RowStream targets) throws IOException {
    Pile base = new Pile(bases);
    Pile source = new Pile(sources);
    Pile target = new Pile(targets);
    while (base.row.isPresent() || source.row.isPresent() || target.row.isPresent()) {
      SortKey least = least(least(base, source), target).row.key();
      Row row = Row.ABSENT;
      long inBase = base.take(least);
      long inSource = source.take(least);
      long inTarget = target.take(least);
      for (Pile pile : new Pile[] {base, source, target}) {
        row = pile.taken.isPresent() ? pile.taken : row;
      }
      emit(row, comparison.hasBase() ? inBase : Math.min(inSource, inTarget), inSource, inTarget);
    }
  }

  private void emit(Row row, long inBase, long inSource, long inTarget) throws IOException {
    for (long i = 0; i < Math.max(inBase, Math.max(inSource, inTarget)); i++) {
      comparison.add(
          table,
          i < inBase ? row : Row.ABSENT,
          i < inSource ? row : Row.ABSENT,
          i < inTarget ? row : Row.ABSENT);
    }
  }

  private static Pile least(Pile one, Pile other) {
    if (!one.row.isPresent() || !other.row.isPresent()) {
      return one.row.isPresent() ? one : other;
    }
    return one.row.key().compareTo(other.row.key()) <= 0 ? one : other;
  }

  /** The equal rows at the head of a stream. */
  private static final class Pile {
    private final RowStream rows;
    private Row row;
    private Row taken = Row.ABSENT;

    Pile(RowStream rows) throws IOException {
      this.rows = rows;
      this.row = rows.next();
    }

    long take(SortKey key) throws IOException {
      long count = 0;
      taken = Row.ABSENT;
      while (row.isPresent() && row.key().equals(key)) {
        taken = row;
        row = rows.next();
        count++;
      }
      return count;
    }
  }
}
