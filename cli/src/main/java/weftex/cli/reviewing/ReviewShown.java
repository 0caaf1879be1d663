package weftex.cli.reviewing;

import java.io.IOException;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import weftex.cli.page.Times;
import weftex.cli.render.CompareText;
import weftex.cli.result.ItemReport;
import weftex.cli.result.ReviewReport;
import weftex.cli.workplace.NamedChangeSet;
import weftex.cli.workplace.Workplace;
import weftex.core.change.Outline;
import weftex.core.change.Review;
import weftex.core.change.RowChange;
import weftex.core.change.SchemaChange;
import weftex.core.changeset.ChangeSetContents;
import weftex.core.changeset.ChangeSetWriter;
import weftex.core.changeset.JsonLines;
import weftex.core.merge.ConflictKind;
import weftex.core.signoff.Decision;
import weftex.core.signoff.Withdrawal;
import weftex.store.Refusal;
import weftex.store.changeset.ChangeSetFile;
import weftex.store.signature.ApprovalRule;

/** What of a change set a review shows. */
final class ReviewShown {
  private static final int ITEMS_LISTED = 500;

  private final ChangeSetFile file;
  private final Review review;
  private final Integer only;
  private final boolean onlyOpen;
  private final boolean json;
  private final boolean values;
  private final ItemReport.Gatherer things = new ItemReport.Gatherer(ITEMS_LISTED);
  private final List<ReviewReport.Row> items = new ArrayList<>();
  private final List<SchemaChange> schema = new ArrayList<>();
  private final List<RowChange> changes = new ArrayList<>();

  /**
   * @param only the one change that is asked for; null if there is none
   */
  ReviewShown(ChangeSetFile file, Integer only, boolean onlyOpen, boolean json, boolean values) {
    this.file = file;
    this.review = file.review();
    this.only = only;
    this.onlyOpen = onlyOpen;
    this.json = json;
    this.values = values;
  }

  /**
   * Takes in what is to be shown.
   *
   * @param chosen changes; empty for all
   */
  void gather(Optional<Set<Integer>> chosen) throws IOException {
    for (SchemaChange change : file.schema()) {
      if (chosen.isEmpty() || chosen.get().contains(change.id())) {
        gather(change);
      }
    }
    for (Outline change : file.outlines()) {
      if (chosen.isEmpty() || chosen.get().contains(change.id())) {
        gather(change);
      }
    }
  }

  private void gather(SchemaChange change) throws IOException {
    if (only == null && !onlyOpen) {
      things.add(change);
    }
    boolean wanted = only == null ? (values || json) && !onlyOpen : only == change.id();
    if (wanted && json) {
      items.add(item(change.id(), ChangeSetWriter.line(change)));
    } else if (wanted) {
      schema.add(change);
    }
  }

  private void gather(Outline change) throws IOException {
    if (only == null && !onlyOpen) {
      things.add(change);
    }
    boolean open = review.standing(change.id()) == Review.Standing.OPEN;
    boolean wanted = only == null ? values || json && !onlyOpen || open : only == change.id();
    if (wanted && json) {
      items.add(item(change.id(), ChangeSetWriter.line(file.change(change.id()))));
    } else if (wanted) {
      RowChange whole = file.change(change.id());
      changes.add(only == null ? CompareText.withoutLongValues(whole) : whole);
    }
  }

  /** New tables and columns that are shown with all that they are. */
  List<SchemaChange> schema() {
    return schema;
  }

  /** Changes that are shown with their values. */
  List<RowChange> changes() {
    return changes;
  }

  private ReviewReport.Row item(int id, byte[] line) throws IOException {
    return new ReviewReport.Row(
        review.standing(id).label(),
        review.open(id).stream().map(ConflictKind::label).toList(),
        review.unmetNeeds(id),
        JsonLines.parse(line));
  }

  /** The change set, and what was gathered of it. */
  ReviewReport report(Workplace place) throws Refusal, IOException {
    Map<String, Long> standing = new LinkedHashMap<>();
    for (Review.Standing each : Review.Standing.values()) {
      standing.put(each.label(), (long) review.count(each));
    }
    var header = file.contents().header();
    return new ReviewReport(
        new ReviewReport.Named(
            place.shown(file.file()),
            NamedChangeSet.argument(place, file.file()),
            header.site(),
            header.from(),
            header.into(),
            header.target(),
            header.base(),
            header.drafted()),
        file.contents().changes(),
        standing,
        said(file.contents()),
        approvals(place),
        new ReviewReport.Things(things.standing(review), things.beyond()),
        items);
  }

  private ReviewReport.Approvals approvals(Workplace place) throws Refusal, IOException {
    return new ReviewReport.Approvals(
        file.contents().approvals().stream()
            .map(
                a ->
                    a.by()
                        + ", "
                        + Times.shown(a.at())
                        + (a.signature().isPresent() ? ", signed" : ""))
            .distinct()
            .toList(),
        file.contents().isApproved(),
        missing(place),
        place.pair().approvals().signers().isPresent());
  }

  /** How many more people must approve it. */
  private int missing(Workplace place) throws Refusal {
    ApprovalRule rule = place.pair().approvals().rule(Optional.empty());
    int counted = rule.count(file.contents(), place.receipts().time()).names().size();
    return Math.max(0, rule.people() - counted);
  }

  private static List<ReviewReport.Said> said(ChangeSetContents contents) {
    List<ReviewReport.Said> said = new ArrayList<>();
    for (int i = 0; i < contents.decisions().size(); i++) {
      Decision decision = contents.decisions().get(i);
      Optional<Withdrawal> withdrawn = Optional.ofNullable(contents.withdrawn().get(i + 1));
      said.add(
          new ReviewReport.Said(
              i + 1,
              decision.changes(),
              decision.column().orElse(""),
              decision.passage().map(Decision.Passage::number).orElse(0),
              decision.answer().label(),
              decision.by(),
              decision.at(),
              decision.why(),
              withdrawn.map(Withdrawal::by).orElse("")));
    }
    return said;
  }
}
