package weftex.cli.applying;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.SortedSet;
import java.util.TreeSet;
import org.apache.commons.cli.CommandLine;
import org.apache.commons.cli.Option;
import org.apache.commons.cli.Options;
import weftex.cli.session.Session;
import weftex.cli.workplace.Chosen;
import weftex.cli.workplace.Numbers;
import weftex.cli.workplace.SelectionOptions;
import weftex.cli.workplace.Workplace;
import weftex.core.change.Item;
import weftex.core.change.Outline;
import weftex.core.change.Review;
import weftex.core.decide.TakingBack;
import weftex.core.select.Selection;
import weftex.store.Refusal;
import weftex.store.changeset.ChangeSetFile;
import weftex.store.receipt.Receipt;
import weftex.store.state.StateFolder;

/**
 * Some changes of an apply, by what they are about. A receipt has rows, so the change set that was
 * applied must still be there to tell.
 *
 * @param changes the chosen ones, and all that can't stay without them
 * @param chosen the things that were asked for, with how many rows of them
 * @param along the things that go along
 */
record ChosenChanges(
    SortedSet<Integer> changes, Map<String, Integer> chosen, Map<String, Integer> along) {
  private static final String NUMBERS = "change";
  private static final String FILE = "change-set";

  static void addTo(Options options) {
    SelectionOptions.addChoosing(options);
    options.addOption(
        Option.builder()
            .longOpt(NUMBERS)
            .hasArg()
            .argName("NUMBERS")
            .desc("the changes of these numbers, such as 3,7-9")
            .get());
    options.addOption(
        Option.builder()
            .longOpt(FILE)
            .hasArg()
            .argName("FILE")
            .desc("where the applied change set is now (default: where it was drafted)")
            .get());
  }

  static Map<String, List<String>> headings() {
    return SelectionOptions.heading(NUMBERS, FILE);
  }

  /** Those that the command line asks for; empty if it asks for none, and so for all. */
  static Optional<ChosenChanges> of(
      CommandLine line, Session session, Workplace place, Receipt applied)
      throws Refusal, IOException {
    if (!SelectionOptions.isSaid(line) && !line.hasOption(NUMBERS)) {
      return Optional.empty();
    }
    ChangeSetFile reviewed = applied(line, session, place, applied);
    Path file = reviewed.file();
    Review review = reviewed.review();
    Set<Integer> numbers = line.hasOption(NUMBERS) ? Numbers.list(line, NUMBERS) : new TreeSet<>();
    boolean selects = SelectionOptions.isSaid(line);
    Selection selection = place.selection(line).selection(session.clock().instant());
    Set<Integer> wanted = new TreeSet<>();
    Map<Integer, Item> things = new LinkedHashMap<>();
    TakingBack taking = new TakingBack();
    Set<Integer> chosen = selects ? Chosen.of(reviewed, selection) : Set.of();
    for (Outline change : reviewed.outlines()) {
      if (review.standing(change.id()) == Review.Standing.MADE) {
        taking.see(change);
        things.put(change.id(), change.thing());
        if (chosen.contains(change.id()) || numbers.contains(change.id())) {
          wanted.add(change.id());
        }
      }
    }
    if (wanted.isEmpty()) {
      throw new Refusal(
          Refusal.Kind.WRONG_INPUT,
          "Nothing that was chosen was made by " + place.shown(file) + ". Nothing was changed.",
          "'weftex review " + place.shown(file) + " --list' lists its changes.");
    }
    SortedSet<Integer> all = taking.of(wanted);
    Set<Integer> along = new TreeSet<>(all);
    along.removeAll(wanted);
    return Optional.of(new ChosenChanges(all, counted(wanted, things), counted(along, things)));
  }

  private static Map<String, Integer> counted(Set<Integer> changes, Map<Integer, Item> things) {
    Map<String, Integer> counted = new LinkedHashMap<>();
    for (int change : changes) {
      Item thing = things.get(change);
      counted.merge(new Item(thing.kind(), thing.name(), "").words(), 1, Integer::sum);
    }
    return counted;
  }

  /**
   * The change set that was applied.
   *
   * @throws Refusal if it is not there any more, or is another one
   */
  static ChangeSetFile applied(CommandLine line, Session session, Workplace place, Receipt applied)
      throws Refusal {
    List<Path> places =
        line.hasOption(FILE)
            ? List.of(session.folder().resolve(line.getOptionValue(FILE)))
            : List.of(
                place.state().changeSets().resolve(applied.file()),
                session.folder().resolve(applied.file()));
    Optional<Path> there = places.stream().map(StateFolder::kept).filter(Files::exists).findFirst();
    if (there.isEmpty()) {
      throw new Refusal(
          Refusal.Kind.WRONG_INPUT,
          "The change set "
              + applied.file()
              + " that was applied is not there any more, so nobody can say which rows belong to which"
              + " thing. Nothing was changed.",
          "Say where it is with --" + FILE + ", or take everything back.");
    }
    ChangeSetFile reviewed = ChangeSetFile.read(there.get(), place.keys());
    if (!reviewed.contents().draft().equals(applied.changeSet())) {
      throw new Refusal(
          Refusal.Kind.PROTECTED,
          place.shown(there.get())
              + " is not the change set that was applied with "
              + applied.id()
              + ". Nothing was changed.",
          "Say where that is with --" + FILE + ".");
    }
    return reviewed;
  }
}
