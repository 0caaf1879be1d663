package weftex.core.plan;

import java.io.IOException;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeSet;
import weftex.core.change.Action;
import weftex.core.change.Item;
import weftex.core.change.SchemaChange;
import weftex.core.change.Trace;
import weftex.core.compare.Comparison;
import weftex.core.compare.Difference;
import weftex.core.match.FreedNames;
import weftex.core.match.Knowledge;
import weftex.core.match.Matching;
import weftex.core.match.Newcomer;
import weftex.core.match.Sides;
import weftex.core.merge.ConflictKind;
import weftex.core.merge.RowMerger;
import weftex.core.model.Role;
import weftex.core.moving.MovingValues;
import weftex.core.reference.RowFinder;
import weftex.core.row.Row;
import weftex.core.row.RowName;
import weftex.core.row.SortKey;
import weftex.core.row.Value;
import weftex.core.select.MemberFilter;
import weftex.core.select.Selection;
import weftex.core.site.SiteMap;
import weftex.core.site.TableModel;

/**
 * Turns the differences of a comparison into the row changes of a change set. What a chosen change
 * needs and nobody chose is added as an offer.
 */
public final class Planner {

  private final Comparison comparison;
  private final SiteMap site;
  private final List<SchemaChange> schema;
  private final RowFinder source;
  private final RowFinder target;
  private final Matching matching;
  private final KeptSides rows;
  private final Owners owners;
  private final Classifier classifier;
  private final Roles roles;
  private final List<Planned> all = new ArrayList<>();
  private final List<Long> alike = new ArrayList<>();
  private final Map<Long, Planned> byPosition = new HashMap<>();
  private final List<Map<SortKey, Planned>> byTargetKey = new ArrayList<>();
  private final Map<Integer, Map<SortKey, Planned>> bySourceKey = new HashMap<>();

  /**
   * Matches and classifies every difference.
   *
   * @param comparison three-way or two-way
   * @param site the tables of the comparison
   * @param schema what the target lacks of them, in the order of making it
   * @param source finds rows of the source
   * @param target finds rows of the target
   * @param known what is known besides the rows
   */
  public Planner(
      Comparison comparison,
      SiteMap site,
      List<SchemaChange> schema,
      RowFinder source,
      RowFinder target,
      Knowledge known)
      throws IOException {
    this.comparison = comparison;
    this.site = site;
    this.schema = schema;
    this.source = source;
    this.target = target;
    this.matching = new Matching(comparison, site, source, target, known);
    this.rows = new KeptSides(comparison, matching, KeptSides.BYTES);
    this.owners = new Owners(site, source, target);
    this.classifier = new Classifier(comparison, site, matching, known.evidence());
    this.roles = new Roles(this, comparison, site, matching, owners);
    for (int i = 0; i < comparison.tables().size(); i++) {
      byTargetKey.add(new HashMap<>());
    }
    for (int i = 0; i < comparison.tables().size(); i++) {
      for (long at : comparison.bySource(i).toArray()) {
        classify(i, at);
      }
    }
  }

  /** Rows that were to stay things of their own and that the source did not add. */
  public Set<RowName> notApart() {
    return matching.fates().notApart();
  }

  /** Why rows can't be the same as what somebody said, as clauses; empty if all can. */
  public List<String> notSame() throws IOException {
    return matching.fates().notSame();
  }

  /** Chooses changes, checks what they refer to, and puts them in order. */
  public Plan choose(Selection selection) throws IOException {
    Chooser chooser = new Chooser(this, comparison, schema, selection);
    for (Planned planned : all) {
      chooser.choose(planned);
    }
    ReferenceCheck references =
        new ReferenceCheck(this, comparison, site, matching, source, target);
    UniqueCheck unique = new UniqueCheck(this, comparison, target);
    WholeThings things = new WholeThings(this, comparison, site, matching, source, target);
    // The list grows while offers are found.
    for (int i = 0; i < all.size(); i++) {
      if (all.get(i).chosen) {
        things.look(all.get(i), sides(all.get(i)));
        check(all.get(i), chooser, references, unique, things);
      }
    }
    for (Planned showing : new Showings(this, comparison, matching, owners, source).offered(all)) {
      showing.offered = true;
      check(showing, chooser, references, unique, things);
    }
    WholeThings.askAboutWhole(all);
    List<Planned> ordered = Ordering.order(all, comparison.tables());
    return new Plan(
        this,
        comparison,
        new SchemaChoice(this, comparison, site, schema).of(ordered, selection),
        ordered,
        moving(),
        selection);
  }

