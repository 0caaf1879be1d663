package weftex.cli.command;

import java.io.IOException;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.TreeMap;
import weftex.cli.page.Times;
import weftex.cli.result.CheckReport;
import weftex.cli.workplace.Folders;
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
import weftex.store.database.CatalogTable;
import weftex.store.file.PairFolders;
import weftex.store.schema.SchemaGrowth;
import weftex.store.tidy.InTheClear;

/** What a check finds, one kind after the other. */
final class CheckFindings {

  private CheckFindings() {}

  static CheckReport.CopyFound found(Copy copy) throws Refusal {
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
  static void warnOfOwn(Workplace place, Copy staging, Copy live, CheckWarnings warnings)
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

  static String files(Workplace place) throws Refusal {
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

  /** Whether the base fits copies that may have been made anew or restored since. */
  static void standings(
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
  static Map<String, String> notMade(Copy staging, Copy live) throws Refusal {
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

  static Optional<String> base(Workplace place) throws Refusal, IOException {
    if (!place.bases().isRecorded()) {
      return Optional.empty();
    }
    return Optional.of(Times.base(place.base()));
  }

  static List<Twins> twins(Workplace place, Copy staging, Copy live) throws Refusal, IOException {
    Capture base = place.base();
    return Twins.of(staging, live, place.receipts(), base);
  }

  static List<CheckReport.TableFound> tables(Workplace place, Copy staging, Copy live)
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
