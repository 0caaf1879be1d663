package weftex.core.compare;

import java.io.IOException;
import java.util.HashSet;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.function.LongConsumer;
import java.util.stream.LongStream;
import weftex.core.row.Row;
import weftex.core.row.RowStream;
import weftex.core.row.SortKey;
import weftex.core.row.Table;
import weftex.core.row.Value;
import weftex.core.site.TableModel;

/**
 * What differs between base, source and target, table by table: a tally of each table, and the
 * positions of the differing rows in a log. Memory grows by eight bytes a differing row.
 */
public final class Comparison {
  private static final long NOWHERE = -1;

  private final List<TableModel> tables;
  private final DifferenceLog log;
  private final Tally[] tallies;
  private final Positions[] bySource;
  private final Positions[] byTargetOnly;
  private final Set<Long> recounted = new HashSet<>();
  private final boolean hasBase;
  private final RowMapping mapping;
  private final BaseMoves moves;

  private Pairs pairs = Pairs.BY_KEY;

  /** How many keys a range of the table at hand spans, and which had a difference in them. */
  private long width;

  private final Set<Long> differing = new HashSet<>();

  /** The rows of the table at hand that merges wrote. */
  private final Set<SortKey> moved = new HashSet<>();

  private Comparison(
      List<TableModel> tables,
      DifferenceLog log,
      boolean hasBase,
      RowMapping mapping,
      BaseMoves moves) {
    this.mapping = mapping;
    this.moves = moves;
    this.tables = List.copyOf(tables);
    this.log = log;
    this.hasBase = hasBase;
    this.tallies = new Tally[tables.size()];
    this.bySource = new Positions[tables.size()];
    this.byTargetOnly = new Positions[tables.size()];
    for (int i = 0; i < tallies.length; i++) {
      tallies[i] = new Tally();
      bySource[i] = new Positions();
      byTargetOnly[i] = new Positions();
    }
  }

  /** Which rows of one key are taken for one where no base says it. */
  public enum Pairs {
    /** All. */
    BY_KEY,
    /** Numbered rows only if they may be one thing; else each copy has one of its own. */
    BY_IDENTITY
  }

  /**
   * What is compared without a base.
   *
   * @param mapping puts the source's rows into the target's terms
   * @param pairs which rows of one key are taken for one
   */
  public record TwoSides(Side source, Side target, RowMapping mapping, Pairs pairs) {}

  /**
   * The three sides.
   *
   * @param base what both copies once were
   * @param baseMapping puts the base's rows into the target's terms
   * @param sourceMapping does the same to the source's rows
   * @param moves what became of the base since
   * @param known which ranges say the same on both copies
   */
  public record Sides(
      Side base,
      Side source,
      Side target,
      RowMapping baseMapping,
      RowMapping sourceMapping,
      BaseMoves moves,
      KnownRanges known) {

    /** Three sides in the same terms. */
    public Sides(Side base, Side source, Side target) {
      this(
          base, source, target, RowMapping.NONE, RowMapping.NONE, BaseMoves.NONE, KnownRanges.NONE);
    }
  }

  /**
   * Compares every table. Where all sides can tell by digests which ranges of keys are alike, only
   * the others are read.
   *
   * @param log where differing rows go
   * @param rows is told, now and then, how many rows are compared, or need not be
   * @throws IOException if a side can't be read
   */
  public static Comparison threeWay(
      List<TableModel> tables, Sides sides, DifferenceLog log, LongConsumer rows)
      throws IOException {
    Comparison comparison = new Comparison(tables, log, true, sides.sourceMapping(), sides.moves());
    long passed = 0;
    for (int i = 0; i < tables.size(); i++) {
      Table table = tables.get(i).table();
      Optional<Settlement> settled = Settlement.of(table, sides);
      long before = passed + settled.map(Settlement::rows).orElse(0L);
      passed = before;
      settled.ifPresent(comparison.tallies[i]::settle);
      comparison.differing.clear();
      comparison.width = settled.map(Settlement::width).orElse(0L);
      try (RowStream base =
              comparison.moved(
                  i, open(MappedSide.of(sides.base(), i, sides.baseMapping()), table, settled));
          RowStream source = open(sides.source(), table, settled);
          RowStream target = open(sides.target(), table, settled)) {
        if (table.hasKey()) {
          passed +=
              new KeyJoin(comparison, i)
                  .run(base, source, target, seen -> rows.accept(before + seen));
        } else {
          new MultisetJoin(comparison, i)
              .run(base, mapped(source, i, sides.sourceMapping()), target);
        }
      }
      if (settled.isPresent() && !comparison.differing.contains(NOWHERE)) {
        settled.get().tell(table, comparison.differing, sides.known());
      }
    }
    return comparison;
  }

