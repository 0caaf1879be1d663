package weftex.core.plan;

import java.io.IOException;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import weftex.core.change.Action;
import weftex.core.change.Item;
import weftex.core.compare.Comparison;
import weftex.core.match.Matching;
import weftex.core.match.Sides;
import weftex.core.model.PlaceRule;
import weftex.core.model.Role;
import weftex.core.reference.InsideReferences;
import weftex.core.reference.RowFinder;
import weftex.core.row.Row;
import weftex.core.row.Table;
import weftex.core.select.MemberFilter;
import weftex.core.site.TableModel;

/**
 * Settings that nobody chose and that say where a chosen thing is shown, such as the place of a
 * menu: of these the member that says it is offered, without the rest of the setting.
 */
final class Showings {
  private final Planner planner;
  private final Comparison comparison;
  private final Matching matching;
  private final Owners owners;
  private final RowFinder source;

  Showings(
      Planner planner, Comparison comparison, Matching matching, Owners owners, RowFinder source) {
    this.planner = planner;
    this.comparison = comparison;
    this.matching = matching;
    this.owners = owners;
    this.source = source;
  }

  /** The changes that are to be offered, cut down to those members. */
  List<Planned> offered(List<Planned> all) throws IOException {
    Set<Item> chosen = new HashSet<>();
    List<Planned> offered = new ArrayList<>();
    for (Planned planned : all) {
      if (planned.isWritten() || planned.action == Action.REMOVE) {
        continue;
      }
      TableModel model = comparison.tables().get(planned.table);
      boolean mayShow =
          model.contents().inside().stream()
              .anyMatch(inside -> inside.places().stream().anyMatch(PlaceRule::offer));
      if (!mayShow) {
        continue;
      }
      Sides sides = planner.sides(planned);
      List<List<String>> paths = new ArrayList<>();
      for (InsideReferences.Showing showing : matching.showings(planned.table, sides.rawSource())) {
        if (chosen.isEmpty()) {
          chosen.addAll(chosen(all));
        }
        if (shown(showing.shown()).filter(chosen::contains).isPresent()) {
          paths.add(showing.path());
        }
      }
      boolean offers =
          !paths.isEmpty()
              && model.table().hasKey()
              && planner.role(planned, sides) == Role.CONTENT
              && planner.choosesAny(planned, sides, MemberFilter.ofPaths(paths));
      if (offers) {
        offered.add(planned);
      }
    }
    return offered;
  }

  private Set<Item> chosen(List<Planned> all) throws IOException {
    Set<Item> chosen = new HashSet<>();
    for (Planned planned : all) {
      if (planned.chosen && planned.action != Action.REMOVE) {
        planner.item(planned, planner.sides(planned)).map(Showings::whole).ifPresent(chosen::add);
      }
    }
    return chosen;
  }

  /** The thing that a row of the source is. */
  private Optional<Item> shown(InsideReferences.Found found) throws IOException {
    Optional<Integer> position = matching.newcomers().positionOf(found.table());
    if (position.isEmpty()) {
      return Optional.empty();
    }
    TableModel model = comparison.tables().get(position.get());
    Table table = model.table();
    List<Row> rows = source.find(table, List.of(table.number()), List.of(found.number()), 1);
    return rows.isEmpty()
        ? Optional.empty()
        : owners.item(model, rows.get(0).values(), true).map(Showings::whole);
  }

  private static Item whole(Item item) {
    return new Item(item.kind(), item.name(), "");
  }
}
