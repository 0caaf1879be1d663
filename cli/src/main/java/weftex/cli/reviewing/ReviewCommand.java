package weftex.cli.reviewing;

import java.io.IOException;
import java.nio.file.Path;
import java.util.Arrays;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Stream;
import org.apache.commons.cli.CommandLine;
import org.apache.commons.cli.Option;
import org.apache.commons.cli.Options;
import weftex.cli.page.Summary;
import weftex.cli.render.BriefText;
import weftex.cli.render.DecisionsText;
import weftex.cli.render.ReviewText;
import weftex.cli.result.BriefReport;
import weftex.cli.result.ReviewReport;
import weftex.cli.session.ExitStatus;
import weftex.cli.session.Session;
import weftex.cli.workplace.Chosen;
import weftex.cli.workplace.Command;
import weftex.cli.workplace.NamedChangeSet;
import weftex.cli.workplace.Result;
import weftex.cli.workplace.SelectionOptions;
import weftex.cli.workplace.Signing;
import weftex.cli.workplace.Workplace;
import weftex.core.change.Review;
import weftex.core.changeset.ChangeSetContents;
import weftex.core.select.Selection;
import weftex.core.signoff.Decision;
import weftex.store.Refusal;
import weftex.store.changeset.ChangeSetFile;

/** Shows a change set, takes decisions, approves: on the whole terminal, or by options. */
public final class ReviewCommand implements Command {
  static final String UNASKED = "if-nothing-open";
  private static final String SIGNATURES = "signatures";

  /** Options that mean the same for each of several sites. */
  private static final Set<String> OF_ALL_SITES =
      Set.of(
          "list",
          "open",
          "values",
          "decisions",
          "by-rules",
          "by",
          "why",
          "approve",
          "sign",
          UNASKED,
          "config",
          "json",
          "no-color",
          "debug");

  @Override
  public Options options() {
    Options options = new Options();
    flag(options, "list", "print as text instead of opening the full-screen review");
    add(options, "change", "N", "show this change with whole values");
    flag(options, "open", "show only what needs a decision");
    flag(options, "values", "show every change with its values");
    flag(options, "decisions", "list what was decided, by whom and why");
    add(
        options,
        "take",
        "CHANGES",
        "decide: the side of the copy that the changes come from. CHANGES are 3,7-9, one column 3.title, one passage 3.body#2, conflicts, conflicts.title, offers, chosen, a table, or a thing page:Winter*");
    add(options, "keep", "CHANGES", "decide: the side of the copy that receives them");
    add(
        options,
        "both",
        "CHANGES",
        "decide: both sides' words in a passage (9.body#2) or in all passages of a text (9.body), those of the copy that the changes come from first; or, for what both copies added under one name: they are two things, draft again with both");
    add(options, "skip", "CHANGES", "leave these changes out");
    add(options, "include", "CHANGES", "make skipped changes after all");
    add(options, "bring", "CHANGES", "bring offered rows along");
    add(options, "reopen", "CHANGES", "discard earlier decisions on these changes");
    return addRest(options);
  }

  private Options addRest(Options options) {
    add(options, "note", "CHANGES", "leave the words of --why with these changes");
    add(options, "set", "N.COLUMN=VALUE", "write a value of your own into a column of a change");
    add(options, "withdraw", "N", "take back one decision, by its number in --decisions");
    flag(options, "by-rules", "let the rules of weftex.yaml decide what is open");
    add(options, "why", "TEXT", "a note that is kept with the decision");
    add(
        options,
        "by",
        "NAME",
        "who decides or approves (default: as git knows you, or your user name)");
    flag(options, "approve", "approve the change set as it stands");
    flag(
        options,
        UNASKED,
        "with --approve, for runs by night: approve only if nothing is left to decide, and leave out what somebody undid before");
    options.addOption(Signing.option("with --approve, or in the full-screen review: sign it"));
    add(
        options,
        SIGNATURES,
        "FOLDER",
        "write what was signed, and the signatures, for 'ssh-keygen -Y verify'");
    SelectionOptions.addChoosing(options);
    return options;
  }

  private static void flag(Options options, String name, String description) {
    options.addOption(Option.builder().longOpt(name).desc(description).get());
  }

  private static void add(Options options, String name, String argument, String description) {
    options.addOption(
        Option.builder().longOpt(name).hasArg().argName(argument).desc(description).get());
  }

  @Override
  public Map<String, List<String>> headings() {
    Map<String, List<String>> headings = new LinkedHashMap<>();
    headings.put("look", List.of("list", "change", "open", "values", "decisions"));
    headings.put(
        "decide",
        List.of(
            "take",
            "keep",
            "both",
            "skip",
            "include",
            "bring",
            "set",
            "by-rules",
            "reopen",
            "withdraw",
            "note",
            "why",
            "by"));
    headings.put("approve", List.of("approve", UNASKED, "sign", SIGNATURES));
    headings.putAll(SelectionOptions.heading());
    return headings;
  }

  @Override
  public String arguments() {
    return "[FILE] [options]";
  }

  @Override
  public List<String> examples() {
    return List.of(
        "weftex review",
        "weftex review --keep 4 --why 'live has the newer fare'",
        "weftex review --take 'page:Fares*' --keep conflicts,9.body#2 --skip 7-9",
        "weftex review --path '/winter/*' --skip chosen",
        "weftex review --set 4.title='Winter fares'",
        "weftex review --approve --by 'Mira Tangen'",
        "weftex review --approve --if-nothing-open --by 'the nightly run'");
  }

