package weftex.cli.command;

import java.io.IOException;
import java.nio.file.Path;
import java.time.ZoneOffset;
import java.time.format.DateTimeFormatter;
import java.util.List;
import org.apache.commons.cli.CommandLine;
import org.apache.commons.cli.Option;
import org.apache.commons.cli.Options;
import weftex.cli.ExitStatus;
import weftex.cli.Session;
import weftex.cli.render.InsideText;
import weftex.cli.render.Page;
import weftex.cli.render.RolesText;
import weftex.core.changeset.Action;
import weftex.core.plan.Plan;
import weftex.core.plan.Selection;
import weftex.store.Refusal;
import weftex.store.compare.ComparisonRun;
import weftex.store.compare.Drafting;

/** Writes a change set. */
final class DraftCommand implements Command {
  private static final DateTimeFormatter STAMP =
      DateTimeFormatter.ofPattern("yyyyMMdd-HHmmss").withZone(ZoneOffset.UTC);

  /** What was drafted. */
  public record Drafted(
      String file,
      String from,
      String into,
      int changes,
      List<String> schema,
      long adds,
      long updates,
      long removes,
      long conflicts,
      long offered,
      InsideReport inside,
      RolesReport roles) {}

  @Override
  public Options options() {
    Options options = new Options();
    SelectionOptions.addTo(options);
    options.addOption(Workplace.into());
    options.addOption(Workplace.twoWay());
    options.addOption(
        Option.builder("o")
            .longOpt("out")
            .hasArg()
            .argName("FILE")
            .desc("where to write it; a new file in .weftex/change-sets unless said")
            .get());
    return options;
  }

  @Override
  public String arguments() {
    return "[options]";
  }

  @Override
  public List<String> examples() {
    return List.of(
        "weftex draft",
        "weftex draft --tables 'page*,settings' --rows pages:40-60",
        "weftex draft --item 'page:Winter*' --item setting:season",
        "weftex draft --without timetable -o redesign.jsonl");
  }

  @Override
  public Result run(CommandLine line, Session session) throws Refusal, IOException {
    Workplace place = Workplace.open(line, session);
    Selection selection = SelectionOptions.read(line);
    String now = session.now();
    Path file =
        line.hasOption("out")
            ? session.folder().resolve(line.getOptionValue("out"))
            : place
                .state()
                .changeSets()
                .resolve(STAMP.format(session.clock().instant()) + ".jsonl");
    Drafted drafted;
    try (ComparisonRun run = place.compare(line, selection)) {
      Plan plan = run.planner().choose(selection);
      if (plan.size() + plan.schema().size() == 0) {
        throw new Refusal(
            Refusal.Kind.WRONG_INPUT,
            "Nothing that was chosen differs between "
                + run.source().name()
                + " and "
                + run.target().name()
                + ". No change set was written.",
            "See 'weftex compare' for what differs, or choose more.");
      }
      Drafting.write(file, run, plan, place.pair().site(), now, Session.TOOL);
      drafted =
          new Drafted(
              place.shown(file),
              run.source().name(),
              run.target().name(),
              plan.size() + plan.schema().size(),
              plan.schema().stream().map(change -> change.item().words()).toList(),
              plan.count(Action.ADD),
              plan.count(Action.UPDATE),
              plan.count(Action.REMOVE),
              plan.conflicts(),
              plan.offered(),
              InsideReport.of(run, plan),
              RolesReport.of(plan));
    }
    return new Result(
        drafted.conflicts() > 0 ? ExitStatus.TO_DECIDE : ExitStatus.DONE,
        drafted,
        page -> print(page, drafted));
  }

  private static void print(Page page, Drafted drafted) {
    page.line(
        "Drafted "
            + page.strong(drafted.from() + " → " + drafted.into())
            + ": "
            + drafted.adds()
            + " to add, "
            + drafted.updates()
            + " to update, "
            + drafted.removes()
            + " to remove.");
    if (!drafted.schema().isEmpty()) {
      page.line(
          "To be made first on "
              + drafted.into()
              + ": "
              + String.join(", ", drafted.schema())
              + ".");
    }
    if (drafted.conflicts() > 0) {
      page.line(
          page.alert(
              drafted.conflicts()
                  + (drafted.conflicts() == 1 ? " change needs" : " changes need")
                  + " a decision."));
    }
    if (drafted.offered() > 0) {
      page.line(
          drafted.offered()
              + (drafted.offered() == 1 ? " more row is" : " more rows are")
              + " offered, since chosen changes refer to "
              + (drafted.offered() == 1 ? "it." : "them."));
    }
    RolesText.print(page, drafted.roles(), drafted.into());
    InsideText.print(page, drafted.inside(), drafted.into());
    page.line("Change set: " + drafted.file());
    page.line(page.faint("Next: weftex review"));
  }
}
