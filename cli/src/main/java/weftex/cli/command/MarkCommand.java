package weftex.cli.command;

import java.io.IOException;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Collectors;
import org.apache.commons.cli.CommandLine;
import org.apache.commons.cli.Option;
import org.apache.commons.cli.Options;
import weftex.cli.ExitStatus;
import weftex.cli.Session;
import weftex.cli.render.Page;
import weftex.cli.render.Progress;
import weftex.core.site.Role;
import weftex.core.site.SiteMap;
import weftex.store.Refusal;
import weftex.store.capture.CaptureWriter;
import weftex.store.copy.Copy;
import weftex.store.copy.CopySpec;
import weftex.store.copy.Layout;
import weftex.store.copy.Pairing;
import weftex.store.copy.Snapshot;
import weftex.store.state.FileClaim;

/** Records the base. */
final class MarkCommand implements Command {

  /** What was recorded. */
  public record Marked(
      String from, String place, String marked, int tables, long rows, List<String> leftOut) {}

  @Override
  public Options options() {
    Options options = new Options();
    options.addOption(
        Option.builder()
            .longOpt("from")
            .hasArg()
            .argName("COPY")
            .desc("the copy to record: live unless said, or staging")
            .get());
    return options;
  }

  @Override
  public String arguments() {
    return "[--from COPY]";
  }

  @Override
  public List<String> examples() {
    return List.of("weftex mark", "weftex mark --from staging");
  }

  @Override
  public Result run(CommandLine line, Session session) throws Refusal, IOException {
    Workplace place = Workplace.open(line, session);
    CopySpec spec = place.pair().copy(line.getOptionValue("from", "live"));
    Copy copy = Copy.reach(spec);
    Optional<Copy> other = other(place, copy, session);
    if (other.isPresent()) {
      KnownPairs.check(place, copy, other.get());
    }
    Pairing pairing = pairing(copy, other.orElse(copy));
    SiteMap site =
        SiteMap.resolve(
            place.pair().model(),
            pairing.shared().stream().map(table -> table.target().table()).toList());
    Set<String> noise =
        site.tables().stream()
            .filter(model -> model.role() == Role.NOISE)
            .map(model -> model.table().name())
            .collect(Collectors.toCollection(java.util.TreeSet::new));
    boolean isTarget = spec.name().equals("live");
    List<Layout> layouts =
        (isTarget ? pairing.targetLayouts() : pairing.sourceLayouts())
            .stream().filter(layout -> !noise.contains(layout.table().name())).toList();
    String marked = session.now();
    CaptureWriter writer =
        new CaptureWriter(place.pair().site(), spec.name(), spec.place(), Session.TOOL);
    long rows;
    FileClaim held = place.hold("mark", "recording the base");
    try (Snapshot snapshot = copy.snapshot(layouts);
        Progress progress = Progress.start(session, "recording " + spec.name(), -1)) {
      rows = writer.write(place.state().base(), layouts, snapshot, marked, progress);
    } finally {
      held.close();
    }
    Marked result =
        new Marked(spec.name(), spec.place(), marked, layouts.size(), rows, List.copyOf(noise));
    return new Result(ExitStatus.DONE, result, page -> print(page, result));
  }

  /** The other copy; as long as there is none, the one at hand stands for both. */
  private static Optional<Copy> other(Workplace place, Copy copy, Session session) {
    try {
      return Optional.of(Copy.reach(place.pair().other(copy.name())));
    } catch (Refusal e) {
      session
          .err()
          .println(
              "weftex: The other copy can't be reached yet, so all tables of "
                  + copy.name()
                  + " are recorded.");
      return Optional.empty();
    }
  }

  /** The tables that both copies have. */
  private static Pairing pairing(Copy copy, Copy other) throws Refusal {
    return copy.name().equals("live") ? Pairing.of(other, copy) : Pairing.of(copy, other);
  }

  private static void print(Page page, Marked marked) {
    page.line(
        "Recorded "
            + page.strong(marked.from())
            + " as the base: "
            + marked.rows()
            + " rows of "
            + marked.tables()
            + " tables, "
            + Times.shown(marked.marked())
            + ".");
    if (!marked.leftOut().isEmpty()) {
      page.line("Left out as noise: " + String.join(", ", marked.leftOut()) + ".");
    }
  }
}
