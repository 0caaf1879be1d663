package weftex.cli.applying;

import java.io.IOException;
import java.util.ArrayList;
import java.util.List;
import org.apache.commons.cli.CommandLine;
import org.apache.commons.cli.Option;
import org.apache.commons.cli.Options;
import weftex.cli.render.TidyText;
import weftex.cli.result.TidyReport;
import weftex.cli.session.ExitStatus;
import weftex.cli.session.Session;
import weftex.cli.workplace.Command;
import weftex.cli.workplace.Result;
import weftex.cli.workplace.Workplace;
import weftex.store.Refusal;
import weftex.store.database.CopySpec;
import weftex.store.dump.SqlFile;
import weftex.store.state.FileClaim;
import weftex.store.tidy.InTheClear;
import weftex.store.tidy.Leftover;
import weftex.store.tidy.Leftovers;

/** Removes what nobody needs any more. */
public final class TidyCommand implements Command {
  @Override
  public Options options() {
    Options options = new Options();
    options.addOption(
        Option.builder()
            .longOpt("yes")
            .desc(
                "remove them, compress what is old, and encrypt what is to be sealed (default: only list"
                    + " it)")
            .get());
    return options;
  }

  @Override
  public String arguments() {
    return "[options]";
  }

  @Override
  public List<String> examples() {
    return List.of("weftex tidy", "weftex tidy --yes");
  }

  @Override
  public Result run(CommandLine line, Session session) throws Refusal, IOException {
    Workplace place = Workplace.open(line, session);
    // While a base is recorded or a draft is written nobody knows what will be needed.
    FileClaim mark = place.hold("mark", "recording the base");
    try {
      FileClaim draft = place.hold("draft", "drafting");
      FileClaim restore = place.hold("restore", "restoring a copy");
      try {
        return tidied(line, session, place);
      } finally {
        restore.close();
        draft.close();
      }
    } finally {
      mark.close();
    }
  }

  private static Result tidied(CommandLine line, Session session, Workplace place)
      throws Refusal, IOException {
    Leftovers.Limits limits = place.pair().applying().tidy();
    List<Leftover> all =
        new ArrayList<>(
            new Leftovers(
                    place.state(),
                    place.bases(),
                    place.receipts(),
                    limits,
                    session.clock().instant())
                .all());
    TidyFindings.addPoints(place, all);
    boolean removes = line.hasOption("yes");
    for (Leftover leftover : removes ? all : List.<Leftover>of()) {
      leftover.remove();
    }
    InTheClear clear = place.inTheClear();
    InTheClear.Found unsealed = clear.all();
    if (removes) {
      clear.seal(unsealed);
    }
    TidyReport.Compressed compressed = TidyFindings.compressed(place, all, removes);
    List<CopySpec> scratches = TidyFindings.scratches(line, place);
    for (CopySpec scratch : removes ? scratches : List.<CopySpec>of()) {
      SqlFile.discard(scratch);
    }
    return report(place, all, removes, unsealed, compressed, scratches);
  }

  private static Result report(
      Workplace place,
      List<Leftover> all,
      boolean removes,
      InTheClear.Found unsealed,
      TidyReport.Compressed compressed,
      List<CopySpec> scratches)
      throws Refusal, IOException {
    Leftovers.Limits limits = place.pair().applying().tidy();
    TidyReport report =
        new TidyReport(
            removes,
            limits.days(),
            limits.keep(),
            all.stream()
                .map(
                    one ->
                        new TidyReport.Thing(
                            one.kind().words(), place.shown(one.path()), one.at(), one.bytes()))
                .toList(),
            scratches.stream().map(CopySpec::place).toList(),
            TidyFindings.aside(place),
            new TidyReport.Clear(
                unsealed.files().stream().map(place::shown).toList(),
                unsealed.drafts().stream().map(place::shown).toList()),
            compressed);
    return new Result(ExitStatus.DONE, report, page -> TidyText.print(page, report));
  }

  static boolean isLoadedInto(CopySpec scratch, CopySpec copy) {
    return copy instanceof CopySpec.Server of
        && scratch instanceof CopySpec.Server at
        && copy.origin().isPresent()
        && of.database().equals(at.database());
  }
}
