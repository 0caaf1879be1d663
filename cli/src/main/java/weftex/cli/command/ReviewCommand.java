package weftex.cli.command;

import java.io.IOException;
import java.nio.channels.Channels;
import java.nio.channels.FileChannel;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardOpenOption;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import org.apache.commons.cli.CommandLine;
import org.apache.commons.cli.Option;
import org.apache.commons.cli.Options;
import weftex.cli.ExitStatus;
import weftex.cli.Session;
import weftex.cli.render.CompareText;
import weftex.cli.render.ReviewText;
import weftex.core.changeset.Answer;
import weftex.core.changeset.Approval;
import weftex.core.changeset.ChangeSetProblem;
import weftex.core.changeset.ChangeSetReader;
import weftex.core.changeset.ChangeSetWriter;
import weftex.core.changeset.Decision;
import weftex.core.changeset.JsonLines;
import weftex.core.changeset.Review;
import weftex.core.changeset.RowChange;
import weftex.core.changeset.SchemaChange;
import weftex.core.merge.ConflictKind;
import weftex.store.Refusal;
import weftex.store.apply.ReviewedFile;

/** Shows a change set, takes decisions, approves. */
final class ReviewCommand implements Command {
  private static final int ITEMS_LISTED = 500;
  private static final Map<String, Answer> ANSWERS = new LinkedHashMap<>();

  static {
    ANSWERS.put("take", Answer.SOURCE);
    ANSWERS.put("keep", Answer.TARGET);
    ANSWERS.put("skip", Answer.SKIP);
    ANSWERS.put("include", Answer.INCLUDE);
    ANSWERS.put("bring", Answer.BRING);
  }

  @Override
  public Options options() {
    Options options = new Options();
    add(options, "change", "N", "show this change with whole values");
    options.addOption(
        Option.builder().longOpt("open").desc("show only what needs a decision").get());
    options.addOption(
        Option.builder().longOpt("rows").desc("show every row with its values").get());
    add(options, "take", "CHANGES", "decide: the side of the copy that the changes come from");
    add(options, "keep", "CHANGES", "decide: the side of the copy that receives them");
    add(options, "skip", "CHANGES", "leave these changes out");
    add(options, "include", "CHANGES", "make skipped changes after all");
    add(options, "bring", "CHANGES", "bring offered rows along");
    add(options, "why", "TEXT", "a note that is kept with the decision");
    add(options, "by", "NAME", "who decides or approves; your user name unless said");
    options.addOption(
        Option.builder().longOpt("approve").desc("approve the change set as it stands").get());
    return options;
  }

