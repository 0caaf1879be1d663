package weftex.cli.command;

import java.io.IOException;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.apache.commons.cli.CommandLine;
import org.apache.commons.cli.Option;
import org.apache.commons.cli.Options;
import weftex.cli.page.Sizes;
import weftex.cli.render.BriefText;
import weftex.cli.render.CheckText;
import weftex.cli.result.BriefReport;
import weftex.cli.result.CheckReport;
import weftex.cli.result.RolesReport;
import weftex.cli.session.ExitStatus;
import weftex.cli.session.Session;
import weftex.cli.workplace.AddressCheck;
import weftex.cli.workplace.Command;
import weftex.cli.workplace.Result;
import weftex.cli.workplace.Workplace;
import weftex.store.Refusal;
import weftex.store.copy.Copy;
import weftex.store.copy.Pairing;
import weftex.store.database.CopySpec;
import weftex.store.mariadb.LoginEvidence;

/** Connects to both copies and says what is there and what could go wrong. */
final class CheckCommand implements Command {

  private static final String BUNDLE = "bundle";

  @Override
  public Options options() {
    Options options = new Options();
    options.addOption(
        Option.builder()
            .longOpt("twins")
            .desc(
                "count the rows that merges know under different IDs, and say which no longer hold")
            .get());
    options.addOption(
        Option.builder()
            .longOpt(BUNDLE)
            .hasArg()
            .argName("FILE")
            .desc(
                "pack versions, settings, the model, the log and the last failure for whoever helps: no"
                    + " rows, no passwords")
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
        "weftex check", "weftex check --twins", "weftex check --config sites/skerrow.yaml --json");
  }

  @Override
  public Result run(CommandLine line, Session session) throws Refusal, IOException {
    Workplace place = Workplace.open(line, session);
    List<Copy> copies = reachBoth(place);
    if (line.hasOption(BUNDLE)) {
      return bundle(line.getOptionValue(BUNDLE), session, place, copies);
    }
    Copy staging = copies.get(0);
    Copy live = copies.get(1);
    Pairing pairing = Pairing.of(staging, live);
    CheckWarnings warnings = new CheckWarnings();
    List<CheckReport.CopyFound> found = new ArrayList<>();
    for (Copy copy : copies) {
      found.add(CheckFindings.found(copy));
      warnings.look(copy, copy == live);
    }
    pairing.shared().forEach(warnings::look);
    pairing
        .incomparable()
        .forEach((name, why) -> warnings.add("table " + name + " can't be compared: " + why));
    CheckFindings.notMade(staging, live)
        .forEach((name, why) -> warnings.add("table " + name + " is " + why));
    List<String> problems = addressProblems(place, staging, live);
    CheckFindings.standings(place, staging, live, problems, warnings);
    CheckFindings.warnOfOwn(place, staging, live, warnings);
    CheckReport checked =
        new CheckReport(
            found,
            CheckFindings.tables(place, staging, live),
            RolesReport.Unknown.of(place.siteMap(live), Map.of(), name -> true),
            problems,
            warnings.all(),
            CheckFindings.files(place),
            CheckFindings.base(place),
            line.hasOption("twins")
                ? Optional.of(CheckFindings.twins(place, staging, live))
                : Optional.empty());
    return new Result(
        problems.isEmpty() ? ExitStatus.DONE : ExitStatus.PROTECTED,
        checked,
        page -> CheckText.print(page, checked));
  }

  private List<String> addressProblems(Workplace place, Copy staging, Copy live)
      throws Refusal, IOException {
    List<String> problems = new ArrayList<>();
    try {
      AddressCheck.check(place.pair(), staging, live);
    } catch (Refusal e) {
      problems.add(e.getMessage() + " " + e.next());
    }
    return problems;
  }

  private static Result bundle(String name, Session session, Workplace place, List<Copy> copies)
      throws Refusal, IOException {
    Path file = session.folder().resolve(name);
    Bundle bundle = Bundle.of(place, copies);
    place.say(
        "Packing for whoever helps, without rows of the site and without passwords: "
            + String.join(
                ", ",
                bundle.contents().entrySet().stream()
                    .map(each -> each.getKey() + " (" + Sizes.shown(each.getValue()) + ")")
                    .toList())
            + ".");
    bundle.write(file, place.shown(file));
    BriefReport.Bundled bundled = new BriefReport.Bundled(place.shown(file), bundle.contents());
    return new Result(ExitStatus.DONE, bundled, page -> BriefText.print(page, bundled));
  }

  /**
   * Tries both copies before giving up, since what one answers may explain what is wrong with the
   * other.
   */
  private static List<Copy> reachBoth(Workplace place) throws Refusal {
    List<Copy> reached = new ArrayList<>();
    List<Refusal> refused = new ArrayList<>();
    for (CopySpec spec : List.of(place.pair().staging(), place.pair().live())) {
      try {
        reached.add(Copy.reach(spec));
      } catch (Refusal e) {
        refused.add(e);
      }
    }
    if (reached.size() == 2) {
      return reached;
    }
    Optional<String> evidence =
        reached.isEmpty() || refused.size() != 1
            ? Optional.empty()
            : LoginEvidence.about(
                place.pair().other(reached.get(0).name()), reached.get(0), refused.get(0));
    Refusal first = refused.get(0);
    String others =
        refused.size() > 1 ? " " + refused.get(1).getMessage() + " " + refused.get(1).next() : "";
    throw new Refusal(
        first.kind(), first.getMessage(), evidence.orElse(first.next()) + others, first);
  }
}