  /** Chooses some members of a row's values; whether there is anything to choose. */
  boolean choosesAny(Planned planned, Sides whole, MemberFilter members) {
    if (members.isAll()) {
      return true;
    }
    MemberChoice choice = choice(planned, members);
    if (planned.action != Action.UPDATE) {
      boolean any = planned.action == Action.ADD ? choice.isAny(whole) : !members.picks();
      planned.members = any ? members : planned.members;
      return any;
    }
    Sides some = choice.of(whole);
    RowMerger.Merged merged = classifier.merged(planned.table, some);
    if (merged.isNothing()) {
      return false;
    }
    planned.members = members;
    planned.withdraw(objection -> objection.kind().isClash());
    Classifier.askAboutClashes(planned, some, merged);
    return true;
  }

  /** Changes that stay out because their rows are live's own or noise. */
  List<LeftOut> leftOut() {
    return LeftOut.of(all);
  }

  private MemberChoice choice(Planned planned, MemberFilter members) {
    return new MemberChoice(comparison.tables().get(planned.table).table(), members);
  }

  private MovingValues moving() throws IOException {
    MovingValues values =
        new MovingValues(
            comparison,
            matching,
            newcomer -> at(newcomer.at).map(planned -> planned.chosen).orElse(false));
    for (Planned planned : all) {
      if (planned.chosen && planned.action != Action.REMOVE) {
        Sides sides = sides(planned);
        Set<Integer> moving = new TreeSet<>();
        List<Value> outcome = outcome(planned, sides);
        for (int i = 0; i < outcome.size(); i++) {
          if (planned.action == Action.ADD
              || !outcome.get(i).equals(sides.target().values().get(i))) {
            moving.add(i);
          }
        }
        values.look(planned.table, sides.rawSource(), moving);
      }
    }
    return values;
  }

  /** Checks a change, and what it needs in turn. */
  private void check(
      Planned planned,
      Chooser chooser,
      ReferenceCheck references,
      UniqueCheck unique,
      WholeThings things)
      throws IOException {
    Sides sides = sides(planned);
    references.check(planned, sides);
    unique.check(planned, sides);
    for (Planned needed : List.copyOf(planned.needs().keySet())) {
      if (!needed.isWritten()) {
        boolean comesAlong = needed.objections().isEmpty() && chooser.comesAlong(needed);
        needed.chosen = comesAlong;
        needed.alongWith = comesAlong ? Optional.of(planned) : Optional.empty();
        needed.offered = !comesAlong;
        things.bringWhole(needed, sides(needed));
        check(needed, chooser, references, unique, things);
      }
    }
  }

  private void classify(int table, long at) throws IOException {
    if (matching.fates().wasMadeAnew(at) || matching.fates().isKnownPerson(at)) {
      return;
    }
    TableModel model = comparison.tables().get(table);
    Sides sides = rows.whole(at);
    if (!sides.inSource() && !sides.target().isPresent()) {
      if (AlikeCells.isNews(comparison, table, sides.base())) {
        alike.add(at);
      }
      return;
    }
    boolean moved =
        matching.newcomers().at(at).isPresent()
            ? matching.earlier().wasMerged(at) && sides.base().isPresent()
            : matching.earlier().isMoved(table, sides.base());
    if (moved) {
      comparison.recount(at, new Difference(table, sides.base(), now(sides), sides.target()));
    }
    if (model.stays(sides.inSource() ? sides.source() : sides.base().values())) {
      rows.forget(at);
      return;
    }
    Optional<Planned> planned = classifier.classified(table, at, sides);
    if (planned.isEmpty()) {
      boolean onBoth = sides.inSource() && sides.target().isPresent();
      if (onBoth && AlikeCells.isNews(comparison, table, sides, classifier.merged(table, sides))) {
        alike.add(at);
        rows.settle(at);
      } else {
        rows.forget(at);
      }
      return;
    }
    object(sides, moved, planned);
    enter(planned.get(), sides);
    rows.settle(at);
  }

  /** What is asked where no base tells who changed it, or where the number may mean another row. */
  private void object(Sides sides, boolean moved, Optional<Planned> planned) throws IOException {
    if (!comparison.hasBase()) {
      Classifier.object(
          planned.get(),
          ConflictKind.NO_BASE,
          new TreeSet<>(),
          "there is no base to say which copy changed");
    }
    if (!moved) {
      classifier.doubt(planned.get(), sides);
    }
  }

  /** Rows that the source changed, of which the target has all, in the terms of a change set. */
  void eachAlike(AlikeCells.Sink sink) throws IOException {
    for (long at : alike) {
      int table = comparison.log().read(at).table();
      TableModel model = comparison.tables().get(table);
      Sides sides = rows.whole(at);
      sink.accept(
          sides.inSource()
              ? AlikeCells.row(model, sides, classifier.merged(table, sides))
              : AlikeCells.gone(model, sides.base()));
    }
  }

