package weftex.cli.report;

import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import weftex.cli.page.Explained;
import weftex.cli.page.FileChanges;
import weftex.cli.page.Visible;
import weftex.cli.page.WordMarks;
import weftex.cli.page.Words;
import weftex.core.change.ChangeSetHeader;
import weftex.core.change.Conflict;
import weftex.core.change.Item;
import weftex.core.change.Review;
import weftex.core.change.RowChange;
import weftex.core.change.SchemaChange;
import weftex.core.changeset.ChangeSetContents;
import weftex.core.file.FileRows;
import weftex.core.signoff.Answer;
import weftex.core.signoff.Decision;

/** Gathers a report while a change set goes by. Of long texts only what changes is kept. */
public final class ReportBuilder {
  private final Review review;
  private final Explained explained;
  private final Pictures pictures;
  private final ChangeSetContents contents;
  private final Map<Item, GatheredThing> things = new LinkedHashMap<>();
  private final Map<Integer, List<Decision>> decisions = new TreeMap<>();

  /**
   * @param review with every change and decision of the change set
   * @param pictures views of those that change
   */
  public ReportBuilder(ChangeSetContents contents, Review review, Pictures pictures) {
    this.contents = contents;
    this.pictures = pictures;
    this.review = review;
    this.explained = new Explained(contents.header().from(), contents.header().into());
    for (Decision decision : contents.held().values()) {
      for (int id : decision.changes()) {
        decisions.computeIfAbsent(id, unused -> new ArrayList<>()).add(decision);
      }
    }
  }

  private GatheredThing thing(Item item, int id) {
    GatheredThing thing =
        things.computeIfAbsent(
            new Item(item.kind(), item.name(), ""), unused -> new GatheredThing());
    Review.Standing standing = review.standing(id);
    thing.open |= standing == Review.Standing.OPEN;
    thing.standings.merge(standing.label(), 1, Integer::sum);
    return thing;
  }

  /** Takes a new table or column. */
  public void add(SchemaChange change) {
    GatheredThing thing = thing(change.item(), change.id());
    thing.does = "created";
    thing.changes.add(
        new Report.Change(
            change.id(),
            "new " + change.item().kind() + " " + Visible.text(change.item().name()),
            review.standing(change.id()).label(),
            List.of(),
            List.of(),
            notes(change.id()),
            change.words().stream().map(Visible::text).toList(),
            List.of()));
  }

  /** Takes a change of a row. */
  public void add(RowChange made) {
    RowChange change = FileChanges.shown(made);
    Item item =
        change.item().orElseGet(() -> new Item("row of " + change.table(), change.keyText(), ""));
    GatheredThing thing = thing(item, change.id());
    if (item.part().isEmpty()) {
      thing.does =
          switch (change.action()) {
            case ADD -> "added";
            case UPDATE -> "updated";
            case REMOVE -> "removed";
          };
    }
    String part = item.part().isEmpty() ? "" : Visible.text(item.part()) + ", ";
    thing.changes.add(
        new Report.Change(
            change.id(),
            part + change.action().label() + " " + Visible.text(FileChanges.place(change)),
            review.standing(change.id()).label(),
            ReportValues.cells(change),
            explained.told(change).stream().map(conflict -> question(change, conflict)).toList(),
            told(change),
            List.of(),
            FileRows.isFile(made) ? views(made) : List.of()));
  }

  /** What is said beside a change: who made it, what it needs, and what hangs on it. */
  private List<String> told(RowChange change) {
    List<String> notes = new ArrayList<>();
    explained.who(change.trace()).ifPresent(who -> notes.add(who + "."));
    if (change.renumbered()) {
      notes.add("It gets a new ID, since " + into() + " has or had another row under its own.");
    }
    change
        .alongWith()
        .ifPresent(id -> notes.add("It comes along, since change " + id + " needs it."));
    review.unmetNeeds(change.id()).forEach(id -> notes.add("It needs change " + id + "."));
    change
        .hangers()
        .forEach(
            (hanger, rows) -> {
              if (rows > 0) {
                notes.add(
                    rows
                        + (rows == 1 ? " row of " : " rows of ")
                        + hanger.table()
                        + (rows == 1 ? " refers to it." : " refer to it."));
              }
            });
    notes.addAll(notes(change.id()));
    return notes;
  }

  private List<Report.View> views(RowChange file) {
    List<Report.View> views = new ArrayList<>();
    pictures
        .before(file)
        .ifPresent(address -> views.add(new Report.View(into() + ", before", address)));
    pictures
        .after(file)
        .ifPresent(address -> views.add(new Report.View(contents.header().from(), address)));
    return views;
  }

