package weftex.cli.drafting;

import java.io.IOException;
import java.util.Arrays;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Collectors;
import weftex.core.change.Item;
import weftex.core.model.Role;
import weftex.core.plan.Plan;
import weftex.core.plan.Planner;
import weftex.core.row.Glob;
import weftex.core.row.RowName;
import weftex.core.select.ItemFilter;
import weftex.core.select.MemberFilter;
import weftex.core.select.Selection;
import weftex.core.site.ItemNaming;
import weftex.core.site.TableModel;
import weftex.core.yaml.Nearest;
import weftex.store.Refusal;
import weftex.store.compare.ComparisonRun;

/** Says that a thing which is asked for by name is not there, and what comes nearest to it. */
final class NothingMeant {
  private static final int NAMED = 5;

  private NothingMeant() {}

  /**
   * Checks every thing that a selection names.
   *
   * @throws Refusal if nothing that differs is called so
   */
  static void check(ComparisonRun run, Plan plan, Selection selection) throws Refusal, IOException {
    for (String with : selection.with()) {
      checkWith(with, run, plan);
    }
    List<ItemFilter> filters = selection.things().items();
    if (filters.isEmpty()) {
      return;
    }
    Set<Item> chosen = plan.things();
    for (ItemFilter filter : filters) {
      if (chosen.stream().noneMatch(filter::accepts)) {
        // Only now, since it takes a second look at everything.
        Set<Item> all = run.planner().choose(Selection.CONTENT).things();
        boolean elsewhere = all.stream().anyMatch(filter::accepts);
        throw selection.members().picks() && elsewhere
            ? notInMembers(filter, selection.members())
            : refusal(filter, all);
      }
    }
  }

  /**
   * Checks every row that is to stay a thing of its own, or to be the same as another.
   *
   * @throws Refusal if the source did not add it, or another row stands against it
   */
  static void check(ComparisonRun run, Planner planner) throws Refusal, IOException {
    for (String reason : planner.notSame()) {
      throw new Refusal(
          Refusal.Kind.WRONG_INPUT,
          "--same can't be: " + reason + ". Nothing was changed.",
          "'weftex check --twins' lists what is known as one thing; write TABLE:ID=ID, "
              + run.source().name()
              + "'s ID first.");
    }
    for (RowName row : planner.notApart()) {
      throw new Refusal(
          Refusal.Kind.WRONG_INPUT,
          "--both names "
              + row.table()
              + ":"
              + row.number()
              + ", which is no row that "
              + run.source().name()
              + " added. Nothing was changed.",
          "Write TABLE:ID as 'weftex review --both N' or 'weftex compare --table TABLE' shows it.");
    }
  }

  /**
   * Refuses a slip of the pen in what is to be brought. A kind of which nothing differs today is
   * none: models may take kinds from the rows.
   */
  private static void checkWith(String with, ComparisonRun run, Plan plan)
      throws Refusal, IOException {
    Set<String> known = new LinkedHashSet<>(run.tables().noise());
    for (TableModel table : run.site().tables()) {
      known.add(table.table().name());
      table.item().map(ItemNaming::kind).filter(kind -> !kind.isEmpty()).ifPresent(known::add);
    }
    plan.things().forEach(item -> known.add(item.kind()));
    boolean role = Arrays.stream(Role.values()).anyMatch(r -> r.words().equals(with));
    // Whole, as a table's name may hold a dot.
    String word = known.contains(with) ? with : with.replaceFirst("[:.].*", "");
    boolean meant =
        known.stream().anyMatch(name -> Glob.matches(word, name) || Glob.matches(word, name + "s"));
    Optional<String> near = role || meant ? Optional.empty() : Nearest.to(word, known);
    if (near.isPresent()) {
      throw new Refusal(
          Refusal.Kind.WRONG_INPUT,
          "No table, and nothing that differs, is called '" + with + "'. Nothing was changed.",
          "Did you mean '" + near.get() + "'?");
    }
  }

  private static Refusal notInMembers(ItemFilter filter, MemberFilter members) {
    return new Refusal(
        Refusal.Kind.WRONG_INPUT,
        "'"
            + filter.kind()
            + ":"
            + filter.name()
            + "' differs, but not in the member "
            + String.join(", ", members.members())
            + ". Nothing was changed.",
        "Run it without --member to see what differs.");
  }

  private static Refusal refusal(ItemFilter filter, Set<Item> all) {
    String asked = filter.kind() + ":" + filter.name();
    Set<String> kinds =
        all.stream().map(Item::kind).collect(Collectors.toCollection(LinkedHashSet::new));
    Set<String> names =
        all.stream()
            .filter(item -> item.kind().equals(filter.kind()))
            .map(item -> item.kind() + ":" + item.name())
            .collect(Collectors.toCollection(LinkedHashSet::new));
    String listed =
        names.isEmpty()
            ? "Things that differ are of the kinds " + String.join(", ", kinds) + "."
            : "There "
                + (names.size() == 1 ? "is " : "are ")
                + names.stream().limit(NAMED).collect(Collectors.joining(", "))
                + (names.size() > NAMED ? " and " + (names.size() - NAMED) + " more." : ".");
    return new Refusal(
        Refusal.Kind.WRONG_INPUT,
        "Nothing that differs and is chosen is called '" + asked + "'. Nothing was changed.",
        Nearest.to(names.isEmpty() ? filter.kind() : asked, names.isEmpty() ? kinds : names)
            .map(near -> "Did you mean '" + near + "'?")
            .orElse(all.isEmpty() ? "Nothing differs at all." : listed));
  }
}