  /** The source's row in the target's terms. */
  private static Row now(Sides sides) {
    // A reference to something new has no number yet, and is a change in any case.
    List<Value> known =
        sides.source().stream()
            .map(value -> value.isOpen() && !value.isNull() ? Value.text(value.display()) : value)
            .toList();
    return known.isEmpty() ? Row.ABSENT : Row.of(sides.base().key(), known);
  }

  /** Enters a change that came up later: a row that is offered. */
  void enter(Planned planned, Sides sides) {
    all.add(planned);
    byPosition.put(planned.at, planned);
    if (planned.action == Action.ADD && sides.base().isPresent()) {
      bySourceKey
          .computeIfAbsent(planned.table, table -> new HashMap<>())
          .put(sides.base().key(), planned);
    }
    if (sides.target().isPresent()) {
      byTargetKey.get(planned.table).put(sides.target().key(), planned);
    }
  }

  /** A row as a whole, whatever is chosen of it. */
  Sides whole(long at) throws IOException {
    return rows.whole(at);
  }

  /** A row with what is chosen of it. */
  Sides sides(Planned planned) throws IOException {
    return rows.chosen(planned);
  }

  /** Whether the target has removed the row since it was merged. */
  boolean isGone(Planned planned) throws IOException {
    return matching.earlier().isGone(planned.at);
  }

  /** The thing that a row is or belongs to. */
  Optional<Item> item(Planned planned, Sides sides) throws IOException {
    return owners.item(
        comparison.tables().get(planned.table),
        sides.inSource() ? sides.rawSource() : sides.target().values(),
        sides.inSource());
  }

  /** The thing that a row of the source is or belongs to. */
  Optional<Item> item(TableModel model, List<Value> ofSource) throws IOException {
    return owners.item(model, ofSource, true);
  }

  /** Where a change's thing is seen, and who worked on it. */
  Trace trace(Planned planned, Sides sides) throws IOException {
    return owners
        .trace(
            comparison.tables().get(planned.table),
            sides.inSource() ? sides.rawSource() : List.of(),
            sides.target().isPresent() ? sides.target().values() : List.of())
        .with(planned.evidence);
  }

  /** The change that was planned for a difference. */
  Optional<Planned> at(long position) {
    return Optional.ofNullable(byPosition.get(position));
  }

  /**
   * The change that brings back a row which the base had, and which the target removed, by its key
   * on the source.
   */
  Optional<Planned> ofSourceRow(int table, SortKey key) {
    return Optional.ofNullable(bySourceKey.getOrDefault(table, Map.of()).get(key));
  }

  /** The change that was planned for a row of the target. */
  Optional<Planned> ofTargetRow(int table, SortKey key) {
    return Optional.ofNullable(byTargetKey.get(table).get(key));
  }

  /** How an added row is named by those that refer to it; empty if it is no numbered newcomer. */
  Optional<Newcomer.Numbered> numbered(Planned planned) throws IOException {
    Optional<Newcomer> newcomer = matching.newcomers().at(planned.at);
    return newcomer.isPresent()
            && matching.fates().of(newcomer.get()) instanceof Newcomer.Numbered numbered
        ? Optional.of(numbered)
        : Optional.empty();
  }

  /** The name that a row loses because it stays a thing of its own, by its column. */
  Optional<Integer> renamed(Planned planned) {
    Optional<Newcomer> newcomer = matching.newcomers().at(planned.at);
    return newcomer.isPresent() && matching.fates().isKeptApart(newcomer.get())
        ? FreedNames.column(comparison.tables().get(planned.table))
        : Optional.empty();
  }

  /** The values that a target row will have if the source wins wherever there is a conflict. */
  List<Value> outcome(Planned planned, Sides sides) {
    if (planned.action != Action.UPDATE) {
      return sides.source();
    }
    List<Value> outcome = new ArrayList<>(sides.target().values());
    RowMerger.Merged merged = classifier.merged(planned.table, sides);
    merged.taken().forEach(outcome::set);
    merged.clashing().forEach(i -> outcome.set(i, merged.ifSource(i, sides.source().get(i))));
    return outcome;
  }

  /** Whose the row of a change is. */
  Role role(Planned planned, Sides sides) throws IOException {
    return roles.of(planned, sides);
  }

  /** Merges a row that all three sides have. */
  RowMerger.Merged merged(int table, Sides sides) {
    return classifier.merged(table, sides);
  }
}
