package weftex.cli.command;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardOpenOption;
import java.sql.SQLException;
import java.util.List;
import java.util.regex.Pattern;
import org.apache.commons.cli.CommandLine;
import org.apache.commons.cli.Option;
import org.apache.commons.cli.Options;
import weftex.cli.Cli;
import weftex.cli.page.Page;
import weftex.cli.render.BriefText;
import weftex.cli.result.BriefReport;
import weftex.cli.session.ExitStatus;
import weftex.cli.session.Session;
import weftex.cli.workplace.Command;
import weftex.cli.workplace.Result;
import weftex.demo.DemoSite;
import weftex.store.FailureWords;
import weftex.store.Refusal;
import weftex.store.state.StateFolder;

/** Builds the made-up site and walks through the whole job with the real commands. */
final class DemoCommand implements Command {

  /** Marks a folder as the demo's own, so that a second run may replace it. */
  static final String MARK = ".made-by-weftex-demo";

  /** What happens on the copies between two steps. */
  interface Meanwhile {
    void happensTo(DemoSite site) throws SQLException;
  }

  private static final List<DemoStep> STEPS =
      List.of(
          new DemoStep(
              "Staging was taken from live a week ago, and the base was recorded then. Both were worked on"
                  + " since. First: is everything in reach?",
              "weftex check"),
          new DemoStep(
              "What changed on either copy? Bookings, comments and a storm notice came in on live. On staging the"
                  + " booking extension got a new table and a new column. Whatever moves gets live's address, and"
                  + " takes its pictures along.",
              "weftex compare"),
          new DemoStep(
              "The rows of one table. Page 13 is another page on live, so staging's gets a new ID, and its"
                  + " child page and its picture follow.",
              "weftex compare --table pages"),
          new DemoStep(
              "Inside a setting both sides are kept: live's new title, staging's pages and banner. The banner"
                  + " gets live's address, and the ID of the new page is filled in when it is known.",
              "weftex compare --table settings"),
          new DemoStep(
              "A change set of everything but the timetable of sailings. What is chosen is kept under a name for"
                  + " the next week.",
              "weftex draft --without sailings --save-selection week"),
          new DemoStep(
              "Five changes conflict with what live did meanwhile. On a terminal of your own, this"
                  + " takes the whole screen.",
              "weftex review"),
          new DemoStep(
              "Live keeps the festival page, which has a new comment, its lost-property page and its newer"
                  + " title; staging's tagline and job offer win.",
              "weftex review --keep 5,6,17.title --take 13,21 --why 'agreed with the office'"),
          new DemoStep(
              DemoSite::editOnLive,
              "Meanwhile the lost-property page was edited on live once more. The change set is brought up to"
                  + " date: decisions that still fit stay, the others are named.",
              "weftex draft --again"),
          new DemoStep("So that one is decided again.", "weftex review --keep 6 --by 'Jo Tveit'"),
          new DemoStep("A page for whoever has no terminal.", "weftex report -o review.html"),
          new DemoStep(
              "Everything is decided, so it can be approved.",
              "weftex review --approve --by 'Mira Tangen'"),
          new DemoStep(
              "A holding page goes up, as weftex.yaml says. Then the new table and column are made, pictures"
                  + " copied, and all rows written in one transaction, with a receipt.",
              "weftex apply"),
          new DemoStep("A second run finds it done.", "weftex apply"),
          new DemoStep(
              DemoSite::commentOnNewPage,
              "A passenger comments on the new page. Then the office changes its mind: everything is taken back"
                  + " but that page and what belongs to it.",
              "weftex undo"),
          new DemoStep(
              DemoSite::secondWeek,
              "The next week. The page that stayed is page 13 on staging and page 15 on live, and Weftex knows it:"
                  + " staging's new title for it is an update. What was taken back is open again.",
              "weftex compare --table pages"),
          new DemoStep(
              "The same choice as last week, by its name.", "weftex draft --selection week"),
          new DemoStep(
              "One answer for all that is open, and for what follows from it.",
              "weftex review --keep conflicts --by 'Jo Tveit' --why 'as last week'"),
          new DemoStep(
              "Approved again, and signed with an SSH key, so that nobody else can do it in Mira's name,",
              "weftex review --approve --by 'Mira Tangen' --sign mira"),
          new DemoStep(
              "and applied: only who stands in the file of signers counts.",
              "weftex apply --signers signers"),
          new DemoStep(
              "Only the harbour's guide was not meant: one thing is taken back, the rest stays.",
              "weftex undo --item harbour:Brae"),
          new DemoStep(
              "Live's news come into staging, with bookings and comments. Staging's own work stays.",
              "weftex draft --into staging --everything"),
          new DemoStep("Nothing is open here,", "weftex review --approve --by 'Mira Tangen'"),
          new DemoStep("so staging can be brought up to date.", "weftex apply"),
          new DemoStep("What happened, by whom, when.", "weftex history"));

