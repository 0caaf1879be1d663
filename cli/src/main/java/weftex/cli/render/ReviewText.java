package weftex.cli.render;

import java.util.List;
import java.util.Set;
import java.util.stream.Collectors;
import weftex.cli.page.ItemText;
import weftex.cli.page.Page;
import weftex.cli.result.ReviewReport;
import weftex.core.change.Review;
import weftex.core.change.RowChange;
import weftex.core.change.SchemaChange;
import weftex.core.merge.ConflictKind;

/** Prints a change set as it stands. */
public final class ReviewText {
  private static final int NUMBERS_WIDTH = 16;

  private ReviewText() {}

  /**
   * How much is shown.
   *
   * @param whole whether values are shown whole
   * @param rows whether every change is shown, so that things need not be listed
   */
  public record Extent(boolean whole, boolean rows) {}

  /**
   * Prints.
   *
   * @param schema new tables and columns to show with their statements
   * @param changes those to show; none after decisions were taken, when only the summary matters
   */
  public static void print(
      Page page,
      ReviewReport reviewed,
      Review review,
      List<SchemaChange> schema,
      List<RowChange> changes,
      Extent extent) {
    printHead(page, reviewed);
    page.blank();
    if (!extent.rows()) {
      items(page, reviewed);
    }
    if (!extent.rows() && !reviewed.things().items().isEmpty() && !changes.isEmpty()) {
      page.line("To decide:");
    }
    ChangeText text =
        new ChangeText(page, reviewed.set().from(), reviewed.set().into(), extent.whole());
    for (SchemaChange change : schema) {
      page.hanging(6, heading(page, change.id(), review) + "new " + change.item().words());
      SchemaText.statements(page, change);
    }
    for (RowChange change : changes) {
      page.hanging(6, heading(page, change.id(), review) + text.title(change));
      text.columns(change);
      notes(page, change, review);
    }
    if (!changes.isEmpty() || !schema.isEmpty()) {
      page.blank();
    }
    summary(page, reviewed);
  }

  private static void printHead(Page page, ReviewReport reviewed) {
    page.line(
        page.strong(reviewed.set().from() + " → " + reviewed.set().into())
            + "   "
            + reviewed.set().file());
    page.line(
        page.faint(
            "into "
                + reviewed.set().target()
                + reviewed
                    .set()
                    .base()
                    .map(
                        base ->
                            ", base: "
                                + base.replaceAll("T(\\d\\d:\\d\\d):\\d\\d(\\.\\d+)?Z", " $1 UTC"))
                    .orElse(", without a base")));
  }

  private static void items(Page page, ReviewReport reviewed) {
    if (reviewed.things().items().isEmpty()) {
      return;
    }
    int width =
        reviewed.things().items().stream().mapToInt(item -> numbers(item).length()).max().orElse(0);
    width = Math.min(width, NUMBERS_WIDTH);
    for (ReviewReport.Item item : reviewed.things().items()) {
      boolean open = item.standing().containsKey(Review.Standing.OPEN.label());
      String label = open ? Review.Standing.OPEN.label() : mostly(item);
      String numbers = Page.shortened(numbers(item), NUMBERS_WIDTH);
      page.hanging(
          width + 11,
          String.format("  %-" + Math.max(1, width) + "s ", numbers)
              + (open
                  ? page.alert(String.format("%-7s", label))
                  : page.faint(String.format("%-7s", label)))
              + ItemText.words(page, item.item())
              + (item.open().isEmpty() ? "" : " · " + page.alert(String.join(", ", item.open())))
              + (item.because().isEmpty() ? "" : page.faint(" · since " + item.because())));
    }
    if (reviewed.things().itemsBeyond() > 0) {
      page.line("  … and " + reviewed.things().itemsBeyond() + " more rows; --values lists them.");
    }
    page.blank();
  }

  /** How most of a thing's changes stand, and how many stand otherwise. */
  private static String mostly(ReviewReport.Item item) {
    return item.standing().entrySet().stream()
        .max(java.util.Map.Entry.comparingByValue())
        .orElseThrow()
        .getKey();
  }

  /** Change numbers as they are written in decisions: {@code 3-5,9}. */
  private static String numbers(ReviewReport.Item item) {
    return ranges(item.numbers());
  }

