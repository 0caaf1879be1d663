package weftex.core.plan;

import java.io.IOException;
import java.util.List;
import java.util.Optional;
import weftex.core.change.Action;
import weftex.core.compare.Comparison;
import weftex.core.match.Matching;
import weftex.core.match.Sides;
import weftex.core.model.Role;
import weftex.core.row.Table;
import weftex.core.row.Value;
import weftex.core.site.SiteMap;
import weftex.core.site.TableModel;

/** Whose the rows of changes are. */
final class Roles {
  private final Planner planner;
  private final Comparison comparison;
  private final SiteMap site;
  private final Matching matching;
  private final Owners owners;

  Roles(Planner planner, Comparison comparison, SiteMap site, Matching matching, Owners owners) {
    this.planner = planner;
    this.comparison = comparison;
    this.site = site;
    this.matching = matching;
    this.owners = owners;
  }

  /**
   * Whose a row is: what it says itself, or else whose the thing is that it is a part of. A row
   * that came to be noise is still what it was.
   */
  Role of(Planned planned, Sides sides) throws IOException {
    if (planned.role.isPresent()) {
      return planned.role.get();
    }
    TableModel model = comparison.tables().get(planned.table);
    List<Value> now = sides.inSource() ? sides.rawSource() : sides.base().values();
    Role role = model.ownership().role(now);
    if (sides.base().isPresent()) {
      role = model.ownership().roleOfKnown(now);
      Role before = model.ownership().roleOfKnown(sides.base().values());
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
              .flatMap(table -> planner.ofTargetRow(table, at.row().key()))
              .filter(planned -> planned.action != Action.ADD);
      if (changed.isPresent() && (!onSource || isOf(changed.get(), at))) {
        return of(changed.get(), planner.sides(changed.get()));
      }
      boolean isNew = onSource && matching.isNew(at.model().table(), at.row().values());
      List<Value> ofOwner = at.row().values();
      Role role =
          isNew
              ? at.model().ownership().role(ofOwner)
              : at.model().ownership().roleOfKnown(ofOwner);
      if (role != Role.CONTENT) {
        return role;
      }
      owner = owners.owner(at.model(), at.row().values(), onSource);
    }
    return Role.CONTENT;
  }

  /** Whether a change is of a row of the source: a number may mean another row on each copy. */
  private boolean isOf(Planned planned, Owners.Owner onSource) throws IOException {
    Sides sides = planner.sides(planned);
    List<Integer> key = onSource.model().table().key();
    return sides.inSource()
        && Table.pick(sides.rawSource(), key).equals(Table.pick(onSource.row().values(), key));
  }
}
