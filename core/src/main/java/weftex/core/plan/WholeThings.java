package weftex.core.plan;

import java.io.IOException;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.TreeSet;
import weftex.core.change.Action;
import weftex.core.compare.Comparison;
import weftex.core.compare.Difference;
import weftex.core.match.Matching;
import weftex.core.match.Newcomer;
import weftex.core.match.Sides;
import weftex.core.merge.ConflictKind;
import weftex.core.reference.RowFinder;
import weftex.core.row.Row;
import weftex.core.row.SortKey;
import weftex.core.row.Table;
import weftex.core.row.Value;
import weftex.core.site.Reference;
import weftex.core.site.SiteMap;
import weftex.core.site.TableModel;

/**
 * Sees to it that a thing goes and comes back with all its parts, and that there is one question
 * about it: what was done to a part on one copy was done to the thing that the other copy removed.
 */
final class WholeThings {
  /** More parts than that of one thing do not come back with it. */
  private static final int PARTS = 10_000;

  private final Planner planner;
  private final Comparison comparison;
  private final SiteMap site;
  private final Matching matching;
  private final RowFinder source;
  private final RowFinder target;

  /** Where the log has the rows that the source added, by table and place. */
  private final Map<Integer, Map<SortKey, Newcomer>> added = new HashMap<>();

  WholeThings(
      Planner planner,
      Comparison comparison,
      SiteMap site,
      Matching matching,
      RowFinder source,
      RowFinder target) {
    this.planner = planner;
    this.comparison = comparison;
    this.site = site;
    this.matching = matching;
    this.source = source;
    this.target = target;
  }

  /** Looks at a row that would be added: it may be, or be a part of, what the target removed. */
  void look(Planned planned, Sides sides) throws IOException {
    if (planned.action != Action.ADD || !comparison.hasBase()) {
      return;
    }
    TableModel model = comparison.tables().get(planned.table);
    Optional<Planned> owner =
        model.parts().of().isPresent()
            ? removedOwner(model.parts().of().get(), sides)
            : Optional.empty();
    if (owner.isPresent()) {
      goWith(planned, owner.get(), model.parts().of().get());
      owner.get().chosen |= planned.chosen;
    }
    if (sides.base().isPresent() || planner.isGone(planned)) {
      bringParts(planned, model, sides.rawSource());
    }
  }

  /** What is brought along for another thing's sake comes with all that belongs to it. */
  void bringWhole(Planned needed, Sides sides) throws IOException {
    if (needed.action == Action.ADD && comparison.hasBase()) {
      bringParts(needed, comparison.tables().get(needed.table), sides.rawSource());
    }
  }

  private static void goWith(Planned part, Planned owner, Reference reference) {
    part.with = Optional.of(owner);
    part.need(owner, new Planned.Need(ConflictKind.MISSING_PARENT, reference.columns()));
    part.withdraw(o -> o.kind() == ConflictKind.EDITED_GONE && !o.binding());
  }

  /** The change that brings back the thing that a row of the source is a part of. */
  private Optional<Planned> removedOwner(Reference reference, Sides sides) throws IOException {
    List<Value> raw = Table.pick(sides.rawSource(), reference.columns());
    Optional<Integer> table = matching.newcomers().positionOf(reference.target());
    if (table.isEmpty() || reference.isUnset(raw)) {
      return Optional.empty();
    }
    Table parent = comparison.tables().get(table.get()).table();
    List<Row> found = source.find(parent, reference.targetColumns(), raw, 1);
    return found.isEmpty() ? Optional.empty() : comingBack(table.get(), found.get(0));
  }

  /** The change that brings a row of the source back; empty if the target has it or never had. */
  private Optional<Planned> comingBack(int table, Row row) throws IOException {
    Newcomer newcomer = added(table).get(row.key());
    if (newcomer != null && !(matching.fates().of(newcomer) instanceof Newcomer.Gone)) {
      return Optional.empty();
    }
    Optional<Planned> known =
        newcomer == null ? planner.ofSourceRow(table, row.key()) : planner.at(newcomer.at);
    if (known.isPresent() || newcomer == null && isOnTarget(table, row)) {
      return known;
    }
    Planned planned = enter(table, newcomer, row);
    planned.object(
        new Planned.Objection(
            ConflictKind.EDITED_GONE,
            newcomer != null && matching.earlier().isReplaced(newcomer.at),
            new TreeSet<>(),
            "a part of it was edited, and it was removed on the other copy"));
    return Optional.of(planned);
  }

