package weftex.cli.command;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Set;
import java.util.TreeSet;
import org.apache.commons.cli.CommandLine;
import org.apache.commons.cli.Options;
import weftex.cli.render.Page;
import weftex.cli.render.Sizes;
import weftex.cli.render.Times;
import weftex.cli.render.Visible;
import weftex.cli.session.ExitStatus;
import weftex.cli.session.Session;
import weftex.core.change.Approval;
import weftex.core.change.Item;
import weftex.core.change.Review;
import weftex.store.Refusal;
import weftex.store.capture.Capture;
import weftex.store.changeset.ChangeSetFile;
import weftex.store.copy.Copy;
import weftex.store.receipt.Receipt;
import weftex.store.state.StateFolder;

/** Lists what was applied and undone. */
final class HistoryCommand implements Command {

  /** How many things of an event are named. */
  private static final int NAMED = 4;

  /** A larger change set is not read only to name its things. */
  private static final long LARGEST_READ = 8_000_000;

  private static final int UNDER_TIME = "2026-11-16 10:00 UTC  ".length();

  /**
   * Everything that was done, newest first, and the bases that were recorded.
   *
   * @param bases the one in force first, then the earlier ones, newest first
   * @param restorePoints saved copies that are still there, newest first
   */
  public record History(List<Event> events, List<Base> bases, List<RestorePoint> restorePoints) {}

  /**
   * A saved copy.
   *
   * @param at when it was saved, as an ISO 8601 instant
   */
  public record RestorePoint(String copy, String at, String file, long bytes) {}

  /**
   * A base.
   *
   * @param of the copy that was recorded
   * @param at when, as an ISO 8601 instant
   * @param inForce whether comparisons use it
   */
  public record Base(String of, String at, boolean inForce) {}

  /**
   * One apply or undo.
   *
   * @param things the first of the things that it made or took back, as a person knows them; none
   *     where the change set is not here any more
   */
  public record Event(
      String receipt,
      String kind,
      String undoes,
      boolean part,
      String from,
      String into,
      String at,
      String by,
      List<String> approvedBy,
      String changeSet,
      String file,
      List<String> things,
      String outcome,
      long adds,
      long updates,
      long removes) {}

  @Override
  public Options options() {
    Options options = new Options();
    return options;
  }

  @Override
  public String arguments() {
    return "[options]";
  }

  @Override
  public List<String> examples() {
    return List.of("weftex history", "weftex history --json");
  }

  @Override
  public Result run(CommandLine line, Session session) throws Refusal, IOException {
    Workplace place = Workplace.open(line, session);
    Set<String> open = new TreeSet<>();
    for (Receipt receipt : place.receipts().all()) {
      if (receipt.outcome() == Receipt.Outcome.UNKNOWN) {
        open.add(receipt.into());
      }
    }
    Set<String> busy = new TreeSet<>();
    for (String copy : open) {
      Copy target = Copy.reach(place.pair().copy(copy));
      if (Unfinished.settle(place, target, false)) {
        busy.add(target.spec().place());
      }
    }
    List<Event> events = new ArrayList<>();
    for (Receipt r : place.receipts().all()) {
      events.add(
          0,
          new Event(
              r.id(),
              r.kind(),
              r.undoes().orElse(""),
              r.part(),
              r.from(),
              r.into(),
              r.at(),
              r.by(),
              r.approvals().stream().map(Approval::by).toList(),
              r.changeSet(),
              r.file(),
              things(place, r),
              r.outcome() == Receipt.Outcome.UNKNOWN && busy.contains(r.target())
                  ? "under way"
                  : r.outcome().words(),
              r.adds(),
              r.updates(),
              r.removes()));
    }
    History history = new History(events, bases(place), restorePoints(place));
    return new Result(ExitStatus.DONE, history, page -> print(page, history));
  }

  /** What a receipt is about, as its change set tells. */
  private static List<String> things(Workplace place, Receipt receipt) throws IOException {
    Path file = StateFolder.kept(place.state().changeSets().resolve(receipt.file()));
    boolean tells =
        !receipt.part()
            && Files.isRegularFile(file)
            && ChangeSetFile.weight(file, place.keys()) <= LARGEST_READ;
    if (!tells) {
      return List.of();
    }
    try {
      ChangeSetFile set = ChangeSetFile.read(file, place.keys());
      if (!set.contents().draft().equals(receipt.changeSet())) {
        return List.of();
      }
      return set.outlines().stream()
          .filter(change -> set.review().standing(change.id()) == Review.Standing.MADE)
          .flatMap(change -> change.item().stream())
          .filter(item -> item.part().isEmpty())
          .map(Item::words)
          .distinct()
          .toList();
    } catch (Refusal e) {
      // Altered, or of another version: the receipt stands without it.
      return List.of();
    }
  }

  private static List<Base> bases(Workplace place) throws Refusal, IOException {
    List<Base> bases = new ArrayList<>();
    place.bases().earlier().forEach(b -> bases.add(0, new Base(b.copy(), b.marked(), false)));
    if (place.bases().isRecorded()) {
      Capture base = place.bases().open(place.pair().site());
      bases.add(0, new Base(base.copy(), base.marked(), true));
    }
    return bases;
  }

  private static List<RestorePoint> restorePoints(Workplace place) throws IOException {
    return place.restorePoints().all().stream()
        .map(p -> new RestorePoint(p.copy(), p.taken(), place.shown(p.file()), p.bytes()))
        .toList();
  }

  private static void print(Page page, History history) {
    if (history.events().isEmpty()) {
      page.line("Nothing was applied yet.");
    } else {
      printEvents(page, history);
    }
    for (Base base : history.bases()) {
      String what = base.of() + " of " + Times.shown(base.at());
      page.line(
          base.inForce() ? "Base: " + page.strong(what) + "." : "Earlier base: " + what + ".");
    }
    printPoints(page, history.restorePoints());
  }

  private static void printPoints(Page page, List<RestorePoint> points) {
    for (RestorePoint point : points) {
      page.line(
          "Restore point: "
              + page.strong(point.copy() + " of " + Times.shown(point.at()))
              + ", "
              + Sizes.shown(point.bytes()));
      page.line(page.faint("  " + point.file()));
    }
  }

  private static void printEvents(Page page, History history) {
    for (Event event : history.events()) {
      page.line(
          Times.shown(event.at())
              + "  "
              + page.strong(event.kind() + (event.part() ? " of a part" : ""))
              + (event.undoes().isEmpty() ? " " + event.from() + " → " : " on ")
              + event.into()
              + ", "
              + event.outcome()
              + ": "
              + event.adds()
              + " added, "
              + event.updates()
              + " updated, "
              + event.removes()
              + " removed");
      if (!event.things().isEmpty()) {
        int named = Math.min(NAMED, event.things().size());
        String things =
            Visible.text(String.join(", ", event.things().subList(0, named)))
                + (event.things().size() > named
                    ? " and " + (event.things().size() - named) + " more"
                    : "");
        page.words(UNDER_TIME, things);
      }
      String approved = String.join(", ", event.approvedBy());
      page.line(
          page.faint(
              " ".repeat(UNDER_TIME)
                  + "receipt "
                  + event.receipt()
                  + ", by "
                  + event.by()
                  + (approved.isEmpty() ? "" : ", approved by " + approved)));
    }
  }
}
