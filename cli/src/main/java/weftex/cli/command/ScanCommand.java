package weftex.cli.command;

import java.io.IOException;
import java.math.BigInteger;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.TreeMap;
import org.apache.commons.cli.CommandLine;
import org.apache.commons.cli.Option;
import org.apache.commons.cli.Options;
import weftex.cli.page.Progress;
import weftex.cli.render.ScanText;
import weftex.cli.result.ScanReport;
import weftex.cli.session.ExitStatus;
import weftex.cli.session.Session;
import weftex.cli.workplace.Command;
import weftex.cli.workplace.Folders;
import weftex.cli.workplace.Numbers;
import weftex.cli.workplace.Result;
import weftex.cli.workplace.Workplace;
import weftex.core.row.RowName;
import weftex.core.scan.FindingKind;
import weftex.core.scan.Findings;
import weftex.store.Refusal;
import weftex.store.compare.Twins;
import weftex.store.copy.Copy;
import weftex.store.database.CopySpec;
import weftex.store.file.CopyFiles;
import weftex.store.scan.CopyScan;
import weftex.store.scan.FolderScan;

/** Looks through one copy for what is wrong in it. */
final class ScanCommand implements Command {
  private static final String KEPT_UNLESS_SAID = "5";
  private static final String FILES = "files";

  @Override
  public Options options() {
    Options options = new Options();
    options.addOption(
        Option.builder()
            .longOpt("limit")
            .hasArg()
            .argName("N")
            .desc("name at most this many rows of each sort (default: 5)")
            .get());
    options.addOption(
        Option.builder()
            .longOpt(FILES)
            .desc(
                "also look through the folders of files: which no row names, and which hold the same")
            .get());
    return options;
  }

  @Override
  public String arguments() {
    return "[COPY] [options]";
  }

  @Override
  public List<String> examples() {
    return List.of("weftex scan", "weftex scan --files", "weftex scan staging --limit 50 --json");
  }

  @Override
  public Result run(CommandLine line, Session session) throws Refusal, IOException {
    Workplace place = Workplace.open(line, session);
    String name = place.copyName(line);
    CopySpec spec = place.pair().copy(name);
    Optional<CopyFiles> files = Folders.files(place, spec);
    try {
      return scan(line, session, place, spec, files);
    } finally {
      files.ifPresent(CopyFiles::close);
    }
  }

  private static Result scan(
      CommandLine line, Session session, Workplace place, CopySpec spec, Optional<CopyFiles> files)
      throws Refusal, IOException {
    String name = spec.name();
    int kept = Numbers.positive(line, "limit", KEPT_UNLESS_SAID, "scan");
    if (line.hasOption(FILES) && files.isEmpty()) {
      throw new Refusal(
          Refusal.Kind.WRONG_INPUT,
          "The files of "
              + name
              + " can't be looked through: "
              + Folders.problem(place, spec)
              + ". Nothing was changed.",
          "Name its 'folder' in weftex.yaml.");
    }
    Copy copy = Copy.reach(spec);
    CopyScan scan =
        new CopyScan(
            copy,
            place.pair().model(),
            new CopyScan.Other(
                place.pair().other(name), place.pair().addresses(), known(place, name)),
            files,
            kept);
    Findings findings;
    try (Progress progress = Progress.start(session, "scanning " + name, copy.roughRows())) {
      findings = scan.run(progress);
    }
    return reported(line, place, spec, name, scan, findings);
  }

  private static Result reported(
      CommandLine line,
      Workplace place,
      CopySpec spec,
      String name,
      CopyScan scan,
      Findings findings)
      throws Refusal, IOException {
    Optional<FolderScan> folders =
        line.hasOption(FILES)
            ? Optional.of(scan.folders(Folders.doors(place.pair().model())))
            : Optional.empty();
    ScanReport report =
        new ScanReport(
            name,
            spec.place(),
            scan.tables(),
            scan.rows(),
            findings.sorts().stream().map(ScanReport.Sort::of).toList(),
            folders,
            notLookedFor(scan, place, spec));
    return new Result(
        report.isClean() ? ExitStatus.DONE : ExitStatus.TO_DECIDE,
        report,
        page -> ScanText.print(page, report));
  }

  /** What merges know of this copy's rows; nothing where the other copy can't be asked. */
  private static Map<RowName, BigInteger> known(Workplace place, String name) throws IOException {
    if (!place.bases().isRecorded()) {
      return Map.of();
    }
    Map<RowName, BigInteger> known = new HashMap<>();
    try {
      Twins.pairs(
              Copy.reach(place.pair().staging()),
              Copy.reach(place.pair().live()),
              place.receipts(),
              place.base())
          .forEach(
              (table, pairs) ->
                  pairs.forEach(
                      (staging, live) -> {
                        boolean onLive = name.equals(place.pair().live().name());
                        known.put(
                            new RowName(table, onLive ? live : staging), onLive ? staging : live);
                      }));
    } catch (Refusal e) {
      // 'weftex check' says what is wrong with it; a scan reads one copy.
      return Map.of();
    }
    return known;
  }

  private static Map<String, String> notLookedFor(CopyScan scan, Workplace place, CopySpec copy) {
    Map<String, String> not = new TreeMap<>();
    if (!scan.looksForLeftovers()) {
      not.put(
          FindingKind.LEFTOVER.label(),
          "weftex.yaml does not say both copies' addresses, or they are the same");
    }
    if (!scan.looksForFiles()) {
      not.put(FindingKind.MISSING_FILE.label(), Folders.problem(place, copy));
    }
    return not;
  }
}
