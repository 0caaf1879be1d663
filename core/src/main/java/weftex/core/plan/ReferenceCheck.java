package weftex.core.plan;

import java.io.IOException;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeMap;
import java.util.TreeSet;
import java.util.stream.Collectors;
import weftex.core.change.Action;
import weftex.core.change.Ties;
import weftex.core.compare.Comparison;
import weftex.core.compare.Difference;
import weftex.core.merge.ConflictKind;
import weftex.core.model.Role;
import weftex.core.reference.InsideReferences;
import weftex.core.reference.NumberPlaces;
import weftex.core.reference.RowFinder;
import weftex.core.row.Row;
import weftex.core.row.Table;
import weftex.core.row.Value;
import weftex.core.site.Reference;
import weftex.core.site.SiteMap;
import weftex.core.site.TableModel;

/** Finds the rows that a change refers to, and the rows that refer to a removed one. */
final class ReferenceCheck {
  /** How many rows that hang on a removed one are looked at singly. */
  private static final int HANGERS_LOOKED_AT = 1000;

  private final Planner planner;
  private final Comparison comparison;
  private final SiteMap site;
  private final Matching matching;
  private final RowFinder source;
  private final RowFinder target;
  private final TouchedRows touched;
  private final InsideHangers inside;
  private final Map<List<Object>, Optional<Planned>> offers = new HashMap<>();

  ReferenceCheck(
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
    this.touched = new TouchedRows(comparison);
    this.inside = new InsideHangers(comparison, matching, touched);
  }

  void check(Planned planned, Sides sides) throws IOException {
    if (planned.action == Action.REMOVE) {
      checkHangers(planned, sides);
      checkInsideHangers(planned, sides);
    } else {
      checkParents(planned, sides);
    }
  }

  private void checkParents(Planned planned, Sides sides) throws IOException {
    TableModel model = comparison.tables().get(planned.table);
    List<Value> outcome = planner.outcome(planned, sides);
    for (Reference reference : model.references()) {
      List<Value> referred = Table.pick(outcome, reference.columns());
      boolean moved =
          planned.action == Action.ADD
              || !referred.equals(Table.pick(sides.target().values(), reference.columns()));
      if (moved && !reference.isUnset(referred) && site.find(reference.target()).isPresent()) {
        List<Value> raw = Table.pick(sides.rawSource(), reference.columns());
        checkParent(planned, model, reference, raw, referred);
      }
    }
    for (Map.Entry<Integer, NumberPlaces> column :
        matching.inside(planned.table, sides.rawSource()).entrySet()) {
      int at = column.getKey();
      boolean moved =
          planned.action == Action.ADD || !outcome.get(at).equals(sides.target().values().get(at));
      if (moved) {
        checkInside(planned, model, at, column.getValue(), sides);
      }
    }
  }

  /**
   * Rows that stand inside a value are needed as those that a column refers to, if the change
   * brings them: what an edit found there already is no affair of its.
   */
  private void checkInside(
      Planned planned, TableModel model, int column, NumberPlaces places, Sides sides)
      throws IOException {
    Set<InsideReferences.Found> before = new HashSet<>();
    if (planned.action == Action.UPDATE) {
      Row known = sides.base().isPresent() ? sides.base() : sides.target();
      before.addAll(InsideReferences.references(places, known.values().get(column)));
    }
    for (InsideReferences.Found found :
        InsideReferences.references(places, sides.rawSource().get(column))) {
      Optional<Integer> table = matching.newcomers().positionOf(found.table());
      if (table.isPresent() && !before.contains(found)) {
        Table parent = comparison.tables().get(table.get()).table();
        Reference reference =
            new Reference(List.of(column), parent.name(), List.of(parent.number()), "", false);
        checkParent(planned, model, reference, List.of(found.number()), List.of(found.number()));
      }
    }
  }

  /**
   * @param raw the values referred to, in the source's terms
   * @param referred the same in the target's terms, as far as that is known
   */
  private void checkParent(
      Planned planned, TableModel model, Reference reference, List<Value> raw, List<Value> referred)
      throws IOException {
    if (isItself(planned, model, reference, raw)) {
      return;
    }
    Optional<Newcomer> newcomer =
        matching.newcomers().find(reference.target(), reference.targetColumns(), raw);
    Optional<Planned> provider = newcomer.flatMap(added -> planner.at(added.at));
    boolean added = provider.isPresent() && provider.get().action == Action.ADD;
    if (added && provider.get() != planned) {
      if (isPartBy(model, reference)) {
        planned.with = provider;
      }
      planned.needs.put(
          provider.get(), new Planned.Need(ConflictKind.MISSING_PARENT, reference.columns()));
      return;
    }
    boolean there =
        newcomer.isPresent() && !(matching.fates().of(newcomer.get()) instanceof Newcomer.Gone);
    boolean known = there || referred.stream().anyMatch(Value.Fresh.class::isInstance);
    Table parent = site.table(reference.target()).table();
    boolean lost = newcomer.isPresent() && !there;
    if (known || !lost && target.count(parent, reference.targetColumns(), referred) > 0) {
      return;
    }
    if (lost) {
      planned.objections.add(
          new Planned.Objection(
              ConflictKind.MISSING_PARENT,
              true,
              new TreeSet<>(reference.columns()),
              String.join(", ", model.table().names(reference.columns()))
                  + " refers to a row of "
                  + parent.name()
                  + " that was merged before and that the receiving copy has removed since"));
      return;
    }
    Optional<Planned> offer = offer(reference, parent, raw);
    if (offer.isPresent()) {
      planned.needs.put(
          offer.get(), new Planned.Need(ConflictKind.MISSING_PARENT, reference.columns()));
    } else if (reference.enforced()) {
      String values = String.join(", ", referred.stream().map(Value::display).toList());
      planned.objections.add(
          new Planned.Objection(
              ConflictKind.MISSING_PARENT,
              true,
              new TreeSet<>(reference.columns()),
              String.join(", ", model.table().names(reference.columns()))
                  + " refers to row "
                  + values
                  + " of "
                  + parent.name()
                  + (matching.newcomers().positionOf(parent.name()).isPresent()
                      ? ", which is on neither copy"
                      : ", which the receiving copy lacks, and whose table is not compared")));
    }
  }

