package weftex.core.plan;

import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.SortedSet;
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
  final List<Objection> objections = new ArrayList<>();
  final Map<Planned, Need> needs = new LinkedHashMap<>();
  final Map<Ties.Hanger, Long> hangers = new LinkedHashMap<>();

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

  Role whose() {
    return role.orElse(Role.CONTENT);
  }

  /** Whether the change goes into the change set. */
  boolean isWritten() {
    return chosen || offered;
  }
}