  /** Changes are numbered in each change set by itself. */
  @Override
  public boolean isForOneSite(CommandLine line, Session session) {
    return !line.getArgList().isEmpty()
        || !Arrays.stream(line.getOptions())
            .map(Option::getLongOpt)
            .allMatch(OF_ALL_SITES::contains)
        || isForTheScreen(line, session);
  }

  @Override
  public Result run(CommandLine line, Session session) throws Refusal, IOException {
    if (line.hasOption(UNASKED) && !line.hasOption("approve")) {
      throw new Refusal(
          Refusal.Kind.WRONG_INPUT,
          "--"
              + UNASKED
              + " says when to approve, and nothing is to be approved. Nothing was changed.",
          "Say --approve, too.");
    }
    boolean approves =
        line.hasOption("approve") || line.hasOption("both") || isForTheScreen(line, session);
    if (line.hasOption("sign") && !approves) {
      throw new Refusal(
          Refusal.Kind.WRONG_INPUT,
          "--sign says by which key, and nothing is to be approved. Nothing was changed.",
          "Say --approve, too.");
    }
    if (line.hasOption(SIGNATURES)) {
      return signatures(line, session);
    }
    boolean wrote = ReviewDecisions.areAsked(line) || line.hasOption("approve");
    if (KeptApart.isAsked("both", line)) {
      return KeptApart.draft(line, session, wrote);
    }
    if (!wrote && isForTheScreen(line, session)) {
      return ReviewOnScreen.show(line, session);
    }
    return written(line, session, wrote);
  }

  /** Writes what was decided, and shows what came of it. */
  private Result written(CommandLine line, Session session, boolean wrote)
      throws Refusal, IOException {
    Workplace place = Workplace.open(line, session);
    Path file = NamedChangeSet.of(line, place);
    NamedChangeSet.mend(file, session);
    Optional<Selection> selection =
        SelectionOptions.isSaid(line)
            ? Optional.of(place.selection(line).selection(session.clock().instant()))
            : Optional.empty();
    List<Decision> followed =
        ReviewDecisions.areAsked(line)
            ? ReviewDecisions.write(line, session, place, file, selection)
            : List.of();
    int heldBack =
        line.hasOption("approve") ? ReviewDecisions.approve(line, session, place, file) : 0;
    boolean whole = line.hasOption("values") || line.hasOption("json");
    ChangeSetFile read =
        whole
            ? ChangeSetFile.readWhole(file, place.keys())
            : ChangeSetFile.read(file, place.keys());
    return shown(line, place, read, selection, new Done(wrote, followed, heldBack));
  }

  private static Result signatures(CommandLine line, Session session) throws Refusal, IOException {
    Workplace place = Workplace.open(line, session);
    Path folder = session.folder().resolve(line.getOptionValue(SIGNATURES));
    ChangeSetContents contents =
        ChangeSetFile.readWhole(NamedChangeSet.of(line, place), place.keys()).contents();
    List<String> names = Signing.export(folder, contents);
    String shown = place.shown(folder);
    BriefReport.Signatures written =
        new BriefReport.Signatures(
            shown.isEmpty() ? "." : shown,
            names,
            names.isEmpty() ? "" : place.shown(folder.resolve(names.get(0))));
    return new Result(ExitStatus.DONE, written, page -> BriefText.print(page, written));
  }

  /** Whether somebody sits at a terminal and asks for nothing in particular. */
  private static boolean isForTheScreen(CommandLine line, Session session) {
    return session.terminal().isInteractive()
        && Stream.of("list", "change", "open", "values", "decisions", "json")
            .noneMatch(line::hasOption)
        && !SelectionOptions.isSaid(line);
  }

  /**
   * What was written before it is shown.
   *
   * @param followed from the answers
   * @param heldBack how many changes were left out, since they were undone before
   */
  private record Done(boolean wrote, List<Decision> followed, int heldBack) {}

  private static Result shown(
      CommandLine line,
      Workplace place,
      ChangeSetFile file,
      Optional<Selection> selection,
      Done done)
      throws Refusal, IOException {
    Review review = file.review();
    Integer only = OneChange.only(line, review);
    boolean json = line.hasOption("json");
    boolean values = line.hasOption("values");
    ReviewShown shown = new ReviewShown(file, only, line.hasOption("open"), json, values);
    if ((!done.wrote() || only != null || json) && !line.hasOption("decisions")) {
      shown.gather(
          selection.isPresent()
              ? Optional.of(Chosen.some(file, selection.get()))
              : Optional.empty());
    }
    ReviewReport result = shown.report(place);
    boolean toDecide = result.standing().getOrDefault(Review.Standing.OPEN.label(), 0L) > 0;
    List<Summary.Entry> summary =
        line.hasOption("approve")
            ? new Summary(file, review, place.pair().model()).entries()
            : List.of();
    return new Result(
        toDecide ? ExitStatus.TO_DECIDE : ExitStatus.DONE,
        result,
        page -> {
          if (line.hasOption("decisions")) {
            DecisionsText.print(page, result);
          } else {
            DecisionsText.print(page, summary);
            DecisionsText.printFollowed(
                page, done.followed(), result.set().from(), result.set().into());
            DecisionsText.printHeldBack(page, done.heldBack(), result.set().argument());
            ReviewText.print(
                page,
                result,
                review,
                shown.schema(),
                shown.changes(),
                new ReviewText.Extent(only != null, values));
          }
        });
  }
}
