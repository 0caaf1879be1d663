package weftex.core.change;

import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Stream;
import weftex.core.merge.ConflictKind;
import weftex.core.row.Value;
import weftex.core.signoff.Answer;
import weftex.core.signoff.Decision;

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

  private final Map<Integer, ReviewItem> items = new LinkedHashMap<>();
  private final Map<Integer, Said> said = new HashMap<>();
  private final NewParts made = new NewParts(id -> standingAlone(id) == Standing.MADE);

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

  /** Takes in a change of the schema, before the rows that it makes room for. */
  public void add(SchemaChange change) {
    made.add(change);
    items.put(change.id(), ReviewItem.of(change));
  }

  /** Takes in a change of a row, of which it keeps no values. */
  public void add(RowChange change) {
    add(change.outline());
  }

  /** Takes in a change of a row. */
  public void add(Outline change) {
    key = shared(key, change.key().keySet());
    written = shared(written, change.written());
    items.put(change.id(), ReviewItem.of(change, key, written));
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
      said.computeIfAbsent(id, unused -> new Said()).take(decision, items.get(id).contested());
    }
  }

  /** Whose side was chosen for passages of a column, by number. */
  public Map<Integer, Answer> passages(int id, String column) {
    return said(id).passages(column);
  }

  Said said(int id) {
    return said.getOrDefault(id, Said.NOTHING);
  }

  /** Why a decision does not fit a change, as a sentence; empty if it does. */
  public Optional<String> refusal(int id, Optional<String> column, Answer answer) {
    ReviewItem item = items.get(id);
    return item == null
        ? Optional.of(
            "There is no change " + id + "; the change set has 1 to " + items.size() + ".")
        : item.refusal(id, column, answer);
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

  /** Whether nothing speaks about a change, as is so with most of a large change set. */
  private boolean isPlain(int id) {
    ReviewItem item = items.get(id);
    return item.contests().isEmpty()
        && item.needs().isEmpty()
        && item.with().isEmpty()
        && item.withAny().isEmpty()
        && !item.offered()
        && !said.containsKey(id)
        && made.isEmpty()
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

  /**
   * The value that would be written into a column now; as long as its conflict is open, the
   * source's.
   */
  public Value current(RowChange change, String column) {
    return new ReviewedValues(change, this).current(column);
  }

  /** The change as it is to be made: with the decided columns; empty if it is not made. */
  public Optional<DecidedChange> decided(RowChange change) {
    return standing(change.id()) == Standing.MADE
        ? Optional.of(new ReviewedValues(change, this).decided())
        : Optional.empty();
  }

  /**
   * What of a change a person decided so that the target stays as it is: nothing of it is made, and
   * nothing is open until the source changes it again. What a rule decided is not settled: the rule
   * may change.
   *
   * @return empty if nothing is settled
   */
  public Optional<KeptChange> kept(RowChange change) {
    return settledBy(change.id())
        .filter(deciding -> !said(deciding).isRuled(""))
        .flatMap(deciding -> new ReviewedValues(change, this).kept());
  }

  /** Whether a person decided of any change that the target stays as it is. */
  public boolean keepsAny() {
    return ids().stream()
        .anyMatch(id -> settledBy(id).filter(by -> !said(by).isRuled("")).isPresent());
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
    ReviewItem item = items.get(id);
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

  private Stream<Ties.Need> unmet(int id) {
    ReviewItem item = items.get(id);
    Set<String> written = item.update() ? columns(id) : Set.of();
    return item.needs().stream()
        .filter(
            need ->
                !item.update()
                    || need.columns().isEmpty()
                    || need.columns().stream().anyMatch(written::contains))
        .filter(need -> !isMade(need.change(), id));
  }

  /** What a table's columns are once the decisions are followed; empty if it is not made. */
  public Optional<ChangeSetHeader.TableColumns> decided(ChangeSetHeader.TableColumns drafted) {
    if (!made.hasPlace(drafted.name())) {
      return Optional.empty();
    }
    Set<String> absent = made.absentColumns(drafted.name());
    return Optional.of(
        new ChangeSetHeader.TableColumns(
            drafted.name(),
            drafted.key(),
            drafted.number(),
            drafted.columns().stream().filter(c -> !absent.contains(c.name())).toList(),
            drafted.others()));
  }

  /** Whether all that a change goes with is made. */
  private boolean isInCompany(int id) {
    if (!made.hasPlace(items.get(id).table(), id)) {
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
    ReviewItem item = items.get(id);
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

  private boolean isDecided(int id, ReviewItem.Contest contest) {
    Said own = said(id);
    return own.of("").isPresent()
        || !contest.columns().isEmpty()
            && contest.columns().stream().allMatch(column -> own.of(column).isPresent())
        || !contest.about().isEmpty() && own.values().keySet().containsAll(contest.about());
  }

  /** Whose side a column in conflict takes; the target's until somebody says. */
  Answer answer(int id, String column) {
    return said(id).of(column).or(() -> said(id).of("")).orElse(Answer.TARGET);
  }

  /** New columns of a change's table that are not going to be made. */
  Set<String> absentColumns(String table) {
    return made.absentColumns(table);
  }

  /** The columns that an update writes. */
  Set<String> columns(int id) {
    ReviewItem item = items.get(id);
    Set<String> columns = new LinkedHashSet<>(item.written());
    for (ReviewItem.Contest contest : item.contests()) {
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
    columns.removeAll(made.absentColumns(item.table()));
    return columns;
  }
}