  private static void add(Options options, String name, String argument, String description) {
    options.addOption(
        Option.builder().longOpt(name).hasArg().argName(argument).desc(description).get());
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
        "weftex review --take 'page:Fares*' --keep conflicts --skip 7-9",
        "weftex review --approve --by 'Mira Tangen'");
  }

  @Override
  public Result run(CommandLine line, Session session) throws Refusal, IOException {
    Workplace place = Workplace.open(line, session);
    Path file = place.changeSet(line);
    boolean wrote = decide(line, session, file);
    if (line.hasOption("approve")) {
      approve(session, file, line);
      wrote = true;
    }
    ReviewedFile reviewed = ReviewedFile.read(file);
    Integer only = only(line, reviewed.review());
    boolean onlyOpen = line.hasOption("open");
    boolean json = line.hasOption("json");
    boolean rows = line.hasOption("rows");
    List<ReviewReport.Row> items = new ArrayList<>();
    ItemReport.Gatherer things = new ItemReport.Gatherer(ITEMS_LISTED);
    List<SchemaChange> schema = new ArrayList<>();
    List<RowChange> changes = new ArrayList<>();
    if (!wrote || only != null || json) {
      for (SchemaChange change : reviewed.schema()) {
        if (only == null && !onlyOpen) {
          things.add(change);
        }
        boolean wanted = only == null ? (rows || json) && !onlyOpen : only == change.id();
        if (wanted && json) {
          items.add(item(change.id(), ChangeSetWriter.line(change), reviewed.review()));
        } else if (wanted) {
          schema.add(change);
        }
      }
      read(
          file,
          change -> {
            Review.Standing standing = reviewed.review().standing(change.id());
            if (only == null && !onlyOpen) {
              things.add(change);
            }
            boolean wanted =
                only == null
                    ? rows || json && !onlyOpen || standing == Review.Standing.OPEN
                    : only == change.id();
            if (wanted && json) {
              items.add(item(change.id(), ChangeSetWriter.line(change), reviewed.review()));
            } else if (wanted) {
              changes.add(only == null ? CompareText.withoutLongValues(change) : change);
            }
          });
    }
    ReviewReport result =
        reviewed(place.shown(file), reviewed, place.pair().approvals(), things, items);
    boolean toDecide = result.standing().getOrDefault(Review.Standing.OPEN.label(), 0L) > 0;
    return new Result(
        toDecide ? ExitStatus.TO_DECIDE : ExitStatus.DONE,
        result,
        page ->
            ReviewText.print(page, result, reviewed.review(), schema, changes, only != null, rows));
  }

  private static Integer only(CommandLine line, Review review) throws Refusal {
    if (!line.hasOption("change")) {
      return null;
    }
    String text = line.getOptionValue("change");
    boolean known = text.matches("\\d{1,9}") && review.ids().contains(Integer.parseInt(text));
    if (!known) {
      throw new Refusal(
          Refusal.Kind.WRONG_INPUT,
          "There is no change '"
              + text
              + "'; the change set has 1 to "
              + review.ids().size()
              + ". Nothing was changed.",
          "'weftex review' lists them.");
    }
    return Integer.parseInt(text);
  }

  private static ReviewReport.Row item(int id, byte[] line, Review review) throws IOException {
    return new ReviewReport.Row(
        review.standing(id).label(),
        review.open(id).stream().map(ConflictKind::label).toList(),
        review.unmetNeeds(id),
        JsonLines.parse(line));
  }

  private static ReviewReport reviewed(
      String shown,
      ReviewedFile file,
      int approvals,
      ItemReport.Gatherer things,
      List<ReviewReport.Row> rows) {
    Map<String, Long> standing = new LinkedHashMap<>();
    for (Review.Standing each : Review.Standing.values()) {
      long count =
          file.review().ids().stream().filter(id -> file.review().standing(id) == each).count();
      standing.put(each.label(), count);
    }
    var header = file.contents().header();
    return new ReviewReport(
        shown,
        header.site(),
        header.from(),
        header.into(),
        header.target(),
        header.base(),
        header.drafted(),
        file.contents().changes(),
        standing,
        file.contents().approvals().stream().map(a -> a.by() + ", " + Times.shown(a.at())).toList(),
        file.contents().isApproved(),
        Math.max(0, approvals - file.contents().approvers().size()),
        things.standing(file.review()),
        things.beyond(),
        rows);
  }

  private static void read(Path file, ChangeSink sink) throws Refusal, IOException {
    try (var in = new java.io.BufferedInputStream(Files.newInputStream(file), 1 << 16)) {
      ChangeSetReader.read(
          in,
          new ChangeSetReader.Visitor() {
            @Override
            public void change(RowChange change) throws IOException {
              sink.accept(change);
            }
          });
    } catch (ChangeSetProblem e) {
      throw new IOException("the change set was written to while it was read", e);
    }
  }

  private interface ChangeSink {
    void accept(RowChange change) throws IOException;
  }

  /**
   * Appends a line for each decision on the command line; all of them, or none if one does not fit.
   */
  private static boolean decide(CommandLine line, Session session, Path file)
      throws Refusal, IOException {
    if (ANSWERS.keySet().stream().noneMatch(line::hasOption)) {
      return false;
    }
    Review review = ReviewedFile.read(file).review();
    String by = line.getOptionValue("by", session.user());
    String why = line.getOptionValue("why", "");
    List<byte[]> lines = new ArrayList<>();
    // In the order in which they are written, since a later decision replaces an earlier one.
    for (Option option : line.getOptions()) {
      Answer answer = ANSWERS.get(option.getLongOpt());
      if (answer == null) {
        continue;
      }
      for (String text : option.getValuesList()) {
        for (var entry : ChangeNumbers.resolve(text, review, answer).entrySet()) {
          Decision decision =
              new Decision(entry.getValue(), entry.getKey(), answer, by, session.now(), why);
          review.add(decision);
          lines.add(ChangeSetWriter.line(decision));
        }
      }
    }
    append(file, lines);
    return true;
  }

  private static void approve(Session session, Path file, CommandLine line)
      throws Refusal, IOException {
    ReviewedFile reviewed = ReviewedFile.read(file);
    long open =
        reviewed.review().ids().stream()
            .filter(id -> reviewed.review().standing(id) == Review.Standing.OPEN)
            .count();
    if (open > 0) {
      throw new Refusal(
          Refusal.Kind.UNDECIDED,
          open
              + (open == 1 ? " change still needs" : " changes still need")
              + " a decision. The change set was not approved.",
          "See them with 'weftex review --open'.");
    }
    Approval approval =
        new Approval(
            line.getOptionValue("by", session.user()), session.now(), reviewed.contents().sha256());
    append(file, List.of(ChangeSetWriter.line(approval)));
  }

  private static void append(Path file, List<byte[]> lines) throws IOException {
    try (FileChannel channel =
            FileChannel.open(file, StandardOpenOption.WRITE, StandardOpenOption.APPEND);
        var out = Channels.newOutputStream(channel)) {
      for (byte[] each : lines) {
        out.write(each);
      }
      channel.force(true);
    }
  }
}
