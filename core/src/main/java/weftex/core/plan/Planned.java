package weftex.core.plan;

import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.SortedSet;
import java.util.function.Predicate;
import weftex.core.change.Action;
import weftex.core.change.Ties;
import weftex.core.merge.ConflictKind;
import weftex.core.model.Role;
import weftex.core.select.MemberFilter;

/** A change that is going to be written, without its values: those are read again from the log. */
final class Planned {
  final int table;
  final long at;
  final Action action;

  /** Of hundreds of thousands most have none of these. */
  private List<Objection> objections = List.of();

  private Map<Planned, Need> needs = Map.of();
  private Map<Ties.Hanger, Long> hangers = Map.of();

  /** Whose the row is, once that was asked. */
  Optional<Role> role = Optional.empty();

  Optional<Planned> with = Optional.empty();
  Optional<Planned> alongWith = Optional.empty();
  Optional<String> leftOutAs = Optional.empty();

  /** What of its values' members is chosen. */
  MemberFilter members = MemberFilter.ALL;

  /** What a worked-out base says of it; empty where the base was recorded. */
  String evidence = "";

  boolean chosen;
  boolean offered;
  int id;

  Planned(int table, long at, Action action) {
    this.table = table;
    this.at = at;
    this.action = action;
  }

  /** A conflict, without its values. */
  record Objection(ConflictKind kind, boolean binding, SortedSet<Integer> columns, String reason) {}

  /**
   * Why another change is needed.
   *
   * @param columns by which; none if by the whole row
   * @param inside whether inside of a value alone, of which the database knows nothing
   */
  record Need(ConflictKind orElse, List<Integer> columns, boolean inside) {
    Need(ConflictKind orElse, List<Integer> columns) {
      this(orElse, columns, false);
    }
  }

  /** In the order in which they came up. */
  List<Objection> objections() {
    return objections;
  }

  void object(Objection objection) {
    objections = objections.isEmpty() ? new ArrayList<>(1) : objections;
    objections.add(objection);
  }

  void withdraw(Predicate<Objection> which) {
    if (!objections.isEmpty()) {
      objections.removeIf(which);
    }
  }

  /** What it needs, and why, in the order in which that came up. */
  Map<Planned, Need> needs() {
    return needs;
  }

  void need(Planned other, Need why) {
    needs = needs.isEmpty() ? new LinkedHashMap<>() : needs;
    needs.put(other, why);
  }

  /** How many rows that stay hang on it, by where. */
  Map<Ties.Hanger, Long> hangers() {
    return hangers;
  }

  void hang(Ties.Hanger at, long rows) {
    hangers = hangers.isEmpty() ? new LinkedHashMap<>() : hangers;
    hangers.merge(at, rows, Math::max);
  }

  Role whose() {
    return role.orElse(Role.CONTENT);
  }

  /** Whether the change goes into the change set. */
  boolean isWritten() {
    return chosen || offered;
  }
}