  private String into() {
    return contents.header().into();
  }

  private List<String> notes(int id) {
    List<String> notes = new ArrayList<>();
    for (Decision decision : decisions.getOrDefault(id, List.of())) {
      String column = decision.column().map(name -> " in " + name).orElse("");
      notes.add(
          Visible.text(
              words(decision.answer())
                  + column
                  + ", says "
                  + decision.by()
                  + (decision.why().isEmpty() ? "." : ": " + decision.why())));
    }
    return notes;
  }

  private String words(Answer answer) {
    String said = Words.answer(answer, contents.header().from(), into());
    return Character.toUpperCase(said.charAt(0)) + said.substring(1);
  }

  private Report.Question question(RowChange change, Conflict conflict) {
    List<Report.Sides> sides = new ArrayList<>();
    for (String column : conflict.columns()) {
      String target = ReportValues.text(conflict.target().get(column));
      sides.add(
          new Report.Sides(
              column,
              WordMarks.compare(ReportValues.text(conflict.base().get(column)), target).before(),
              WordMarks.compare(
                      ReportValues.text(conflict.base().get(column)),
                      ReportValues.text(conflict.source().get(column)))
                  .after(),
              WordMarks.compare(ReportValues.text(conflict.base().get(column)), target).after()));
    }
    return new Report.Question(
        conflict.kind().label(),
        explained.sentence(change, conflict),
        review.open(change.id()).contains(conflict.kind())
            ? explained.answers(change, conflict).entrySet().stream()
                .map(
                    answer ->
                        Words.answer(answer.getKey(), contents.header().from(), into())
                            + ": "
                            + answer.getValue())
                .toList()
            : List.of(),
        sides);
  }

  /** The report of what went by. */
  public Report build() {
    List<Report.Thing> open = new ArrayList<>();
    Map<String, List<Report.Thing>> groups = new LinkedHashMap<>();
    Map<String, long[]> tallies = new LinkedHashMap<>();
    things.forEach(
        (item, gathered) -> {
          Report.Thing thing = thing(item, gathered);
          if (gathered.open) {
            open.add(thing);
          } else {
            groups.computeIfAbsent(item.kind(), unused -> new ArrayList<>()).add(thing);
          }
          long[] tally = tallies.computeIfAbsent(item.kind(), unused -> new long[3]);
          tally[ReportValues.column(gathered.does)]++;
        });
    return new Report(
        head(),
        counts(),
        ReportValues.bars(tallies),
        open,
        groups.entrySet().stream()
            .map(entry -> new Report.Group(Visible.text(entry.getKey()), entry.getValue()))
            .toList());
  }

  private Report.Head head() {
    ChangeSetHeader header = contents.header();
    boolean stillApproved = contents.isApproved();
    return new Report.Head(
        header.site(),
        header.from(),
        header.into(),
        header.target(),
        header.base().map(ReportBuilder::time).orElse(""),
        time(header.drafted()),
        contents.sha256(),
        contents.approvals().stream()
            .map(
                a ->
                    Visible.text(a.by())
                        + ", "
                        + time(a.at())
                        + (a.signature().isPresent() ? ", signed" : "")
                        + (stillApproved ? "" : " (void: decided after it)"))
            .toList());
  }

  private static Report.Thing thing(Item item, GatheredThing gathered) {
    String standing =
        gathered.open
            ? Review.Standing.OPEN.label()
            : gathered.standings.entrySet().stream()
                .max(Map.Entry.comparingByValue())
                .orElseThrow()
                .getKey();
    return new Report.Thing(
        "change-" + gathered.changes.get(0).number(),
        Visible.text(item.kind()),
        Visible.text(item.name()),
        gathered.does,
        standing,
        gathered.changes);
  }

  /** Instants in a text, to the minute. */
  private static String time(String text) {
    return text.replaceAll("T(\\d\\d:\\d\\d):\\d\\d(\\.\\d+)?Z", " $1 UTC");
  }

  private static String words(Review.Standing standing) {
    return switch (standing) {
      case MADE -> "to apply";
      case OPEN -> "to decide";
      case SKIPPED -> "skipped";
      case OFFERED -> "offered";
      case NOTHING -> "kept as they are";
    };
  }

  private List<Report.Count> counts() {
    List<Report.Count> counts = new ArrayList<>();
    for (Review.Standing standing : Review.Standing.values()) {
      long changes = review.ids().stream().filter(id -> review.standing(id) == standing).count();
      if (changes > 0) {
        counts.add(new Report.Count(words(standing), changes));
      }
    }
    return counts;
  }
}
