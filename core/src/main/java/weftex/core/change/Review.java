package weftex.core.change;

import java.util.ArrayList;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import weftex.core.merge.ConflictKind;
import weftex.core.row.Value;
import weftex.core.schema.ReferenceShape;

/**
 * What the decisions make of the changes. Keeps a few words for each change, not its values.
 *
 * <p>A change is made if that with which it goes is made, it is not skipped, is not a mere offer,
 * and all its conflicts are decided. It stays open as long as a conflict is undecided, or as long
 * as a change that it needs is not made.
 */
public final class Review {
  /** A part of a part of a thing, and no further. */
  private static final int STEPS = 4;

  private final Map<Integer, Entry> items = new LinkedHashMap<>();
  private final Map<Integer, Said> said = new HashMap<>();
  private final Map<String, Integer> newTables = new HashMap<>();

  /** The tables that a new table's foreign keys lead to, by the number of its change. */
  private final Map<Integer, List<String>> parents = new HashMap<>();

  private final Map<String, Map<String, Integer>> newColumns = new HashMap<>();

  /** Of the change that was added last: most changes have the columns of the one before. */
  private Set<String> key = Set.of();

  private Set<String> written = Set.of();

  /** How a change stands. */
  public enum Standing {
    /** It will be applied. */
    MADE("apply"),
    /** A decision is missing. */
    OPEN("decide"),
    /** A reviewer left it out. */
    SKIPPED("skip"),
    /** It is offered, and nobody has brought it along. */
    OFFERED("offer"),
    /** Decided in a way that leaves nothing to do. */
    NOTHING("keep");

    private final String label;

    Standing(String label) {
      this.label = label;
    }

    public String label() {
      return label;
    }
  }

  private record Entry(
      boolean update,
      String table,
      Set<String> key,
      Set<String> written,
      List<Contest> contests,
      boolean offered,
      Optional<Integer> with,
      List<Integer> withAny,
      List<Ties.Need> needs,
      Optional<Item> thing) {}

  /**
   * What a conflict is about.
   *
   * @param columns those that can be decided one by one, of an updated row
   * @param about those that it names
   */
  private record Contest(
      ConflictKind kind,
      boolean binding,
      Set<String> columns,
      Set<String> about,
      Set<String> otherwise) {}

  /** Takes in a change of the schema, before the rows that it makes room for. */
  public void add(SchemaChange change) {
    change
        .column()
        .ifPresentOrElse(
            column ->
                newColumns
                    .computeIfAbsent(change.table(), name -> new HashMap<>())
                    .put(column, change.id()),
            () -> newTables.put(change.table(), change.id()));
    if (change.made() instanceof SchemaChange.Made.NewTable made) {
      parents.put(
          change.id(), made.shape().references().stream().map(ReferenceShape::table).toList());
    }
    items.put(
        change.id(),
        new Entry(
            false,
            change.table(),
            Set.of(),
            Set.of(),
            List.of(),
            false,
            Optional.empty(),
            List.of(),
            List.of(),
            Optional.of(change.item())));
  }

  /** Takes in a change of a row, of which it keeps no values. */
  public void add(RowChange change) {
    add(change.outline());
  }

  /** Takes in a change of a row. */
  public void add(Outline change) {
    boolean update = change.action() == Action.UPDATE;
    List<Contest> contests = new ArrayList<>();
    for (Outline.Contest contest : change.contests()) {
      Set<String> named = contest.columns().isEmpty() ? change.written() : contest.columns();
      contests.add(
          new Contest(
              contest.kind(),
              contest.binding(),
              update ? named : Set.of(),
              contest.columns(),
              contest.otherwise()));
    }
    key = shared(key, change.key().keySet());
    written = shared(written, change.written());
    items.put(
        change.id(),
        new Entry(
            update,
            change.table(),
            key,
            written,
            contests,
            change.offered(),
            change.with(),
            change.withAny(),
            change.needs(),
            change.item()));
  }

  private static Set<String> shared(Set<String> last, Set<String> columns) {
    return last.equals(columns) ? last : Set.copyOf(columns);
  }