  /** Numbers as a person writes them, such as 3-5,9. */
  static String ranges(List<Integer> numbers) {
    StringBuilder written = new StringBuilder();
    for (int i = 0; i < numbers.size(); i++) {
      int last = i;
      while (last + 1 < numbers.size() && numbers.get(last + 1) == numbers.get(last) + 1) {
        last++;
      }
      written.append(i == 0 ? "" : ",").append(numbers.get(i));
      if (last > i) {
        written.append('-').append(numbers.get(last));
      }
      i = last;
    }
    return written.toString();
  }

  private static String heading(Page page, int id, Review review) {
    Review.Standing standing = review.standing(id);
    String label = String.format("%-7s", standing.label());
    return String.format("%4d ", id)
        + (standing == Review.Standing.OPEN ? page.alert(label) : page.faint(label));
  }

  private static void notes(Page page, RowChange change, Review review) {
    Set<ConflictKind> shown =
        change.conflicts().stream().map(c -> c.kind()).collect(Collectors.toSet());
    List<Integer> unmet = review.unmetNeeds(change.id());
    if (review.standing(change.id()) == Review.Standing.OPEN && !unmet.isEmpty()) {
      String kinds =
          review.open(change.id()).stream()
              .filter(kind -> !shown.contains(kind))
              .map(ConflictKind::label)
              .collect(Collectors.joining(", "));
      String ids = unmet.stream().map(String::valueOf).collect(Collectors.joining(","));
      boolean offered =
          unmet.stream().allMatch(id -> review.standing(id) == Review.Standing.OFFERED);
      page.line(
          "      "
              + page.alert(kinds.isEmpty() ? "needs" : kinds)
              + ": it needs change "
              + ids
              + ", which is left out; "
              + (offered ? "--bring " : "--include ")
              + ids
              + " or --skip "
              + change.id());
    }
    if (change.offered() && review.standing(change.id()) == Review.Standing.OFFERED) {
      page.line(
          "      "
              + page.faint(
                  "not chosen; a chosen change refers to it, or is shown by it; --bring "
                      + change.id()
                      + " brings it along"));
    }
  }

  private static void summary(Page page, ReviewReport reviewed) {
    String counts =
        reviewed.standing().entrySet().stream()
            .filter(entry -> entry.getValue() > 0)
            .map(entry -> entry.getValue() + " " + words(entry.getKey()))
            .collect(Collectors.joining(", "));
    page.line(
        reviewed.changes() + (reviewed.changes() == 1 ? " change: " : " changes: ") + counts + ".");
    boolean open = reviewed.standing().getOrDefault(Review.Standing.OPEN.label(), 0L) > 0;
    if (reviewed.approvals().approved()) {
      page.line("Approved by " + String.join("; ", reviewed.approvals().approvedBy()) + ".");
      printMissing(page, reviewed);
    } else if (!reviewed.approvals().approvedBy().isEmpty()) {
      page.line(
          page.alert(
              "An approval by "
                  + String.join("; ", reviewed.approvals().approvedBy())
                  + " is void, since something was decided after it."));
    }
    if (!reviewed.approvals().approved()) {
      page.hanging(
          6,
          page.faint(
              open
                  ? "Next: weftex review"
                      + reviewed.set().argument()
                      + " --take N ("
                      + reviewed.set().from()
                      + "'s side), --keep N ("
                      + reviewed.set().into()
                      + "'s side) or --skip N"
                  : "Next: weftex review" + reviewed.set().argument() + " --approve"));
    }
  }

  private static void printMissing(Page page, ReviewReport reviewed) {
    int missing = reviewed.approvals().approvalsMissing();
    page.line(
        page.faint(
            missing == 0
                ? "Next: weftex apply" + reviewed.set().argument()
                : "Next: weftex review"
                    + reviewed.set().argument()
                    + " --approve "
                    + (reviewed.approvals().approvalsSigned() ? "--sign KEY" : "--by NAME")
                    + ", by "
                    + missing
                    + (missing == 1 ? " more person" : " more people")));
  }

  private static String words(String standing) {
    return switch (standing) {
      case "apply" -> "to apply";
      case "decide" -> "to decide";
      case "skip" -> "skipped";
      case "offer" -> "offered";
      default -> "kept as they are";
    };
  }
}
