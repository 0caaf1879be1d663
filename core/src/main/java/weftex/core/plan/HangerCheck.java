package weftex.core.plan;

import java.io.IOException;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.TreeMap;
import java.util.TreeSet;
import java.util.stream.Collectors;
import weftex.core.change.Action;
import weftex.core.change.Ties;
import weftex.core.compare.Comparison;
import weftex.core.compare.Difference;
import weftex.core.compare.TouchedRows;
import weftex.core.match.Matching;
import weftex.core.match.Sides;
import weftex.core.merge.ConflictKind;
import weftex.core.model.Role;
import weftex.core.reference.InsideReferences;
import weftex.core.reference.RowFinder;
import weftex.core.row.Row;
import weftex.core.row.Table;
import weftex.core.row.Value;
import weftex.core.site.Reference;
import weftex.core.site.SiteMap;
import weftex.core.site.TableModel;

/** Finds the rows that refer to a removed one. */
final class HangerCheck {
  /** How many rows that hang on a removed one are looked at singly. */
  private static final int HANGERS_LOOKED_AT = 1000;

  private final Planner planner;
  private final Comparison comparison;
  private final SiteMap site;
  private final Matching matching;
  private final RowFinder target;
  private final TouchedRows touched;
  private final InsideHangers inside;

  HangerCheck(
      Planner planner, Comparison comparison, SiteMap site, Matching matching, RowFinder target) {
    this.planner = planner;
    this.comparison = comparison;
    this.site = site;
    this.matching = matching;
    this.target = target;
    this.touched = new TouchedRows(comparison);
    this.inside = new InsideHangers(planner, comparison, matching, touched);
  }

  void check(Planned planned, Sides sides) throws IOException {
    checkHangers(planned, sides);
    checkInsideHangers(planned, sides);
  }

  /**
   * By a foreign key nothing may hang on a removed row; by a reference of the model only what is
   * new or changed on the target speaks against the removal, the rest is as it is on the source.
   * What the model calls a part of the row goes along if the row goes; anything else keeps it.
   */
  private void checkHangers(Planned planned, Sides sides) throws IOException {
    Table table = comparison.tables().get(planned.table).table();
    List<Value> row = sides.target().values();
    for (SiteMap.Incoming incoming : site.incoming(table.name())) {
      Reference reference = incoming.reference();
      List<Value> referred = Table.pick(row, reference.targetColumns());
      if (referred.stream().anyMatch(Value::isNull) || reference.isUnset(referred)) {
        continue;
      }
      Table from = incoming.from().table();
      boolean compared = matching.newcomers().positionOf(from.name()).isPresent();
      if (!compared && incoming.from().ownership().role() == Role.NOISE) {
        // Noise goes the way that the database sends it; a receipt remembers how it was.
        continue;
      }
      checkHangers(planned, incoming, referred);
    }
  }

  /**
   * Checks what hangs on a removed row by one reference.
   *
   * @param referred the values by which
   */
  private void checkHangers(Planned planned, SiteMap.Incoming incoming, List<Value> referred)
      throws IOException {
    Table from = incoming.from().table();
    Reference reference = incoming.reference();
    long staying = target.count(from, reference.columns(), referred);
    boolean newOrChanged = false;
    long following = 0;
    for (Row hanger :
        staying == 0
            ? List.<Row>of()
            : target.find(from, reference.columns(), referred, HANGERS_LOOKED_AT)) {
      Optional<Integer> position = matching.newcomers().positionOf(from.name());
      Optional<Planned> own =
          position
              .flatMap(i -> planner.ofTargetRow(i, hanger.key()))
              .filter(p -> claimed(p, planned, incoming.from(), reference));
      if (own.isPresent() && (own.get() == planned || letsGo(own.get(), reference, referred))) {
        if (own.get() != planned) {
          planned.need(own.get(), new Planned.Need(ConflictKind.GONE_IN_USE, List.of()));
        }
        staying--;
      } else if (position.isPresent()
          && incoming.from().parts().isBy(reference)
          && (incoming.from().ownership().role(hanger.values()) == Role.NOISE
              || matching.earlier().isDeclined(from, hanger.values()))) {
        // Nobody misses it, or somebody said so, and it would be a part of nothing.
        follow(planned, position.get(), hanger);
        staying--;
      } else if (position.isPresent()
          && incoming.from().ownership().role(hanger.values()) != Role.NOISE
          && touched.of(position.get()).contains(hanger.key())) {
        if (incoming.from().parts().isBy(reference)) {
          follow(planned, position.get(), hanger);
          following++;
          staying--;
        } else {
          newOrChanged = true;
        }
      }
    }
    note(planned, from, reference, staying, newOrChanged);
    noteFollowing(planned, from, following);
  }

  private void noteFollowing(Planned planned, Table from, long following) throws IOException {
    if (following > 0) {
      planned.object(
          new Planned.Objection(
              ConflictKind.GONE_IN_USE,
              false,
              new TreeSet<>(),
              rows(following, from)
                  + (following == 1 ? " that is" : " that are")
                  + " part of it came in or changed on the other copy, and would go along"));
    }
  }

