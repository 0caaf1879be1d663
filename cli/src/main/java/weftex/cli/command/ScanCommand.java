package weftex.cli.command;

import java.io.IOException;
import java.math.BigInteger;
import java.nio.file.Path;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.TreeMap;
import org.apache.commons.cli.CommandLine;
import org.apache.commons.cli.Option;
import org.apache.commons.cli.Options;
import weftex.cli.render.Progress;
import weftex.cli.render.ScanText;
import weftex.cli.result.ScanReport;
import weftex.cli.session.ExitStatus;
import weftex.cli.session.Session;
import weftex.core.row.RowName;
import weftex.core.scan.FindingKind;
import weftex.core.scan.Findings;
import weftex.store.Refusal;
import weftex.store.compare.Twins;
import weftex.store.copy.Copy;
import weftex.store.copy.CopySpec;
import weftex.store.scan.CopyScan;

/** Looks through one copy for what is wrong in it. */
final class ScanCommand implements Command {
  private static final String KEPT_UNLESS_SAID = "5";

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
    return options;
  }

  @Override
  public String arguments() {
    return "[COPY] [options]";
  }

  @Override
  public List<String> examples() {
    return List.of("weftex scan", "weftex scan staging --limit 50 --json");
  }

  @Override
  public Result run(CommandLine line, Session session) throws Refusal, IOException {
    Workplace place = Workplace.open(line, session);
    String name = place.copyName(line);
    CopySpec spec = place.pair().copy(name);
    int kept = Numbers.positive(line, "limit", KEPT_UNLESS_SAID, "scan");
    CopyScan scan =
        new CopyScan(
            Copy.reach(spec),
            place.pair().model(),
            place.pair().addresses(),
            place.pair().other(name),
            known(place, name),
            folder(place, name),
            kept);
    Findings findings;
    try (Progress progress = Progress.start(session, "scanning " + name, -1)) {
      findings = scan.run(progress);
    }
    ScanReport report =
        new ScanReport(
            name,
            spec.place(),
            scan.tables(),
            scan.rows(),
            findings.sorts().stream().map(ScanReport.Sort::of).toList(),
            notLookedFor(scan, name));
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

  private static Optional<Path> folder(Workplace place, String copy) {
    return Optional.ofNullable(place.pair().addresses().copies().get(copy))
        .flatMap(address -> address.folder())
        .map(Path::of);
  }

  private static Map<String, String> notLookedFor(CopyScan scan, String copy) {
    Map<String, String> not = new TreeMap<>();
    if (!scan.looksForLeftovers()) {
      not.put(
          FindingKind.LEFTOVER.label(),
          "weftex.yaml does not say both copies' addresses, or they are the same");
    }
    if (!scan.looksForFiles()) {
      not.put(
          FindingKind.MISSING_FILE.label(),
          "weftex.yaml names no folder of " + copy + " that is on this machine");
    }
    return not;
  }
}