  /**
   * Takes in a decision.
   *
   * @throws IllegalArgumentException with a sentence if it does not fit
   */
  public void add(Decision decision) {
    for (int id : decision.changes()) {
      refusal(id, decision.column(), decision.answer())
          .ifPresent(
              sentence -> {
                throw new IllegalArgumentException(sentence);
              });
      Set<String> contested = new LinkedHashSet<>();
      for (Contest contest : items.get(id).contests()) {
        contested.addAll(contest.columns());
        contested.addAll(contest.about());
      }
      said.computeIfAbsent(id, unused -> new Said()).take(decision, contested);
    }
  }

  /** Whose side was chosen for passages of a column, by number. */
  public Map<Integer, Answer> passages(int id, String column) {
    return said(id).passages(column);
  }

  private Said said(int id) {
    return said.getOrDefault(id, Said.NOTHING);
  }

  /** Why a decision does not fit a change, as a sentence; empty if it does. */
  public Optional<String> refusal(int id, Optional<String> column, Answer answer) {
    Entry item = items.get(id);
    if (item == null) {
      return Optional.of(
          "There is no change " + id + "; the change set has 1 to " + items.size() + ".");
    }
    if (answer == Answer.BRING && !item.offered()) {
      return Optional.of(
          "Change " + id + " is not an offer; only an offered change can be brought along.");
    }
    if (answer == Answer.VALUE && item.table().equals(Change.FILES)) {
      return Optional.of("Change " + id + " is a file, of which no value can be set.");
    }
    if (answer == Answer.VALUE) {
      String name = column.orElseThrow();
      boolean written =
          item.written().contains(name)
              || item.update() && item.contests().stream().anyMatch(c -> c.about().contains(name));
      return written && !item.key().contains(name)
          ? Optional.empty()
          : Optional.of(
              "Change " + id + " does not write " + name + ", so no value can be set for it.");
    }
    if (!answer.isOfPassages()) {
      return Optional.empty();
    }
    if (item.contests().isEmpty()) {
      return Optional.of(
          "Change " + id + " has no conflict to decide; it can be skipped or included.");
    }
    if (column.isPresent()
        && item.contests().stream().noneMatch(c -> c.columns().contains(column.get()))) {
      return Optional.of("Column " + column.get() + " of change " + id + " is not in conflict.");
    }
    boolean bound =
        item.contests().stream()
            .filter(c -> column.isEmpty() || c.columns().contains(column.get()))
            .anyMatch(Contest::binding);
    if (answer != Answer.TARGET && bound) {
      return Optional.of(
          "Change "
              + id
              + " can't be taken as it is, since the database would refuse it; keep or skip it.");
    }
    return Optional.empty();
  }

  public Standing standing(int id) {
    if (isPlain(id)) {
      return Standing.MADE;
    }
    Standing own = ownStanding(id);
    return own == Standing.MADE && unmet(id).findAny().isPresent() ? Standing.OPEN : own;
  }

  /** How many changes stand so. */
  public int count(Standing wanted) {
    int count = 0;
    for (int id : ids()) {
      count += standing(id) == wanted ? 1 : 0;
    }
    return count;
  }

  /**
   * The value that would be written into a column now; as long as its conflict is open, the
   * source's.
   */
  public Value current(RowChange change, String column) {
    Value written = said(change.id()).values().get(column);
    if (written != null) {
      return written;
    }
    for (Conflict conflict : change.conflicts()) {
      if (conflict.columns().contains(column) && conflict.source().containsKey(column)) {
        boolean open = said(change.id()).of(column).or(() -> said(change.id()).of("")).isEmpty();
        return open || answer(change.id(), column) != Answer.TARGET
            ? conflict.source().get(column)
            : conflict.ifTarget(column).orElse(Value.NULL);
      }
    }
    return change.after().getOrDefault(column, Value.NULL);
  }