  /** The base's rows as merges left them. */
  private RowStream moved(int table, RowStream rows) {
    moved.clear();
    if (!moves.isMoved(table)) {
      return rows;
    }
    return new RowStream() {
      @Override
      public Row next() throws IOException {
        Row row = rows.next();
        while (row.isPresent()) {
          BaseMoves.Moved now = moves.moved(table, row);
          if (now.isInTwoTerms()) {
            moved.add(row.key());
          }
          if (now.row().isPresent()) {
            return now.row();
          }
          row = rows.next();
        }
        return row;
      }

      @Override
      public void close() throws IOException {
        rows.close();
      }
    };
  }

  private static RowStream open(Side side, Table table, Optional<Settlement> settled)
      throws IOException {
    if (settled.isEmpty() || settled.get().readsAll()) {
      return side.open(table);
    }
    return settled.get().open().isEmpty()
        ? RowStream.EMPTY
        : ((RangedSide) side).open(table, settled.get().open());
  }

  /**
   * Compares without a base: the target stands for it, so whatever differs looks like a change of
   * the source. Rows that only the target has are its own, since nobody can say that the source
   * removed them.
   */
  public static Comparison twoWay(
      List<TableModel> tables, TwoSides sides, DifferenceLog log, LongConsumer rows)
      throws IOException {
    Comparison comparison = new Comparison(tables, log, false, sides.mapping(), BaseMoves.NONE);
    comparison.pairs = sides.pairs();
    long passed = 0;
    for (int i = 0; i < tables.size(); i++) {
      Table table = tables.get(i).table();
      try (RowStream from = sides.source().open(table);
          RowStream into = sides.target().open(table)) {
        if (table.hasKey()) {
          long before = passed;
          passed +=
              new KeyJoin(comparison, i)
                  .run(RowStream.EMPTY, from, into, seen -> rows.accept(before + seen));
        } else {
          new MultisetJoin(comparison, i)
              .run(RowStream.EMPTY, mapped(from, i, sides.mapping()), into);
        }
      }
    }
    return comparison;
  }

  public List<TableModel> tables() {
    return tables;
  }

  Pairs pairs() {
    return pairs;
  }

  public boolean hasBase() {
    return hasBase;
  }

  public Tally tally(int table) {
    return tallies[table];
  }

  /** A row of the source in the terms of the target, as far as addresses go. */
  public Row mapped(int table, Row raw) throws IOException {
    return mapping.map(table, raw);
  }

  /** Whether personal data in a row of the source are made up there. */
  public boolean isMadeUp(int table, List<Value> row) {
    return mapping.isMadeUp(table, row);
  }

  public DifferenceLog log() {
    return log;
  }

  /** Positions of the rows of a table that the source changed, in key order. */
  public LongStream bySource(int table) {
    return bySource[table].stream();
  }

  /** Positions of the rows of a table that only the target changed, in key order. */
  public LongStream byTargetOnly(int table) {
    return byTargetOnly[table].stream();
  }

  private static RowStream mapped(RowStream rows, int table, RowMapping mapping)
      throws IOException {
    return mapping == RowMapping.NONE ? rows : MappedSide.mapped(rows, table, mapping);
  }

