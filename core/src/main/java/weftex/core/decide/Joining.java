package weftex.core.decide;

import java.io.IOException;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.SortedMap;
import java.util.SortedSet;
import java.util.TreeSet;
import weftex.core.change.Action;
import weftex.core.change.ChangeSetHeader;
import weftex.core.change.Head;
import weftex.core.change.Item;
import weftex.core.change.RowChange;
import weftex.core.change.SchemaChange;
import weftex.core.change.Ties;
import weftex.core.changeset.ChangeSetWriter;
import weftex.core.row.Value;
import weftex.core.signoff.Decision;

/**
 * Puts two change sets of one site together. Changes of the same row must be alike; nothing of one
 * may refer to a row that the other removes; decisions about a shared change must agree. Show it
 * both change sets, ask for the clashes, then hand it every change again, in the same order, to be
 * renumbered. Keeps a few words for each change, not its values.
 */
public final class Joining {
  private final JoinedHalf first;
  private final JoinedHalf second;
  private final List<String> clashes = new ArrayList<>();
  private final Map<Integer, Integer> newFirst = new HashMap<>();
  private final Map<Integer, Integer> newSecond = new HashMap<>();
  private final Map<Integer, Integer> shared = new HashMap<>();
  private final JoinedNumbers numbers;

  /** Which of the two. */
  public enum Which {
    FIRST,
    SECOND
  }

  record Seen(int id, Action action, Item thing, Value.Digest content, boolean offered) {}

  /**
   * @param firstHeld decisions of the first that hold, by number
   */
  public Joining(
      ChangeSetHeader firstHeader,
      SortedMap<Integer, Decision> firstHeld,
      ChangeSetHeader secondHeader,
      SortedMap<Integer, Decision> secondHeld) {
    this.first = new JoinedHalf(firstHeader, firstHeld);
    this.second = new JoinedHalf(secondHeader, secondHeld);
    this.numbers = new JoinedNumbers(first, newFirst, second, newSecond, clashes, shared);
  }

  private JoinedHalf half(Which which) {
    return which == Which.FIRST ? first : second;
  }

  /** Sees a new table or column. */
  public void see(Which which, SchemaChange change) throws IOException {
    half(which).schema.put(Place.of(change), change.id());
    half(which)
        .statements
        .put(change.id(), Value.Digest.of(ChangeSetWriter.line(change.numbered(1))));
  }

  /** Sees a change of a row. */
  public void see(Which which, RowChange change) throws IOException {
    JoinedHalf half = half(which);
    Place place = Place.of(change);
    while (half.rows.containsKey(place)) {
      place = place.next();
    }
    half.rows.put(
        place,
        new Seen(
            change.id(), change.action(), change.thing(), Place.content(change), change.offered()));
    half.order.add(change.id());
    if (!change.withAny().isEmpty()) {
      half.withAny.put(change.id(), change.withAny());
    }
    half.removals.see(change);
  }

  /** Everything in which the two speak against each other, a sentence each; empty if nothing. */
  public List<String> clashes() {
    clashes.clear();
    headers();
    if (!clashes.isEmpty()) {
      return clashes;
    }
    numbers.number();
    clashes.addAll(first.removals.clashes(second.removals));
    clashes.addAll(second.removals.clashes(first.removals));
    decisions();
    return List.copyOf(clashes);
  }

  private void headers() {
    ChangeSetHeader one = first.header;
    ChangeSetHeader other = second.header;
    differs("site", one.site(), other.site());
    differs("direction", one.from() + " → " + one.into(), other.from() + " → " + other.into());
    differs("target", one.target(), other.target());
    differs("base", one.base().orElse("none"), other.base().orElse("none"));
    for (ChangeSetHeader.TableColumns table : one.tables()) {
      for (ChangeSetHeader.TableColumns same : other.tables()) {
        if (table.name().equals(same.name()) && !table.equals(same)) {
          clashes.add(
              "The columns of " + table.name() + " were not the same when they were drafted.");
        }
      }
    }
  }

  private void differs(String what, String one, String other) {
    if (!one.equals(other)) {
      clashes.add("The " + what + " differs: " + one + ", and " + other + ".");
    }
  }