  /** Whether nothing speaks about a change, as is so with most of a large change set. */
  private boolean isPlain(int id) {
    Entry item = items.get(id);
    return item.contests().isEmpty()
        && item.needs().isEmpty()
        && item.with().isEmpty()
        && item.withAny().isEmpty()
        && !item.offered()
        && !said.containsKey(id)
        && newTables.isEmpty()
        && newColumns.isEmpty()
        && (!item.update() || !item.written().isEmpty());
  }

  /** What is still to be decided about a change; empty if nothing is. */
  public Set<ConflictKind> open(int id) {
    Set<ConflictKind> open = new LinkedHashSet<>();
    Standing own = ownStanding(id);
    if (own == Standing.OPEN) {
      items.get(id).contests().stream()
          .filter(c -> !isDecided(id, c))
          .forEach(c -> open.add(c.kind()));
    }
    if (own == Standing.OPEN || own == Standing.MADE) {
      unmet(id).forEach(need -> open.add(need.orElse()));
    }
    return open;
  }

  /** Whether a conflict of its own is what keeps a change open. */
  public boolean isUndecided(int id) {
    return standingAlone(id) == Standing.OPEN;
  }

  /** The changes that a change needs and that are not going to be made. */
  public List<Integer> unmetNeeds(int id) {
    return unmet(id).map(Ties.Need::change).toList();
  }

  /** The ids of all changes, in order. */
  public Set<Integer> ids() {
    return items.keySet();
  }

  public String table(int id) {
    return items.get(id).table();
  }

  /** The thing that a change's row is or belongs to. */
  public Optional<Item> thing(int id) {
    return items.get(id).thing();
  }

  /** Whether a column of a change is in conflict. */
  public boolean isContested(int id, String column) {
    return items.get(id).contests().stream().anyMatch(c -> c.columns().contains(column));
  }

  /** What was decided of a column, or of the whole change if the column is empty. */
  public Optional<Answer> said(int id, String column) {
    return said(id).of(column);
  }

  /** What a change touches once the decisions are followed, and nothing that is left to decide. */
  public Outline outcome(Outline change) {
    boolean update = items.get(change.id()).update();
    return new Outline(change.head(), update ? columns(change.id()) : change.written(), List.of());
  }

  /** The values that a reviewer wrote into columns of a change. */
  public Map<String, Value> written(int id) {
    return said(id).values();
  }

  /** The change as it is to be made: with the decided columns; empty if it is not made. */
  public Optional<DecidedChange> decided(RowChange change) {
    if (standing(change.id()) != Standing.MADE) {
      return Optional.empty();
    }
    Set<String> absent = absentColumns(change.table());
    if (absent.isEmpty() && change.conflicts().isEmpty() && written(change.id()).isEmpty()) {
      return Optional.of(
          new DecidedChange(change.head(), change.before(), change.after(), change.drafted()));
    }
    Map<String, Value> before = new LinkedHashMap<>(change.before());
    before.keySet().removeAll(absent);
    Map<String, Value> after =
        change.action() == Action.UPDATE ? updated(change) : new LinkedHashMap<>(change.after());
    if (change.action() != Action.REMOVE) {
      after.putAll(written(change.id()));
    }
    after.keySet().removeAll(absent);
    Map<String, Value> drafted = drafted(change);
    drafted.keySet().removeAll(absent);
    drafted.entrySet().removeAll(after.entrySet());
    return Optional.of(new DecidedChange(change.head(), before, after, drafted));
  }

  /** What an update writes: each column in conflict as its side was chosen. */
  private Map<String, Value> updated(RowChange change) {
    Map<String, Value> after = new LinkedHashMap<>(change.after());
    for (Conflict conflict : change.conflicts()) {
      after.putAll(conflict.source());
      conflict
          .otherwise()
          .forEach(
              (column, value) -> {
                if (answer(change.id(), column) == Answer.TARGET) {
                  after.put(column, value);
                }
              });
    }
    Set<String> columns = columns(change.id());
    after.keySet().retainAll(columns);
    after.putAll(said(change.id()).composed(change, columns));
    return after;
  }