  /** Takes in a row whose source is in its own terms. */
  void addRaw(int table, Row recorded, Row raw, Row target) throws IOException {
    Row base = recorded;
    boolean maps = raw.isPresent() && (isInTwoTerms(base) || !raw.sameValues(base));
    Row source = maps ? mapping.map(table, raw) : raw;
    if (maps && base.isPresent() && !source.sameValues(base)) {
      base = new Spellings(mapping, table, base).meant(source);
    }
    // Mapped, the source's own spelling is that of the target only where this says so.
    if (target.isPresent() && (maps && isInTwoTerms(base) || !target.sameValues(base))) {
      Spellings ofTarget = new Spellings(mapping, table, target);
      boolean unchanged = base.isPresent() && source.sameValues(base);
      base = ofTarget.base(base);
      // A base that is put otherwise is no edit of a source that stayed as it was.
      source = unchanged ? base : ofTarget.spelled(source);
    }
    if (raw.isPresent() && !source.sameValues(base) && !source.sameValues(target)) {
      mapping.moves(table, raw);
    }
    add(table, base, source, target);
  }

  /**
   * Values in the target's own spelling: where it still has the source's address in a value, or
   * writes its own otherwise than the source's becomes, that is no edit of its.
   *
   * @param values of a row in the target's terms
   */
  public List<Value> spelled(int table, List<Value> values, Row target) {
    Spellings spellings = new Spellings(mapping, table, target);
    return spellings.isOne() ? values : spellings.spelled(values);
  }

  /**
   * A base in the target's own spelling: that the target put its own address where the base has the
   * source's is no edit of its either.
   */
  public Row baseSpelled(int table, Row base, Row target) {
    return target.isPresent() ? new Spellings(mapping, table, target).base(base) : base;
  }

  /**
   * Takes in a row that the source removed, though nobody saw it: the base does not have it, since
   * it was made by a merge.
   *
   * @param base as it was merged
   */
  public void removed(int table, Row base, Row target) throws IOException {
    Difference difference = new Difference(table, base, Row.ABSENT, target);
    tallies[table].recount(difference);
    bySource[table].add(log.append(difference));
  }

  /**
   * Takes in a row that both copies removed, though nobody saw it: the base does not have it, since
   * it was made by a merge.
   *
   * @param base as it was merged
   */
  public void gone(int table, Row base) throws IOException {
    bySource[table].add(log.append(new Difference(table, base, Row.ABSENT, Row.ABSENT)));
  }

  /**
   * Counts a row anew that an earlier merge wrote.
   *
   * @param at where the log has it
   * @param now the row as it was merged, and as it is on both sides in the target's terms
   */
  public void recount(long at, Difference now) throws IOException {
    if (!recounted.add(at)) {
      return;
    }
    Difference was = log.read(at);
    if (was.base().isPresent()) {
      tallies[now.table()].recount(was, now);
    } else {
      tallies[now.table()].recount(now);
    }
  }

  /**
   * Whether a merge wrote a row of the base: its cells may be in the terms of either copy, and the
   * same number may mean another row there.
   */
  private boolean isInTwoTerms(Row base) {
    return base.isPresent() && moved.contains(base.key());
  }

  /** Takes in a row whose sides are all in the target's terms. */
  void add(int table, Row base, Row source, Row target) throws IOException {
    boolean sourceSame = source.sameValues(base);
    boolean targetSame = target.sameValues(base);
    if (sourceSame && targetSame && !isInTwoTerms(base)) {
      tallies[table].same();
      return;
    }
    if (width > 0) {
      Row any = base.isPresent() ? base : source.isPresent() ? source : target;
      long number = SortKey.toWhole(any.key());
      // Of a number that is none of a range's nobody can say which range has it.
      differing.add(number < 0 ? NOWHERE : number / width);
    }
    Difference difference = new Difference(table, base, source, target);
    tallies[table].count(difference);
    if (!sourceSame || isInTwoTerms(base)) {
      bySource[table].add(log.append(difference));
    } else {
      byTargetOnly[table].add(log.append(difference));
    }
  }
}
