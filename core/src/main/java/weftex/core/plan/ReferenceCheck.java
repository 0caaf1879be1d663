package weftex.core.plan;

import java.io.IOException;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeSet;
import weftex.core.change.Action;
import weftex.core.compare.Comparison;
import weftex.core.compare.Difference;
import weftex.core.match.Matching;
import weftex.core.match.Newcomer;
import weftex.core.match.Sides;
import weftex.core.merge.ConflictKind;
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
  private final Planner planner;
  private final Comparison comparison;
  private final SiteMap site;
  private final Matching matching;
  private final RowFinder source;
  private final RowFinder target;
  private final HangerCheck hangers;
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
    this.hangers = new HangerCheck(planner, comparison, site, matching, target);
  }

  void check(Planned planned, Sides sides) throws IOException {
    if (planned.action == Action.REMOVE) {
      hangers.check(planned, sides);
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
      if (model.parts().isBy(reference)) {
        planned.with = provider;
      }
      planned.need(
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
      planned.object(
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
    offered(planned, model, reference, raw, referred, parent);
  }

  /** Whether a row that is lacking can be brought, or else what is said. */
  private void offered(
      Planned planned,
      TableModel model,
      Reference reference,
      List<Value> raw,
      List<Value> referred,
      Table parent)
      throws IOException {
    Optional<Planned> offer = offer(reference, parent, raw);
    if (offer.isPresent()) {
      planned.need(offer.get(), new Planned.Need(ConflictKind.MISSING_PARENT, reference.columns()));
    } else if (reference.enforced()) {
      String values = String.join(", ", referred.stream().map(Value::display).toList());
      planned.object(
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
}
