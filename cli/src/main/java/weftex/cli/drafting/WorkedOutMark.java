package weftex.cli.drafting;

import java.io.IOException;
import java.util.Map;
import java.util.Optional;
import java.util.regex.Pattern;
import org.apache.commons.cli.CommandLine;
import weftex.cli.page.Progress;
import weftex.cli.render.WorkedOutText;
import weftex.cli.result.WorkedOutReport;
import weftex.cli.session.ExitStatus;
import weftex.cli.session.Session;
import weftex.cli.workplace.KnownPairs;
import weftex.cli.workplace.Result;
import weftex.cli.workplace.Workplace;
import weftex.core.compare.Comparison;
import weftex.core.select.Selection;
import weftex.store.Refusal;
import weftex.store.capture.Bases;
import weftex.store.capture.CaptureWriter;
import weftex.store.capture.LedgerPlace;
import weftex.store.compare.ComparisonRun;
import weftex.store.compare.CopyMarks;
import weftex.store.compare.WorkedOut;
import weftex.store.copy.Copy;

/** Records a base that is worked out of the two copies as they are. */
final class WorkedOutMark {
  private static final Pattern TIME =
      Pattern.compile("\\d{4}-\\d{2}-\\d{2}(?:[ T]\\d{2}:\\d{2}(?::\\d{2})?)?");

  private WorkedOutMark() {}

  static Result run(CommandLine line, Session session, Workplace place)
      throws Refusal, IOException {
    Optional<String> said = Optional.ofNullable(line.getOptionValue("parted"));
    if (said.isPresent() && !TIME.matcher(said.get()).matches()) {
      throw new Refusal(
          Refusal.Kind.WRONG_INPUT,
          "--parted '" + said.get() + "' is no time. Nothing was changed.",
          "Write it as the site does, such as '2026-11-01 09:00'.");
    }
    Bases bases = place.bases();
    String marked = session.now();
    boolean recorded = line.hasOption("yes");
    try {
      Worked worked = worked(line, session, place, said, marked);
      if (recorded) {
        // Not while the copies are read: a file that is read can't be written to.
        place.accept(worked.places(), marked, worked.staging(), worked.live());
      }
      return new Result(
          recorded ? ExitStatus.DONE : ExitStatus.TO_DECIDE,
          worked.report(),
          page -> WorkedOutText.print(page, worked.report()));
    } finally {
      bases.discard();
    }
  }

  private record Worked(
      Map<String, LedgerPlace> places, Copy staging, Copy live, WorkedOutReport report) {}

  private static Worked worked(
      CommandLine line, Session session, Workplace place, Optional<String> said, String marked)
      throws Refusal, IOException {
    Bases bases = place.bases();
    try (ComparisonRun run =
        new Comparing(place, line)
            .run(
                "staging",
                true,
                Selection.CONTENT,
                ComparisonRun.Manner.USUAL.pairs(Comparison.Pairs.BY_KEY),
                false)) {
      Map<String, LedgerPlace> places = CopyMarks.now(run.target(), run.source());
      KnownPairs.check(place, run.target(), run.source());
      WorkedOut worked = new WorkedOut(run, said);
      CaptureWriter writer =
          new CaptureWriter(
              place.pair().site(),
              "staging",
              run.target().spec().place(),
              Session.TOOL,
              place.atRest());
      long rows;
      try (Progress progress = Progress.start(session, "working the base out", -1)) {
        rows = worked.write(writer, bases.candidate(), marked, progress);
      }
      WorkedOutReport report =
          new WorkedOutReport(
              marked,
              worked.parted(),
              said.isPresent(),
              line.hasOption("yes"),
              bases.isRecorded(),
              rows,
              worked.found());
      return new Worked(places, run.target(), run.source(), report);
    }
  }
}