  /** The source's own values of columns that may get others. */
  private Map<String, Value> drafted(RowChange change) {
    Map<String, Value> drafted = change.own();
    for (String column : written(change.id()).keySet()) {
      Value own = change.after().get(column);
      if (own != null) {
        drafted.putIfAbsent(column, own);
      }
    }
    drafted.keySet().removeIf(column -> isKeptByRule(change.id(), column));
    for (Conflict conflict : change.conflicts()) {
      for (String column : conflict.otherwise().keySet()) {
        if (isKeptByRule(change.id(), column)) {
          drafted.put(column, Unsettled.of(conflict, column));
        }
      }
    }
    return drafted;
  }

  /**
   * What of a change a person decided so that the target stays as it is: nothing of it is made, and
   * nothing is open until the source changes it again. What a rule decided is not settled: the rule
   * may change.
   *
   * @return empty if nothing is settled
   */
  public Optional<KeptChange> kept(RowChange change) {
    Optional<Integer> deciding = settledBy(change.id());
    if (deciding.isEmpty() || said(deciding.get()).isRuled("")) {
      return Optional.empty();
    }
    if (change.action() != Action.UPDATE) {
      return Optional.of(new KeptChange(change.head(), change.after()));
    }
    Map<String, Value> own = new LinkedHashMap<>(change.own());
    if (!change.withAny().isEmpty()) {
      change.after().forEach(own::putIfAbsent);
    }
    own.keySet().removeIf(column -> isKeptByRule(change.id(), column));
    return own.isEmpty() ? Optional.empty() : Optional.of(new KeptChange(change.head(), own));
  }

  /** Whether a person decided of any change that the target stays as it is. */
  public boolean keepsAny() {
    return ids().stream()
        .anyMatch(id -> settledBy(id).filter(by -> !said(by).isRuled("")).isPresent());
  }

  /** Whether a rule, and no person, decided that a column keeps the target's value. */
  private boolean isKeptByRule(int id, String column) {
    return said(id).isRuled(column) && answer(id, column) == Answer.TARGET;
  }

  /** The change by whose decision the target stays as it is, as far as a change is about it. */
  private Optional<Integer> settledBy(int id) {
    Optional<Integer> with = items.get(id).with();
    for (int step = 0; with.isPresent() && step < STEPS; step++) {
      if (isSettledByItself(with.get())) {
        return with.filter(whole -> !said(id).isSkipped());
      }
      with = items.get(with.get()).with();
    }
    // What goes with rows, as a file does, is settled if all of them are.
    List<Integer> any = items.get(id).withAny();
    if (!any.isEmpty() && !said(id).isSkipped() && any.stream().allMatch(this::isSettledByItself)) {
      return Optional.of(any.get(0));
    }
    return isSettledByItself(id) ? Optional.of(id) : Optional.empty();
  }

  private boolean isSettledByItself(int id) {
    Entry item = items.get(id);
    boolean makesRoom =
        item.contests().stream()
            .anyMatch(
                c -> c.kind() == ConflictKind.TAKEN || c.kind() == ConflictKind.MISSING_PARENT);
    return !item.contests().isEmpty()
        && !makesRoom
        && !item.offered()
        && standing(id) == Standing.NOTHING
        && standingAlone(id) == Standing.NOTHING
        && isInCompany(id);
  }

  private java.util.stream.Stream<Ties.Need> unmet(int id) {
    Entry item = items.get(id);
    Set<String> written = item.update() ? columns(id) : Set.of();
    return item.needs().stream()
        .filter(
            need ->
                !item.update()
                    || need.columns().isEmpty()
                    || need.columns().stream().anyMatch(written::contains))
        .filter(need -> !isMade(need.change(), id));
  }

  /** New columns of a table that are not going to be made. */
  private Set<String> absentColumns(String table) {
    Set<String> absent = new LinkedHashSet<>();
    newColumns
        .getOrDefault(table, Map.of())
        .forEach(
            (column, id) -> {
              if (standingAlone(id) != Standing.MADE) {
                absent.add(column);
              }
            });
    return absent;
  }

