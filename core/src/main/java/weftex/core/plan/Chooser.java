package weftex.core.plan;

import java.io.IOException;
import java.util.List;
import java.util.Optional;
import weftex.core.change.Action;
import weftex.core.change.Item;
import weftex.core.change.SchemaChange;
import weftex.core.change.Trace;
import weftex.core.compare.Comparison;
import weftex.core.match.Sides;
import weftex.core.model.Role;
import weftex.core.select.MemberFilter;
import weftex.core.select.Selection;
import weftex.core.site.TableModel;

/** Chooses changes, and members of their values, as a selection says. */
final class Chooser {
  private final Planner planner;
  private final Comparison comparison;
  private final List<SchemaChange> schema;
  private final Selection selection;

  /**
   * @param schema what the target lacks of the tables
   */
  Chooser(Planner planner, Comparison comparison, List<SchemaChange> schema, Selection selection) {
    this.planner = planner;
    this.comparison = comparison;
    this.schema = schema;
    this.selection = selection;
  }

  /** Chooses a change, or leaves it. */
  void choose(Planned planned) throws IOException {
    planned.members = MemberFilter.ALL;
    TableModel model = comparison.tables().get(planned.table);
    Sides sides = planner.sides(planned);
    boolean asked =
        selection.choosesTable(isNew(model.table().name()))
            && selection.chooses(
                model, sides.inSource() ? sides.rawSource() : sides.base().values());
    Role role = planner.role(planned, sides);
    if (asked && (role != Role.CONTENT || !selection.things().isAll())) {
      Optional<Item> item = planner.item(planned, sides);
      asked =
          selection
              .things()
              .accepts(
                  item,
                  selection.things().needTrace() ? planner.trace(planned, sides) : Trace.NONE);
      if (asked && selection.leavesOut(model, role, item)) {
        planned.leftOutAs =
            item.map(thing -> called(thing, role)).or(() -> Optional.of(model.table().name()));
        asked = false;
      }
    }
    planned.chosen = asked && planner.choosesAny(planned, sides, selection.members());
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
   * What a chosen thing needs and nobody objects to comes along: new content, and rows that the
   * source removed together with it.
   */
  boolean comesAlong(Planned needed) {
    return needed.action == Action.ADD
        ? needed.whose() == Role.CONTENT && selection.things().picks()
        : needed.with.map(owner -> owner.chosen).orElse(false);
  }
}