  private boolean isOnTarget(int table, Row row) throws IOException {
    Table shape = comparison.tables().get(table).table();
    return !shape.hasKey()
        || target.count(shape, shape.key(), Table.pick(row.values(), shape.key())) > 0;
  }

  private Planned enter(int table, Newcomer newcomer, Row row) throws IOException {
    long at;
    if (newcomer == null) {
      Row mapped = comparison.mapped(table, row);
      at = comparison.log().append(new Difference(table, mapped, mapped, Row.ABSENT));
    } else {
      at = newcomer.at;
    }
    Planned planned = new Planned(table, at, Action.ADD);
    planner.enter(planned, planner.sides(planned));
    return planned;
  }

  /** All that the source has of a thing comes back with it. */
  private void bringParts(Planned owner, TableModel model, List<Value> raw) throws IOException {
    for (SiteMap.Incoming incoming : site.incoming(model.table().name())) {
      TableModel from = incoming.from();
      Reference reference = incoming.reference();
      Optional<Integer> table = matching.newcomers().positionOf(from.table().name());
      boolean parts =
          from.parts().of().map(up -> up.columns().equals(reference.columns())).orElse(false)
              && from.table().hasKey();
      if (table.isEmpty() || !parts) {
        continue;
      }
      List<Value> referred = Table.pick(raw, reference.targetColumns());
      for (Row row : source.find(from.table(), reference.columns(), referred, PARTS)) {
        // The details of an account are as much live's own as the account.
        if (from.ownership().roleOfKnown(row.values()) == model.ownership().roleOfKnown(raw)
            && !from.stays(row.values())) {
          part(table.get(), row, owner)
              .ifPresent(
                  part -> {
                    goWith(part, owner, reference);
                    part.alongWith = part.chosen ? part.alongWith : owner.alongWith;
                    // Of what is only offered the parts are left out without a question, too.
                    part.chosen = true;
                  });
        }
      }
    }
  }

  private Optional<Planned> part(int table, Row row, Planned owner) throws IOException {
    Newcomer newcomer = added(table).get(row.key());
    if (newcomer != null && matching.fates().of(newcomer) instanceof Newcomer.Matched) {
      return Optional.empty();
    }
    Optional<Planned> known =
        newcomer == null ? planner.ofSourceRow(table, row.key()) : planner.at(newcomer.at);
    return known.isPresent()
        ? known.filter(part -> part != owner)
        : newcomer == null && isOnTarget(table, row)
            ? Optional.empty()
            : Optional.of(enter(table, newcomer, row));
  }

  private Map<SortKey, Newcomer> added(int table) throws IOException {
    Map<SortKey, Newcomer> known = added.get(table);
    if (known == null) {
      known = new HashMap<>();
      for (Newcomer newcomer : matching.newcomers().all()) {
        if (newcomer.table == table) {
          known.put(comparison.log().read(newcomer.at).source().key(), newcomer);
        }
      }
      added.put(table, known);
    }
    return known;
  }

  /** What speaks against the removal of a part speaks against that of the thing. */
  static void askAboutWhole(List<Planned> all) {
    for (Planned part : all) {
      Planned whole = part;
      for (int step = 0; step < Owners.STEPS && isRemovedWith(whole); step++) {
        whole = whole.with.get();
      }
      if (whole != part && part.isWritten()) {
        boolean asked =
            whole.objections().stream().anyMatch(o -> o.kind() == ConflictKind.GONE_EDITED);
        for (Planned.Objection objection : part.objections()) {
          if (objection.binding() || !asked) {
            whole.object(
                new Planned.Objection(
                    objection.kind(),
                    objection.binding(),
                    new TreeSet<>(),
                    "of a part of it: " + objection.reason()));
            asked = true;
          }
        }
        part.withdraw(objection -> true);
      }
    }
  }

  private static boolean isRemovedWith(Planned part) {
    return part.action == Action.REMOVE
        && part.with.isPresent()
        && part.with.get().action == Action.REMOVE
        && part.with.get().isWritten();
  }
}
