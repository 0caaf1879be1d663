package weftex.core.change;

import java.util.ArrayList;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import weftex.core.merge.ConflictKind;
import weftex.core.signoff.Answer;

/**
 * What a review remembers of a change: a few words, not its values.
 *
 * @param written the columns that it writes
 * @param offered whether it is made only if somebody brings it along
 * @param with the change with which it goes
 * @param withAny changes of which one must be made
 */
record ReviewItem(
    boolean update,
    String table,
    Set<String> key,
    Set<String> written,
    List<Contest> contests,
    boolean offered,
    Optional<Integer> with,
    List<Integer> withAny,
    List<Ties.Need> needs,
    Optional<Item> thing) {

  /**
   * What a conflict is about.
   *
   * @param columns those that can be decided one by one, of an updated row
   * @param about those that it names
   */
  record Contest(
      ConflictKind kind,
      boolean binding,
      Set<String> columns,
      Set<String> about,
      Set<String> otherwise) {}

  static ReviewItem of(SchemaChange change) {
    return new ReviewItem(
        false,
        change.table(),
        Set.of(),
        Set.of(),
        List.of(),
        false,
        Optional.empty(),
        List.of(),
        List.of(),
        Optional.of(change.item()));
  }

  /**
   * @param key the columns of its key
   * @param written those that it writes
   */
  static ReviewItem of(Outline change, Set<String> key, Set<String> written) {
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
    return new ReviewItem(
        update,
        change.table(),
        key,
        written,
        contests,
        change.offered(),
        change.with(),
        change.withAny(),
        change.needs(),
        change.item());
  }

  /** The columns that are in conflict. */
  Set<String> contested() {
    Set<String> contested = new LinkedHashSet<>();
    for (Contest contest : contests) {
      contested.addAll(contest.columns());
      contested.addAll(contest.about());
    }
    return contested;
  }

  /** Why a decision does not fit the change, as a sentence; empty if it does. */
  Optional<String> refusal(int id, Optional<String> column, Answer answer) {
    if (answer == Answer.BRING && !offered) {
      return Optional.of(
          "Change " + id + " is not an offer; only an offered change can be brought along.");
    }
    if (answer == Answer.VALUE && table.equals(Change.FILES)) {
      return Optional.of("Change " + id + " is a file, of which no value can be set.");
    }
    if (answer == Answer.VALUE) {
      String name = column.orElseThrow();
      boolean writes =
          written.contains(name)
              || update && contests.stream().anyMatch(c -> c.about().contains(name));
      return writes && !key.contains(name)
          ? Optional.empty()
          : Optional.of(
              "Change " + id + " does not write " + name + ", so no value can be set for it.");
    }
    if (!answer.isOfPassages()) {
      return Optional.empty();
    }
    if (contests.isEmpty()) {
      return Optional.of(
          "Change " + id + " has no conflict to decide; it can be skipped or included.");
    }
    if (column.isPresent()
        && contests.stream().noneMatch(c -> c.columns().contains(column.get()))) {
      return Optional.of("Column " + column.get() + " of change " + id + " is not in conflict.");
    }
    return refusalOfBound(id, column, answer);
  }

  private Optional<String> refusalOfBound(int id, Optional<String> column, Answer answer) {
    boolean bound =
        contests.stream()
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
}
