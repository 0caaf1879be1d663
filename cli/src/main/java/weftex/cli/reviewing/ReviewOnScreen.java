package weftex.cli.reviewing;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.concurrent.Future;
import org.apache.commons.cli.CommandLine;
import org.jline.terminal.Terminal;
import weftex.cli.page.Times;
import weftex.cli.render.BriefText;
import weftex.cli.result.BriefReport;
import weftex.cli.screen.Aside;
import weftex.cli.screen.ReviewScreen;
import weftex.cli.screen.Sitting;
import weftex.cli.session.ExitStatus;
import weftex.cli.session.Session;
import weftex.cli.workplace.NamedChangeSet;
import weftex.cli.workplace.Result;
import weftex.cli.workplace.Reviewer;
import weftex.cli.workplace.Sealing;
import weftex.cli.workplace.Signing;
import weftex.cli.workplace.Workplace;
import weftex.core.change.Review;
import weftex.store.Refusal;
import weftex.store.changeset.ChangeSetFile;
import weftex.store.changeset.DecisionLog;

/** Shows a change set on the whole terminal, and says afterwards where it stands. */
final class ReviewOnScreen {
  private ReviewOnScreen() {}

  static Result show(CommandLine line, Session session) throws Refusal, IOException {
    if (!Files.exists(Workplace.file(line, session))) {
      // Says that it is missing before anything else does.
      Workplace.open(line, session);
    }
    Path file = NamedChangeSet.of(line, session);
    Sealing.unlock(file, session);
    List<Integer> apart = show(file, line, session);
    while (!apart.isEmpty()) {
      // Both stay: what is written then hangs on both copies.
      file = KeptApart.draft(file, apart, line, session);
      apart = show(file, line, session);
    }
    return standing(file, Workplace.open(line, session));
  }

  private static List<Integer> show(Path file, CommandLine line, Session session)
      throws Refusal, IOException {
    Future<Terminal> terminal = ReviewScreen.terminal();
    NamedChangeSet.mend(file, session);
    Future<Workplace> opening = Aside.begin("pair", () -> Workplace.open(line, session));
    ChangeSetFile index = ChangeSetFile.glance(file, session.keys());
    Workplace place = Aside.result(opening);
    String by = Reviewer.name(line, session);
    DecisionLog.Opened opened =
        DecisionLog.open(file, by + ", since " + Times.shown(session.now()), session.keys());
    try {
      return ReviewScreen.show(
          new Sitting(
              index,
              place.shown(file),
              opened.log(),
              readOnly(opened),
              by,
              approval -> Signing.approval(approval, line, session, place),
              session::now,
              place.pair().model(),
              new Sitting.Seat(
                  session.terminal().colour(), session.environment(), session.restorer())),
          terminal);
    } finally {
      if (opened.log().isPresent()) {
        opened.log().get().close();
      }
    }
  }

  private static Result standing(Path file, Workplace place) throws Refusal, IOException {
    ChangeSetFile after = ChangeSetFile.read(file, place.keys());
    int open = after.review().count(Review.Standing.OPEN);
    BriefReport.Standing standing =
        new BriefReport.Standing(
            place.shown(file),
            open,
            after.contents().isApproved(),
            NamedChangeSet.argument(place, file));
    return new Result(
        open > 0 ? ExitStatus.TO_DECIDE : ExitStatus.DONE,
        standing,
        page -> BriefText.print(page, standing));
  }

  private static String readOnly(DecisionLog.Opened opened) {
    return opened.log().isPresent()
        ? ""
        : opened
            .holder()
            .map(holder -> holder + " has it open")
            .orElse("the file or its folder can't be written to");
  }
}