  @Override
  public Options options() {
    Options options = new Options();
    options.addOption(
        Option.builder()
            .longOpt("keep")
            .desc("keep what an earlier run left, and build in a new folder")
            .get());
    options.addOption(
        Option.builder().longOpt("no-pause").desc("do not wait for Enter between the steps").get());
    options.addOption(
        Option.builder()
            .longOpt("sql")
            .desc("write the site and the week as SQL scripts for a MariaDB server instead")
            .get());
    return options;
  }

  @Override
  public String arguments() {
    return "[FOLDER] [--keep] [--no-pause]";
  }

  @Override
  public List<String> examples() {
    return List.of(
        "weftex demo", "weftex demo /tmp/skerrow --no-pause", "weftex demo scripts --sql");
  }

  @Override
  public Result run(CommandLine line, Session session) throws Refusal, IOException {
    Path folder = DemoFolder.folder(line, session);
    try {
      Files.createDirectories(folder);
      Files.writeString(
          folder.resolve(MARK), "Another run of 'weftex demo' may replace this folder.\n");
      DemoSite site = new DemoSite(folder);
      if (line.hasOption("sql")) {
        site.writeScripts();
      } else {
        site.build();
        site.draw();
        walk(site, folder, session, !line.hasOption("no-pause") && session.terminal().in());
      }
    } catch (SQLException e) {
      throw new IOException(
          "the demo site can't be built in " + folder + ": " + FailureWords.of(e), e);
    }
    BriefReport.Demo made = new BriefReport.Demo(folder.toString(), line.hasOption("sql"));
    return new Result(ExitStatus.DONE, made, page -> BriefText.print(page, made));
  }

  private void walk(DemoSite site, Path folder, Session session, boolean pause)
      throws IOException, SQLException, Refusal {
    Session inside = session.in(folder).unattended();
    Session quiet = inside.silent();
    run(
        quiet,
        "weftex pair --site skerrow --model "
            + DemoSite.EXTENDED_MODEL
            + " --staging sqlite:"
            + DemoSite.STAGING
            + " --live sqlite:"
            + DemoSite.LIVE
            + " --staging-prefix skf_ --live-prefix skf_ --staging-folder "
            + site.files("staging")
            + " --live-folder "
            + site.files("live"));
    Files.writeString(
        folder.resolve(StateFolder.CONFIGURATION), site.holdingPage(), StandardOpenOption.APPEND);
    run(quiet, "weftex mark");
    boolean signs = DemoKey.makeKey(folder);
    site.week();
    site.drawWeek();
    for (DemoStep written : STEPS) {
      DemoStep step = signs ? written : written.unsigned();
      step.meanwhile().happensTo(site);
      announce(session, step);
      run(inside, step.command());
      if (pause) {
        session.out().print("— Enter to go on —");
        session.out().flush();
        session.in().readLine();
      }
      session.out().println();
    }
  }

  private static void announce(Session session, DemoStep step) {
    Page page = new Page(session.out(), session.terminal());
    page.words(step.words());
    page.line(page.strong("$ " + step.command()));
    page.blank();
  }

  private static void run(Session inside, String command) throws Refusal {
    ExitStatus status = new Cli(inside).run(arguments(command));
    if (status != ExitStatus.DONE && status != ExitStatus.TO_DECIDE) {
      throw new Refusal(
          Refusal.Kind.PROTECTED,
          "The demo stopped at '" + command + "'.",
          "See the message above; this should not happen, please report it.");
    }
  }

  /** The words of a command line; quotes hold words together. */
  private static String[] arguments(String command) {
    return Pattern.compile("'([^']*)'|(\\S+)")
        .matcher(command)
        .results()
        .map(match -> match.group(1) != null ? match.group(1) : match.group(2))
        .skip(1)
        .toArray(String[]::new);
  }
}