  /**
   * Rows that came in or changed on the target and name the removed one inside of a value: a
   * question, unless their own change lets it go, which is needed then.
   */
  private void checkInsideHangers(Planned planned, Sides sides) throws IOException {
    TableModel model = comparison.tables().get(planned.table);
    Map<String, Integer> staying = new TreeMap<>();
    for (InsideHangers.Hanger hanger : inside.of(model, sides.target())) {
      Optional<Planned> own =
          planner.ofTargetRow(hanger.table(), hanger.key()).filter(p -> isMade(p, planned));
      if (own.isPresent() && own.get() == planned) {
        continue;
      }
      if (own.isPresent() && letsGoInside(own.get(), model, sides.target())) {
        if (!planned.needs().containsKey(own.get())) {
          planned.need(own.get(), new Planned.Need(ConflictKind.GONE_IN_USE, List.of(), true));
        }
      } else {
        String table = comparison.tables().get(hanger.table()).table().name();
        staying.merge(table, 1, Integer::sum);
      }
    }
    boolean known =
        planned.objections().stream()
            .anyMatch(objection -> objection.kind() == ConflictKind.GONE_IN_USE);
    if (!staying.isEmpty() && !known) {
      String rows =
          staying.entrySet().stream()
              .map(entry -> rows(entry.getValue(), site.table(entry.getKey()).table()))
              .collect(Collectors.joining(" and "));
      boolean one = staying.values().stream().mapToInt(Integer::intValue).sum() == 1;
      planned.object(
          new Planned.Objection(
              ConflictKind.GONE_IN_USE,
              false,
              new TreeSet<>(),
              rows
                  + (one
                      ? " that came in or changed on the other copy names"
                      : " that came in or changed on the other copy name")
                  + " it inside, and would lose it"));
    }
  }

  /** Whether a change is made, or goes with the removed row. */
  private static boolean isMade(Planned own, Planned removed) {
    return own == removed || own.chosen || own.with.filter(removed::equals).isPresent();
  }

  private boolean letsGoInside(Planned other, TableModel removed, Row row) throws IOException {
    Table table = removed.table();
    InsideReferences.Found reference =
        new InsideReferences.Found(table.name(), row.values().get(table.number()));
    if (other.action == Action.REMOVE) {
      return true;
    }
    Sides sides = planner.sides(other);
    return !inside
        .ofTarget(other.table, planner.outcome(other, sides), sides.target().values())
        .contains(reference);
  }

  /** A part that the source knows nothing of is removed with its owner, as a change of its own. */
  private void follow(Planned owner, int table, Row part) throws IOException {
    Optional<Planned> known = planner.ofTargetRow(table, part.key());
    Planned follower;
    if (known.isPresent()) {
      follower = known.get();
    } else {
      long at = comparison.log().append(new Difference(table, part, Row.ABSENT, part));
      follower = new Planned(table, at, Action.REMOVE);
      planner.enter(follower, planner.sides(follower));
    }
    if (follower.action == Action.REMOVE) {
      follower.with = Optional.of(owner);
      owner.need(follower, new Planned.Need(ConflictKind.GONE_IN_USE, List.of()));
    }
  }

  private static String rows(long count, Table of) {
    return count + (count == 1 ? " row of " : " rows of ") + of.name();
  }

  /** Whether a change of a hanging row is made, or is made if the row it hangs on goes. */
  private static boolean claimed(Planned own, Planned owner, TableModel from, Reference reference) {
    if (own != owner && own.with.isEmpty() && goesWith(own, from, reference)) {
      own.with = Optional.of(owner);
    }
    boolean comesAlong =
        own.whose() != Role.CONTENT && own.with.isPresent() && own.objections().isEmpty();
    return own.chosen || comesAlong;
  }

  private void note(
      Planned planned, Table from, Reference reference, long staying, boolean newOrChanged) {
    Table table = comparison.tables().get(planned.table).table();
    Ties.Hanger place =
        new Ties.Hanger(
            from.name(), from.names(reference.columns()), table.names(reference.targetColumns()));
    planned.hang(place, staying);
    if (staying > 0 && (reference.enforced() || newOrChanged)) {
      planned.object(
          new Planned.Objection(
              ConflictKind.GONE_IN_USE,
              true,
              new TreeSet<>(),
              rows(staying, from)
                  + (staying == 1 ? " refers" : " refer")
                  + " to it and would lose it"));
    }
  }

  private boolean letsGo(Planned other, Reference reference, List<Value> referred)
      throws IOException {
    return other.action == Action.REMOVE
        || !Table.pick(planner.outcome(other, planner.sides(other)), reference.columns())
            .equals(referred);
  }

  /**
   * Whether a row was removed because of another: it is a part of it, or nobody meant it by itself,
   * such as the comments on a removed page.
   */
  private static boolean goesWith(Planned own, TableModel from, Reference reference) {
    return own.action == Action.REMOVE
        && (own.whose() != Role.CONTENT || from.parts().isBy(reference));
  }
}
