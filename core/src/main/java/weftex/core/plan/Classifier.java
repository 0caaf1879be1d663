package weftex.core.plan;

import java.io.IOException;
import java.util.List;
import java.util.Optional;
import java.util.SortedSet;
import java.util.TreeSet;
import weftex.core.change.Action;
import weftex.core.compare.Comparison;
import weftex.core.match.BaseEvidence;
import weftex.core.match.Matching;
import weftex.core.match.Sides;
import weftex.core.merge.ConflictKind;
import weftex.core.merge.InsideMerging;
import weftex.core.merge.RowMerger;
import weftex.core.model.ColumnRule;
import weftex.core.row.Table;
import weftex.core.row.Value;
import weftex.core.site.SiteMap;
import weftex.core.site.TableModel;

/** The merge table: what becomes of a row by what each of its three sides says. */
final class Classifier {
  private final Comparison comparison;
  private final SiteMap site;
  private final Matching matching;
  private final BaseEvidence evidence;
  private final RowMerger merger = new RowMerger(Value::equals);

  Classifier(Comparison comparison, SiteMap site, Matching matching, BaseEvidence evidence) {
    this.comparison = comparison;
    this.site = site;
    this.matching = matching;
    this.evidence = evidence;
  }

  /** On a worked-out base nothing is removed, and nothing doubtful is made, without a decision. */
  void doubt(Planned planned, Sides sides) throws IOException {
    Table table = comparison.tables().get(planned.table).table();
    List<Value> row =
        sides.inSource() ? sides.rawSource() : comparison.log().read(planned.at).base().values();
    Optional<BaseEvidence.Why> why =
        table.hasKey() ? evidence.of(table.name(), Table.pick(row, table.key())) : Optional.empty();
    BaseEvidence.Weight weight = why.map(BaseEvidence.Why::weight).orElse(null);
    if (weight == BaseEvidence.Weight.QUESTION
        || weight == BaseEvidence.Weight.EVIDENCE && planned.action == Action.REMOVE) {
      object(planned, ConflictKind.NO_BASE, new TreeSet<>(), why.get().words());
    } else {
      planned.evidence = why.map(BaseEvidence.Why::words).orElse("");
    }
  }

  /** What is to be made of a row; empty for nothing. */
  Optional<Planned> classified(int table, long at, Sides sides) throws IOException {
    boolean inTarget = sides.target().isPresent();
    if (!sides.inSource()) {
      return inTarget ? Optional.of(removal(table, at, sides)) : Optional.empty();
    }
    if (!inTarget) {
      if (matching.earlier().isWithheld(at)) {
        return Optional.empty();
      }
      Planned planned = new Planned(table, at, Action.ADD);
      if (matching.earlier().wasWithheld(at)) {
        object(
            planned,
            ConflictKind.EDITED_GONE,
            new TreeSet<>(),
            "somebody decided before that it is not added, and it was edited since");
      }
      if (matching.earlier().isGone(at) && !sides.base().isPresent()) {
        object(
            planned,
            ConflictKind.EDITED_GONE,
            new TreeSet<>(),
            "it was merged before, and removed on the other copy since");
      }
      if (sides.base().isPresent()) {
        return goneSince(table, at, sides, planned);
      }
      return Optional.of(planned);
    }
    Planned planned = new Planned(table, at, Action.UPDATE);
    RowMerger.Merged merged = merged(table, sides);
    askAboutClashes(planned, sides, merged);
    return merged.isNothing() ? Optional.empty() : Optional.of(planned);
  }

  /** What was on both copies, and is gone from the target: nothing, unless it was edited. */
  private Optional<Planned> goneSince(int table, long at, Sides sides, Planned planned)
      throws IOException {
    TableModel model = comparison.tables().get(table);
    // Numbers inside of what was merged before are the target's.
    boolean merged =
        matching.newcomers().at(at).isPresent() || matching.earlier().isMoved(table, sides.base());
    List<Value> now = merged ? sides.source() : sides.rawSource();
    if (model.meanTheSame(sides.base().values(), now)) {
      return Optional.empty();
    }
    boolean replaced = matching.earlier().isReplaced(at);
    boolean madeUp = comparison.isMadeUp(table, sides.rawSource());
    planned.object(
        new Planned.Objection(
            ConflictKind.EDITED_GONE,
            replaced || madeUp,
            new TreeSet<>(),
            replaced
                ? "it was edited, and removed on the other copy, where another row has its number now"
                : madeUp
                    ? "it was edited, and removed on the other copy; its personal data here are made up, so it can't be made again there"
                    : "it was edited, and removed on the other copy"));
    return Optional.of(planned);
  }

  /** Objects wherever both copies edited the same. */
  static void askAboutClashes(Planned planned, Sides sides, RowMerger.Merged merged) {
    if (!merged.clashing().isEmpty()) {
      boolean edited = sides.base().isPresent();
      object(
          planned,
          edited ? ConflictKind.BOTH_EDITED : ConflictKind.BOTH_ADDED,
          merged.clashing(),
          whatClashes(merged, edited));
    }
  }

  /** Merges a row that all three sides have. */
  RowMerger.Merged merged(int table, Sides sides) {
    return sides.merged(() -> merge(comparison.tables().get(table), sides));
  }

  private RowMerger.Merged merge(TableModel model, Sides sides) {
    List<Value> target = sides.target().values();
    // Without a base in the comparison nobody added anything: whole values are in question.
    InsideMerging inside = new InsideMerging(model, sides.rawSource());
    RowMerger.Merged merged =
        sides.base().isPresent()
            ? merger.merge(
                sides.base().values(), sides.source(), target, model.leftAlone(target), inside)
            : merger.mergeAdded(
                sides.source(),
                target,
                model.leftAlone(target),
                comparison.hasBase() ? inside : RowMerger.InsideMerge.NONE);
    // A newer time alone is no change.
    return merged.clashing().isEmpty()
            && merged.taken().keySet().stream()
                .allMatch(i -> model.handling().columns().get(i) == ColumnRule.NEWER)
        ? RowMerger.Merged.NOTHING
        : merged;
  }

  private static String whatClashes(RowMerger.Merged merged, boolean edited) {
    String what =
        merged.partly().keySet().containsAll(merged.clashing())
            ? "the same place inside a value"
            : "the same column";
    return edited ? "both copies edited " + what : "both copies added it, and differ in " + what;
  }

  private Planned removal(int table, long at, Sides sides) {
    Planned planned = new Planned(table, at, Action.REMOVE);
    TableModel model = comparison.tables().get(table);
    if (!model.meanTheSame(sides.base().values(), sides.target().values())) {
      object(
          planned,
          ConflictKind.GONE_EDITED,
          new TreeSet<>(),
          "it was removed, and edited on the other copy");
    } else if (site.judged(model.table().name()).isPresent()) {
      object(
          planned,
          ConflictKind.UNKNOWN_TABLE,
          new TreeSet<>(),
          "no model says what the table "
              + model.table().name()
              + " is, so nothing of it is removed without a decision");
    }
    return planned;
  }

  static void object(
      Planned planned, ConflictKind kind, SortedSet<Integer> columns, String reason) {
    planned.object(new Planned.Objection(kind, false, columns, reason));
  }
}
