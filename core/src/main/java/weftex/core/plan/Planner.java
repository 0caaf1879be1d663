package weftex.core.plan;

import java.io.IOException;
import java.util.ArrayList;
import java.util.EnumMap;
import java.util.HashMap;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.SortedSet;
import java.util.TreeSet;
import weftex.core.change.Action;
import weftex.core.change.Item;
import weftex.core.change.SchemaChange;
import weftex.core.change.Trace;
import weftex.core.compare.Comparison;
import weftex.core.compare.Difference;
import weftex.core.merge.ConflictKind;
import weftex.core.merge.RowMerger;
import weftex.core.reference.RowFinder;
import weftex.core.row.Row;
import weftex.core.row.RowName;
import weftex.core.row.SortKey;
import weftex.core.row.Table;
import weftex.core.row.Value;
import weftex.core.site.ColumnRule;
import weftex.core.site.Role;
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
  private final BaseEvidence evidence;
  private final Owners owners;
  private final RowMerger merger = new RowMerger(Value::equals);
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
    this.evidence = known.evidence();
    this.owners = new Owners(site, source, target);
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
    for (Planned planned : all) {
      choose(planned, selection);
    }
    ReferenceCheck references =
        new ReferenceCheck(this, comparison, site, matching, source, target);
    UniqueCheck unique = new UniqueCheck(this, comparison, target);
    WholeThings things = new WholeThings(this, comparison, site, matching, source, target);
    // The list grows while offers are found.
    for (int i = 0; i < all.size(); i++) {
      if (all.get(i).chosen) {
        things.look(all.get(i), sides(all.get(i)));
        check(all.get(i), selection, references, unique, things);
      }
    }
    for (Planned showing : new Showings(this, comparison, matching, owners, source).offered(all)) {
      showing.offered = true;
      check(showing, selection, references, unique, things);
    }
    WholeThings.askAboutWhole(all);
    List<Planned> ordered = Ordering.order(all, this::canWait);
    return new Plan(
        this, comparison, schema(ordered, selection), ordered, moving(), leftOut(), selection);
  }

  /** Whether an added row can be made before the one that it refers to. */
  private boolean canWait(Planned planned, Planned.Need need) {
    if (planned.action != Action.ADD || need.orElse() != ConflictKind.MISSING_PARENT) {
      return false;
    }
    Table table = comparison.tables().get(planned.table).table();
    return need.columns().stream()
        .map(table.columns()::get)
        .allMatch(
            column ->
                column.nullable()
                    || table.foreignKeys().stream()
                        .noneMatch(key -> key.columns().contains(column.name())));
  }

  /** What must be made for the rows that are written, and what is chosen for itself. */
  private Plan.Schema schema(List<Planned> ordered, Selection selection) throws IOException {
    Set<String> written = new HashSet<>();
    Set<String> touched = new HashSet<>();
    for (Planned planned : ordered) {
      Table table = comparison.tables().get(planned.table).table();
      if (schema.stream().noneMatch(change -> change.table().equals(table.name()))) {
        continue;
      }
      written.add(table.name());
      Sides sides = sides(planned);
      List<Value> outcome = planned.action == Action.REMOVE ? List.of() : outcome(planned, sides);
      for (int i = 0; i < outcome.size(); i++) {
        if (planned.action == Action.ADD
            || !outcome.get(i).equals(sides.target().values().get(i))) {
          touched.add(table.name() + "." + table.columns().get(i).name());
        }
      }
    }
    List<SchemaChange> made = new ArrayList<>();
    Map<String, Set<String>> absent = new HashMap<>();
    for (SchemaChange change : schema) {
      boolean needed =
          change
              .column()
              .map(column -> touched.contains(change.table() + "." + column))
              .orElse(written.contains(change.table()));
      boolean chosen =
          !selection.members().picks()
              && selection.choosesTable(change.column().isEmpty())
              && selection.choosesWhole(site.table(change.table()));
      if (needed || chosen) {
        made.add(change.numbered(made.size() + 1));
      } else {
        change
            .column()
            .ifPresent(
                column ->
                    absent.computeIfAbsent(change.table(), name -> new HashSet<>()).add(column));
      }
    }
    return new Plan.Schema(made, absent);
  }

  /** What stays out because of whose it is, by what it is called, in the order of the tables. */
  private List<LeftOut> leftOut() {
    Map<List<Object>, Map<Action, Long>> counts = new LinkedHashMap<>();
    for (Planned planned : all) {
      if (!planned.isWritten() && planned.leftOutAs.isPresent()) {
        counts
            .computeIfAbsent(
                List.of(planned.whose(), planned.leftOutAs.get()),
                kind -> new EnumMap<>(Action.class))
            .merge(planned.action, 1L, Long::sum);
      }
    }
    List<LeftOut> leftOut = new ArrayList<>();
    counts.forEach(
        (kind, count) ->
            leftOut.add(
                new LeftOut(
                    (Role) kind.get(0),
                    (String) kind.get(1),
                    count.getOrDefault(Action.ADD, 0L),
                    count.getOrDefault(Action.UPDATE, 0L),
                    count.getOrDefault(Action.REMOVE, 0L))));
    return leftOut;
  }

  private void choose(Planned planned, Selection selection) throws IOException {
    planned.members = MemberFilter.ALL;
    TableModel model = comparison.tables().get(planned.table);
    Sides sides = sides(planned);
    boolean asked =
        selection.choosesTable(isNew(model.table().name()))
            && selection.chooses(
                model, sides.inSource() ? sides.rawSource() : sides.base().values());
    Role role = role(planned, sides);
    if (asked && (role != Role.CONTENT || !selection.things().isAll())) {
      Optional<Item> item = item(planned, sides);
      asked =
          selection
              .things()
              .accepts(item, selection.things().needTrace() ? trace(planned, sides) : Trace.NONE);
      if (asked && selection.leavesOut(model, role, item)) {
        planned.leftOutAs =
            item.map(thing -> called(thing, role)).or(() -> Optional.of(model.table().name()));
        asked = false;
      }
    }
    planned.chosen = asked && choosesAny(planned, sides, selection.members());
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
    RowMerger.Merged merged = merged(planned.table, some);
    if (merged.isNothing()) {
      return false;
    }
    planned.members = members;
    planned.objections.removeIf(objection -> objection.kind().isClash());
    askAboutClashes(planned, some, merged);
    return true;
  }

  private MemberChoice choice(Planned planned, MemberFilter members) {
    return new MemberChoice(comparison.tables().get(planned.table).table(), members);
  }

  /** What is a copy's own is named one by one: a reader must know what does not travel. */
  static String called(Item thing, Role role) {
    return role == Role.OWN ? thing.words() : thing.kind();
  }

  private boolean isNew(String table) {
    return schema.stream()
        .anyMatch(change -> change.column().isEmpty() && change.table().equals(table));
  }

  /**
   * Whose a row is: what it says itself, or else whose the thing is that it is a part of. A row
   * that came to be noise is still what it was.
   */
  Role role(Planned planned, Sides sides) throws IOException {
    if (planned.role.isPresent()) {
      return planned.role.get();
    }
    TableModel model = comparison.tables().get(planned.table);
    List<Value> now = sides.inSource() ? sides.rawSource() : sides.base().values();
    Role role = model.role(now);
    if (sides.base().isPresent()) {
      role = model.roleOfKnown(now);
      Role before = model.roleOfKnown(sides.base().values());
      role = before.compareTo(role) < 0 ? before : role;
    }
    Optional<Role> judged = site.judged(model.table().name());
    if (judged.isPresent() && role == Role.CONTENT) {
      role = judged.get();
    }
    if (role == Role.CONTENT) {
      // Parts may be of each other in a circle.
      planned.role = Optional.of(role);
      role = roleOfOwner(model, now, sides.inSource());
    }
    planned.role = Optional.of(role);
    return role;
  }

  private Role roleOfOwner(TableModel model, List<Value> row, boolean onSource) throws IOException {
    Optional<Owners.Owner> owner = owners.owner(model, row, onSource);
    for (int step = 0; owner.isPresent() && step < Owners.STEPS; step++) {
      Owners.Owner at = owner.get();
      Optional<Planned> changed =
          matching
              .newcomers()
              .positionOf(at.model().table().name())
              .flatMap(table -> ofTargetRow(table, at.row().key()))
              .filter(planned -> planned.action != Action.ADD);
      if (changed.isPresent() && (!onSource || isOf(changed.get(), at))) {
        return role(changed.get(), sides(changed.get()));
      }
      boolean isNew = onSource && matching.isNew(at.model().table(), at.row().values());
      List<Value> ofOwner = at.row().values();
      Role role = isNew ? at.model().role(ofOwner) : at.model().roleOfKnown(ofOwner);
      if (role != Role.CONTENT) {
        return role;
      }
      owner = owners.owner(at.model(), at.row().values(), onSource);
    }
    return Role.CONTENT;
  }

  /** Whether a change is of a row of the source: a number may mean another row on each copy. */
  private boolean isOf(Planned planned, Owners.Owner onSource) throws IOException {
    Sides sides = sides(planned);
    List<Integer> key = onSource.model().table().key();
    return sides.inSource()
        && Table.pick(sides.rawSource(), key).equals(Table.pick(onSource.row().values(), key));
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
      Selection selection,
      ReferenceCheck references,
      UniqueCheck unique,
      WholeThings things)
      throws IOException {
    Sides sides = sides(planned);
    references.check(planned, sides);
    unique.check(planned, sides);
    for (Planned needed : List.copyOf(planned.needs.keySet())) {
      if (!needed.isWritten()) {
        boolean comesAlong = needed.objections.isEmpty() && comesAlong(needed, selection);
        needed.chosen = comesAlong;
        needed.alongWith = comesAlong ? Optional.of(planned) : Optional.empty();
        needed.offered = !comesAlong;
        things.bringWhole(needed, sides(needed));
        check(needed, selection, references, unique, things);
      }
    }
  }

  /**
   * What a chosen thing needs and nobody objects to comes along: new content, and rows that the
   * source removed together with it.
   */
  private static boolean comesAlong(Planned needed, Selection selection) {
    return needed.action == Action.ADD
        ? needed.whose() == Role.CONTENT && selection.things().picks()
        : needed.with.map(owner -> owner.chosen).orElse(false);
  }

  private void classify(int table, long at) throws IOException {
    if (matching.fates().wasMadeAnew(at) || matching.fates().isKnownPerson(at)) {
      return;
    }
    TableModel model = comparison.tables().get(table);
    Sides sides = Sides.read(comparison, matching, at);
    if (!sides.inSource() && !sides.target().isPresent()) {
      if (AlikeCells.isNews(comparison, table, sides.base())) {
        alike.add(at);
      }
      return;
    }
    boolean moved =
        matching.newcomers().at(at).isPresent()
            ? matching.wasMerged(at) && sides.base().isPresent()
            : matching.isMoved(table, sides.base());
    if (moved) {
      comparison.recount(at, new Difference(table, sides.base(), now(sides), sides.target()));
    }
    if (model.stays(sides.inSource() ? sides.source() : sides.base().values())) {
      return;
    }
    Optional<Planned> planned = classified(table, at, sides);
    boolean onBoth = sides.inSource() && sides.target().isPresent();
    if (planned.isEmpty()
        && onBoth
        && AlikeCells.isNews(comparison, table, sides, merged(table, sides))) {
      alike.add(at);
    }
    if (planned.isPresent()) {
      if (!comparison.hasBase()) {
        object(
            planned.get(),
            ConflictKind.NO_BASE,
            new TreeSet<>(),
            "there is no base to say which copy changed");
      }
      if (!moved) {
        doubt(planned.get(), sides);
      }
      enter(planned.get(), sides);
    }
  }

  /** On a worked-out base nothing is removed, and nothing doubtful is made, without a decision. */
  private void doubt(Planned planned, Sides sides) {
    Table table = comparison.tables().get(planned.table).table();
    List<Value> row = sides.inSource() ? sides.rawSource() : sides.base().values();
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

  /** Rows that the source changed, of which the target has all, in the terms of a change set. */
  void eachAlike(AlikeCells.Sink sink) throws IOException {
    for (long at : alike) {
      int table = comparison.log().read(at).table();
      TableModel model = comparison.tables().get(table);
      Sides sides = Sides.read(comparison, matching, at);
      sink.accept(
          sides.inSource()
              ? AlikeCells.row(model, sides, merged(table, sides))
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

  private Optional<Planned> classified(int table, long at, Sides sides) throws IOException {
    boolean inTarget = sides.target().isPresent();
    if (!sides.inSource()) {
      return inTarget ? Optional.of(removal(table, at, sides)) : Optional.empty();
    }
    if (!inTarget) {
      if (matching.isWithheld(at)) {
        return Optional.empty();
      }
      Planned planned = new Planned(table, at, Action.ADD);
      if (matching.wasWithheld(at)) {
        object(
            planned,
            ConflictKind.EDITED_GONE,
            new TreeSet<>(),
            "somebody decided before that it is not added, and it was edited since");
      }
      if (matching.isGone(at) && !sides.base().isPresent()) {
        object(
            planned,
            ConflictKind.EDITED_GONE,
            new TreeSet<>(),
            "it was merged before, and removed on the other copy since");
      }
      if (sides.base().isPresent()) {
        TableModel model = comparison.tables().get(table);
        // Numbers inside of what was merged before are the target's.
        boolean merged =
            matching.newcomers().at(at).isPresent() || matching.isMoved(table, sides.base());
        List<Value> now = merged ? sides.source() : sides.rawSource();
        if (model.meanTheSame(sides.base().values(), now)) {
          return Optional.empty();
        }
        boolean replaced = matching.isReplaced(at);
        planned.objections.add(
            new Planned.Objection(
                ConflictKind.EDITED_GONE,
                replaced,
                new TreeSet<>(),
                replaced
                    ? "it was edited, and removed on the other copy, where another row has its number now"
                    : "it was edited, and removed on the other copy"));
      }
      return Optional.of(planned);
    }
    Planned planned = new Planned(table, at, Action.UPDATE);
    RowMerger.Merged merged = merged(table, sides);
    askAboutClashes(planned, sides, merged);
    return merged.isNothing() ? Optional.empty() : Optional.of(planned);
  }

  private static void askAboutClashes(Planned planned, Sides sides, RowMerger.Merged merged) {
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
    TableModel model = comparison.tables().get(table);
    List<Value> target = sides.target().values();
    // Without a base in the comparison nobody added anything: whole values are in question.
    InsideMerging inside = new InsideMerging(model, sides.rawSource());
    RowMerger.Merged merged =
        sides.base().isPresent()
            ? merger.merge(sides.base().values(), sides.source(), target, model.leftAlone(), inside)
            : merger.mergeAdded(
                sides.source(),
                target,
                model.leftAlone(),
                comparison.hasBase() ? inside : RowMerger.InsideMerge.NONE);
    // A newer time alone is no change.
    return merged.clashing().isEmpty()
            && merged.taken().keySet().stream()
                .allMatch(i -> model.columns().get(i) == ColumnRule.NEWER)
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

  private static void object(
      Planned planned, ConflictKind kind, SortedSet<Integer> columns, String reason) {
    planned.objections.add(new Planned.Objection(kind, false, columns, reason));
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

  Sides sides(Planned planned) throws IOException {
    Sides whole = Sides.read(comparison, matching, planned.at);
    return planned.members.isAll() ? whole : choice(planned, planned.members).of(whole);
  }

  /** Whether the target has removed the row since it was merged. */
  boolean isGone(Planned planned) throws IOException {
    return matching.isGone(planned.at);
  }

  /** The thing that a row is or belongs to. */
  Optional<Item> item(Planned planned, Sides sides) throws IOException {
    return owners.item(
        comparison.tables().get(planned.table),
        sides.inSource() ? sides.rawSource() : sides.target().values(),
        sides.inSource());
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
    RowMerger.Merged merged = merged(planned.table, sides);
    merged.taken().forEach(outcome::set);
    merged.clashing().forEach(i -> outcome.set(i, merged.ifSource(i, sides.source().get(i))));
    return outcome;
  }
}
