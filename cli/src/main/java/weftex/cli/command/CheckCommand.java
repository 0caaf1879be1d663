package weftex.cli.command;

import java.io.IOException;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.TreeMap;
import org.apache.commons.cli.CommandLine;
import org.apache.commons.cli.Option;
import org.apache.commons.cli.Options;
import weftex.cli.page.Sizes;
import weftex.cli.page.Times;
import weftex.cli.render.BriefText;
import weftex.cli.render.CheckText;
import weftex.cli.result.BriefReport;
import weftex.cli.result.CheckReport;
import weftex.cli.result.RolesReport;
import weftex.cli.session.ExitStatus;
import weftex.cli.session.Session;
import weftex.cli.workplace.AddressCheck;
import weftex.cli.workplace.Command;
import weftex.cli.workplace.Folders;
import weftex.cli.workplace.Result;
import weftex.cli.workplace.StandingText;
import weftex.cli.workplace.Workplace;
import weftex.core.model.Role;
import weftex.core.row.Column;
import weftex.core.site.SiteMap;
import weftex.store.Refusal;
import weftex.store.capture.Capture;
import weftex.store.compare.CopyMarks;
import weftex.store.compare.MadeAnew;
import weftex.store.compare.Twins;
import weftex.store.copy.Copy;
import weftex.store.copy.Pairing;
import weftex.store.database.CatalogTable;
import weftex.store.database.CopySpec;
import weftex.store.file.PairFolders;
import weftex.store.mariadb.LoginEvidence;
import weftex.store.schema.SchemaGrowth;
import weftex.store.tidy.InTheClear;

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
      found.add(found(copy));
      warnings.look(copy, copy == live);
    }
    pairing.shared().forEach(warnings::look);
    pairing
        .incomparable()
        .forEach((name, why) -> warnings.add("table " + name + " can't be compared: " + why));
    notMade(staging, live).forEach((name, why) -> warnings.add("table " + name + " is " + why));
    List<String> problems = new ArrayList<>();
    try {
      AddressCheck.check(place.pair(), staging, live);
    } catch (Refusal e) {
      problems.add(e.getMessage() + " " + e.next());
    }
    standings(place, staging, live, problems, warnings);
    warnOfOwn(place, staging, live, warnings);
    CheckReport checked =
        new CheckReport(
            found,
            tables(place, staging, live),
            RolesReport.Unknown.of(place.siteMap(live), Map.of(), name -> true),
            problems,
            warnings.all(),
            files(place),
            base(place),
            line.hasOption("twins") ? Optional.of(twins(place, staging, live)) : Optional.empty());
    return new Result(
        problems.isEmpty() ? ExitStatus.DONE : ExitStatus.PROTECTED,
        checked,
        page -> CheckText.print(page, checked));
  }

  private static CheckReport.CopyFound found(Copy copy) throws Refusal {
    return new CheckReport.CopyFound(
        copy.name(),
        copy.spec().place(),
        copy.catalog().server(),
        copy.line(),
        copy.spec().prefix(),
        copy.catalog().tables().size(),
        copy.catalog().otherTables());
  }

  /** What is each copy's own, on the disk and in its settings. */
  private static void warnOfOwn(Workplace place, Copy staging, Copy live, CheckWarnings warnings)
      throws Refusal, IOException {
    InTheClear.Found clear = place.inTheClear().all();
    if (!clear.isEmpty()) {
      warnings.add(
          "in "
              + place.shown(place.state().folder())
              + " there are files in the clear, of before 'sealed' was said in weftex.yaml; see"
              + " 'weftex tidy'");
    }
    List<String> own = OwnSettings.differing(place.pair().model(), staging, live);
    if (!own.isEmpty()) {
      warnings.add(
          "the copies differ in what is each copy's own and travels only by name: "
              + String.join(", ", own)
              + "; content that needs it may not work on live without");
    }
  }

  private static String files(Workplace place) throws Refusal {
    String staging = place.pair().staging().name();
    String live = place.pair().live().name();
    try (PairFolders folders = Folders.open(place, false)) {
      if (folders.areOpen()) {
        return "Files travel along: those of "
            + staging
            + " are in "
            + folders.of(staging).folder().words()
            + ", those of "
            + live
            + " in "
            + folders.of(live).folder().words()
            + ".";
      }
      return folders.problem().isEmpty()
          ? ""
          : "Files are not looked at: " + folders.problem() + ".";
    }
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

  /** Whether the base fits copies that may have been made anew or restored since. */
  private static void standings(
      Workplace place, Copy staging, Copy live, List<String> problems, CheckWarnings warnings)
      throws Refusal, IOException {
    if (!place.bases().isRecorded()) {
      return;
    }
    for (Copy copy : List.of(staging, live)) {
      String other = copy == live ? staging.name() : live.name();
      CopyMarks.Standing standing = CopyMarks.of(copy, other, place.base()).standing();
      Optional<String> sentence = StandingText.sentence(copy.name(), other, standing);
      if (standing == CopyMarks.Standing.OTHERS) {
        problems.add(sentence.orElseThrow());
      } else {
        sentence.ifPresent(warnings::add);
        Copy from = copy == live ? staging : live;
        if (MadeAnew.isSo(copy, from, place.pair().model(), place.receipts(), place.base())) {
          problems.add(
              MadeAnew.sentence(copy.name(), other) + " Record a new base with 'weftex mark'.");
        }
      }
    }
  }

  /** What live lacks and a change set can't make there. */
  private static Map<String, String> notMade(Copy staging, Copy live) throws Refusal {
    return SchemaGrowth.of(
            staging,
            live,
            name ->
                live.catalog()
                    .find(name)
                    .map(t -> t.table().columns().stream().map(Column::name).toList())
                    .orElse(List.of()),
            name -> true,
            name -> false)
        .notMade();
  }

  private static Optional<String> base(Workplace place) throws Refusal, IOException {
    if (!place.bases().isRecorded()) {
      return Optional.empty();
    }
    return Optional.of(Times.base(place.base()));
  }

  private static List<Twins> twins(Workplace place, Copy staging, Copy live)
      throws Refusal, IOException {
    Capture base = place.base();
    return Twins.of(staging, live, place.receipts(), base);
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

  private static List<CheckReport.TableFound> tables(Workplace place, Copy staging, Copy live)
      throws Refusal {
    Map<String, List<Optional<CatalogTable>>> all = new TreeMap<>();
    for (String name : staging.catalog().tables().keySet()) {
      all.put(name, List.of(staging.catalog().find(name), live.catalog().find(name)));
    }
    for (String name : live.catalog().tables().keySet()) {
      all.put(name, List.of(staging.catalog().find(name), live.catalog().find(name)));
    }
    List<CheckReport.TableFound> found = new ArrayList<>();
    for (Map.Entry<String, List<Optional<CatalogTable>>> entry : all.entrySet()) {
      boolean inStaging = entry.getValue().get(0).isPresent();
      boolean inLive = entry.getValue().get(1).isPresent();
      SiteMap site = place.siteMap(inLive ? live : staging);
      Role role = site.table(entry.getKey()).ownership().role();
      found.add(
          new CheckReport.TableFound(
              entry.getKey(),
              role.words(),
              inStaging ? staging.lookup().count(entry.getValue().get(0).get()) : -1,
              inLive ? live.lookup().count(entry.getValue().get(1).get()) : -1,
              inStaging && inLive ? "" : inLive ? "only on live" : "only on staging"));
    }
    return found;
  }
}