  /** Whether a row that is written whole refers to itself: it is there as soon as it is written. */
  private boolean isItself(Planned planned, TableModel model, Reference reference, List<Value> raw)
      throws IOException {
    return planned.action == Action.ADD
        && reference.target().equals(model.table().name())
        && Table.pick(planner.sides(planned).rawSource(), reference.targetColumns()).equals(raw);
  }

  private static boolean isPartBy(TableModel model, Reference reference) {
    return model.parts().of().map(up -> up.columns().equals(reference.columns())).orElse(false);
  }

  /**
   * Whether a row was removed because of another: it is a part of it, or nobody meant it by itself,
   * such as the comments on a removed page.
   */
  private static boolean goesWith(Planned own, TableModel from, Reference reference) {
    return own.action == Action.REMOVE
        && (own.whose() != Role.CONTENT || isPartBy(from, reference));
  }

  /**
   * The row referred to is on the source but was removed on the target: it can be brought along. A
   * row that the source lacks too refers to nothing there either, which is the source's own affair.
   */
  private Optional<Planned> offer(Reference reference, Table parent, List<Value> raw)
      throws IOException {
    List<Object> place = List.of(parent.name(), reference.targetColumns(), raw);
    Optional<Planned> known = offers.get(place);
    if (known != null) {
      return known;
    }
    Optional<Integer> table = matching.newcomers().positionOf(parent.name());
    List<Row> found =
        table.isEmpty() ? List.of() : source.find(parent, reference.targetColumns(), raw, 1);
    Optional<Planned> offer = Optional.empty();
    if (!found.isEmpty()) {
      Row row = found.get(0);
      // The source may have edited the row, too, so that there is a change of it already.
      offer = planner.ofSourceRow(table.get(), row.key());
      if (offer.isEmpty()) {
        Row mapped = comparison.mapped(table.get(), row);
        long at = comparison.log().append(new Difference(table.get(), mapped, mapped, Row.ABSENT));
        Planned planned = new Planned(table.get(), at, Action.ADD);
        planner.enter(planned, planner.sides(planned));
        offer = Optional.of(planned);
      }
    }
    offers.put(place, offer);
    return offer;
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
            planned.needs.put(own.get(), new Planned.Need(ConflictKind.GONE_IN_USE, List.of()));
          }
          staying--;
        } else if (position.isPresent()
            && isPartBy(incoming.from(), reference)
            && (incoming.from().ownership().role(hanger.values()) == Role.NOISE
                || matching.isDeclined(from, hanger.values()))) {
          // Nobody misses it, or somebody said so, and it would be a part of nothing.
          follow(planned, position.get(), hanger);
          staying--;
        } else if (position.isPresent()
            && incoming.from().ownership().role(hanger.values()) != Role.NOISE
            && touched.of(position.get()).contains(hanger.key())) {
          if (isPartBy(incoming.from(), reference)) {
            follow(planned, position.get(), hanger);
            following++;
            staying--;
          } else {
            newOrChanged = true;
          }
        }
      }
      note(planned, table, from, reference, staying, newOrChanged);
      if (following > 0) {
        planned.objections.add(
            new Planned.Objection(
                ConflictKind.GONE_IN_USE,
                false,
                new TreeSet<>(),
                rows(following, from)
                    + (following == 1 ? " that is" : " that are")
                    + " part of it came in or changed on the other copy, and would go along"));
      }
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
        planned.needs.putIfAbsent(
            own.get(), new Planned.Need(ConflictKind.GONE_IN_USE, List.of(), true));
      } else {
        String table = comparison.tables().get(hanger.table()).table().name();
        staying.merge(table, 1, Integer::sum);
      }
    }
    boolean known =
        planned.objections.stream()
            .anyMatch(objection -> objection.kind() == ConflictKind.GONE_IN_USE);
    if (!staying.isEmpty() && !known) {
      String rows =
          staying.entrySet().stream()
              .map(entry -> rows(entry.getValue(), site.table(entry.getKey()).table()))
              .collect(Collectors.joining(" and "));
      boolean one = staying.values().stream().mapToInt(Integer::intValue).sum() == 1;
      planned.objections.add(
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
      owner.needs.put(follower, new Planned.Need(ConflictKind.GONE_IN_USE, List.of()));
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
        own.whose() != Role.CONTENT && own.with.isPresent() && own.objections.isEmpty();
    return own.chosen || comesAlong;
  }

  private void note(
      Planned planned,
      Table table,
      Table from,
      Reference reference,
      long staying,
      boolean newOrChanged) {
    Ties.Hanger place =
        new Ties.Hanger(
            from.name(), from.names(reference.columns()), table.names(reference.targetColumns()));
    planned.hangers.merge(place, staying, Math::max);
    if (staying > 0 && (reference.enforced() || newOrChanged)) {
      planned.objections.add(
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
}