  private void decisions() {
    Map<List<Object>, Decision> ofFirst = last(first);
    last(second)
        .forEach(
            (about, decision) -> {
              Integer same = shared.get((Integer) about.get(0));
              Decision other = same == null ? null : ofFirst.get(List.of(same, about.get(1)));
              if (other != null
                  && (other.answer() != decision.answer()
                      || !other.value().equals(decision.value()))) {
                clashes.add(
                    "Change "
                        + same
                        + (about.get(1).equals("") ? "" : " in " + about.get(1))
                        + " is decided in two ways: by "
                        + other.by()
                        + ", and otherwise by "
                        + decision.by()
                        + ".");
              }
            });
  }

  private static Map<List<Object>, Decision> last(JoinedHalf half) {
    Map<List<Object>, Decision> last = new LinkedHashMap<>();
    for (Decision decision : half.held.values()) {
      decision
          .changes()
          .forEach(id -> last.put(List.of(id, decision.column().orElse("")), decision));
    }
    return last;
  }

  /**
   * The header of both.
   *
   * @param receivers public keys of those for whom they are going to be sealed
   */
  public ChangeSetHeader header(String drafted, String tool, List<String> receivers) {
    List<ChangeSetHeader.TableColumns> tables = new ArrayList<>(first.header.tables());
    second.header.tables().stream().filter(table -> !tables.contains(table)).forEach(tables::add);
    ChangeSetHeader one = first.header;
    return new ChangeSetHeader(
        one.site(),
        one.from(),
        one.into(),
        one.target(),
        one.base(),
        drafted,
        tool,
        Map.of(JOINED, List.of(one.drafted(), second.header.drafted())),
        tables,
        receivers);
  }

  /** Stands in the selection of what was put together, which no selection describes. */
  public static final String JOINED = "joined";

  /** A new table or column under its new number; empty if the other one has it already. */
  public Optional<SchemaChange> renumbered(Which which, SchemaChange change) {
    return isRepeated(which, change.id())
        ? Optional.empty()
        : Optional.of(change.numbered(ids(which).get(change.id())));
  }

  /** A change under its new number; empty if the other one has it already. */
  public Optional<RowChange> renumbered(Which which, RowChange change) {
    if (isRepeated(which, change.id())) {
      return Optional.empty();
    }
    Head head = change.head();
    Head numbered =
        new Head(
            ids(which).get(change.id()),
            head.action(),
            head.table(),
            head.key(),
            head.fresh(),
            head.renumbered(),
            renumbered(which, change.id(), head.ties()),
            head.item(),
            head.trace());
    return Optional.of(
        new RowChange(
            numbered, change.before(), change.after(), change.drafted(), change.conflicts()));
  }

  private Ties renumbered(Which which, int change, Ties ties) {
    Map<Integer, Integer> ids = ids(which);
    return new Ties(
        ties.offered() && isOfferedByBoth(which, change),
        ties.with().map(ids::get),
        withAny(which, change),
        ties.alongWith().map(ids::get),
        ties.needs().stream()
            .map(need -> new Ties.Need(ids.get(need.change()), need.orElse(), need.columns()))
            .toList(),
        ties.hangers());
  }

  /** What both have goes with what either says. */
  private List<Integer> withAny(Which which, int id) {
    SortedSet<Integer> all = new TreeSet<>();
    half(which).withAny.getOrDefault(id, List.of()).forEach(one -> all.add(ids(which).get(one)));
    if (which == Which.FIRST) {
      shared.forEach(
          (repeated, same) -> {
            if (same == id) {
              second
                  .withAny
                  .getOrDefault(repeated, List.of())
                  .forEach(one -> all.add(newSecond.get(one)));
            }
          });
    }
    return List.copyOf(all);
  }

  private boolean isRepeated(Which which, int id) {
    return which == Which.SECOND && shared.containsKey(id);
  }

  /** Whether nobody chose a change; what one of them chose is chosen. */
  private boolean isOfferedByBoth(Which which, int id) {
    return which != Which.FIRST
        || shared.entrySet().stream()
            .filter(pair -> pair.getValue() == id)
            .allMatch(
                pair ->
                    second.rows.values().stream()
                        .filter(row -> row.id() == pair.getKey())
                        .allMatch(Seen::offered));
  }

  private Map<Integer, Integer> ids(Which which) {
    return which == Which.FIRST ? newFirst : newSecond;
  }

  /** The decisions of both with the new numbers, the first one's first. */
  public List<Decision> held() {
    List<Decision> held = new ArrayList<>();
    for (Which which : Which.values()) {
      for (Decision decision : half(which).held.values()) {
        held.add(decision.about(decision.changes().stream().map(ids(which)::get).toList()));
      }
    }
    return held;
  }
}
