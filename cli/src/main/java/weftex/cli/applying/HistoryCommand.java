package weftex.cli.applying;

import java.io.IOException;
import java.util.ArrayList;
import java.util.List;
import java.util.Set;
import java.util.TreeSet;
import org.apache.commons.cli.CommandLine;
import org.apache.commons.cli.Options;
import weftex.cli.render.HistoryText;
import weftex.cli.result.HistoryReport;
import weftex.cli.session.ExitStatus;
import weftex.cli.session.Session;
import weftex.cli.workplace.Command;
import weftex.cli.workplace.Result;
import weftex.cli.workplace.Unfinished;
import weftex.cli.workplace.Workplace;
import weftex.store.Refusal;
import weftex.store.capture.Bases;
import weftex.store.capture.Capture;
import weftex.store.copy.Copy;
import weftex.store.receipt.Receipt;
import weftex.store.state.Files0600;

/** Lists what was applied and undone. */
public final class HistoryCommand implements Command {

  @Override
  public Options options() {
    return new Options();
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
    Set<String> busy = busy(place);
    List<HistoryReport.Event> events = new ArrayList<>();
    for (Receipt r : place.receipts().all()) {
      boolean underWay = r.outcome() == Receipt.Outcome.UNKNOWN && busy.contains(r.target());
      events.add(0, HistoryEvents.event(place, r, underWay ? "under way" : r.outcome().words()));
    }
    HistoryReport history = new HistoryReport(events, bases(place), restorePoints(place));
    return new Result(ExitStatus.DONE, history, page -> HistoryText.print(page, history));
  }

  /** Copies on which somebody is still at work. */
  private Set<String> busy(Workplace place) throws Refusal, IOException {
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
    return busy;
  }

  private static List<HistoryReport.Base> bases(Workplace place) throws Refusal, IOException {
    List<HistoryReport.Base> bases = new ArrayList<>();
    for (Bases.Earlier b : place.bases().earlier()) {
      long bytes = Files0600.size(place.bases().folder(b));
      bases.add(0, new HistoryReport.Base(b.copy(), b.marked(), false, bytes));
    }
    if (place.bases().isRecorded()) {
      Capture base = place.bases().open(place.pair().site());
      long bytes = Files0600.size(place.bases().current());
      bases.add(0, new HistoryReport.Base(base.copy(), base.marked(), true, bytes));
    }
    return bases;
  }

  private static List<HistoryReport.RestorePoint> restorePoints(Workplace place)
      throws IOException {
    return place.restorePoints().all().stream()
        .map(
            p ->
                new HistoryReport.RestorePoint(
                    p.copy(), p.taken(), place.shown(p.file()), p.bytes()))
        .toList();
  }
}