  /** What a table's columns are once the decisions are followed; empty if it is not made. */
  public Optional<ChangeSetHeader.TableColumns> decided(ChangeSetHeader.TableColumns drafted) {
    if (!hasPlace(drafted.name())) {
      return Optional.empty();
    }
    Set<String> absent = absentColumns(drafted.name());
    return Optional.of(
        new ChangeSetHeader.TableColumns(
            drafted.name(),
            drafted.key(),
            drafted.number(),
            drafted.columns().stream().filter(c -> !absent.contains(c.name())).toList(),
            drafted.others()));
  }

  /** Whether the table of a row is there, or is going to be made. */
  private boolean hasPlace(String table) {
    Integer made = newTables.get(table);
    return made == null || standingAlone(made) == Standing.MADE && hasParents(made);
  }

  /** Whether the tables that a new one's foreign keys lead to are there, or made before it. */
  private boolean hasParents(int id) {
    return parents.getOrDefault(id, List.of()).stream()
        .filter(parent -> newTables.getOrDefault(parent, id) < id)
        .allMatch(this::hasPlace);
  }

  /** Whether all that a change goes with is made. */
  private boolean isInCompany(int id) {
    Integer made = newTables.get(items.get(id).table());
    if (made != null && !(made == id ? hasParents(id) : hasPlace(items.get(id).table()))) {
      return false;
    }
    List<Integer> any = items.get(id).withAny();
    if (!any.isEmpty() && any.stream().noneMatch(one -> ownStanding(one) == Standing.MADE)) {
      return false;
    }
    Optional<Integer> with = items.get(id).with();
    for (int step = 0; with.isPresent() && step < STEPS; step++) {
      if (standingAlone(with.get()) != Standing.MADE) {
        return false;
      }
      with = items.get(with.get()).with();
    }
    return true;
  }

  /** Whether a change is made, given that the one which needs it is. */
  private boolean isMade(int id, int neededBy) {
    boolean goesWith = items.get(id).with().map(with -> with == neededBy).orElse(false);
    return (goesWith ? standingAlone(id) : ownStanding(id)) == Standing.MADE;
  }

  private Standing ownStanding(int id) {
    Standing alone = standingAlone(id);
    return alone == Standing.SKIPPED || isInCompany(id) ? alone : Standing.NOTHING;
  }

  private Standing standingAlone(int id) {
    Entry item = items.get(id);
    Said own = said(id);
    if (own.isSkipped()) {
      return Standing.SKIPPED;
    }
    if (item.offered() && !own.isBrought()) {
      return Standing.OFFERED;
    }
    if (!item.contests().stream().allMatch(contest -> isDecided(id, contest))) {
      return Standing.OPEN;
    }
    if (item.update()) {
      return columns(id).isEmpty() ? Standing.NOTHING : Standing.MADE;
    }
    boolean kept = !item.contests().isEmpty() && own.of("").orElse(Answer.SOURCE) == Answer.TARGET;
    return kept ? Standing.NOTHING : Standing.MADE;
  }

  private boolean isDecided(int id, Contest contest) {
    Said own = said(id);
    return own.of("").isPresent()
        || !contest.columns().isEmpty()
            && contest.columns().stream().allMatch(column -> own.of(column).isPresent())
        || !contest.about().isEmpty() && own.values().keySet().containsAll(contest.about());
  }

  /** Whose side a column in conflict takes; the target's until somebody says. */
  private Answer answer(int id, String column) {
    return said(id).of(column).or(() -> said(id).of("")).orElse(Answer.TARGET);
  }

  /** The columns that an update writes. */
  private Set<String> columns(int id) {
    Entry item = items.get(id);
    Set<String> columns = new LinkedHashSet<>(item.written());
    for (Contest contest : item.contests()) {
      for (String column : contest.columns()) {
        Answer answer = answer(id, column);
        if (answer == Answer.SOURCE
            || answer == Answer.VALUE
            || contest.otherwise().contains(column)) {
          columns.add(column);
        } else {
          columns.remove(column);
        }
      }
    }
    columns.addAll(said(id).values().keySet());
    columns.removeAll(absentColumns(item.table()));
    return columns;
  }
}
