package weftex.cli.page;

import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeMap;
import java.util.stream.Collectors;
import weftex.core.change.Action;
import weftex.core.change.Item;
import weftex.core.change.Outline;
import weftex.core.change.Review;
import weftex.core.model.SiteModel;
import weftex.core.signoff.Answer;
import weftex.core.signoff.Decision;
import weftex.store.changeset.ChangeSetFile;

/** What an approval is about, on one screen. */
public final class Summary {
  private static final int NAMED = 6;

  private final ChangeSetFile index;
  private final Review review;
  private final SiteModel model;

  /**
   * @param review how things stand now
   * @param model which tables hold accounts and settings
   */
  public Summary(ChangeSetFile index, Review review, SiteModel model) {
    this.index = index;
    this.review = review;
    this.model = model;
  }

  /** What is said of one matter. */
  public record Entry(String heading, String text) {}

  /** The matters, in the order of reading. */
  public List<Entry> entries() {
    List<Entry> entries = new ArrayList<>();
    List<String> made =
        index.schema().stream()
            .filter(change -> review.standing(change.id()) == Review.Standing.MADE)
            .map(change -> Visible.text(change.item().words()))
            .toList();
    if (!made.isEmpty()) {
      entries.add(new Entry("created", named(made)));
    }
    for (Action action : Action.values()) {
      String text = counted(action);
      if (!text.isEmpty()) {
        entries.add(new Entry(past(action), text));
      }
    }
    long renumbered =
        index.outlines().stream().filter(change -> change.renumbered() && isMade(change)).count();
    if (renumbered > 0) {
      entries.add(new Entry("renumbered", renumbered + (renumbered == 1 ? " row" : " rows")));
    }
    decided().ifPresent(text -> entries.add(new Entry("decided", text)));
    List<String> leftOut = things(id -> review.standing(id) == Review.Standing.SKIPPED);
    entries.add(new Entry("left out", leftOut.isEmpty() ? "nothing" : named(leftOut)));
    entries.add(
        new Entry(
            "accounts",
            touched(model.copies().people() == null ? "" : model.copies().people().table())));
    entries.add(
        new Entry(
            "settings",
            touched(model.copies().address() == null ? "" : model.copies().address().table())));
    return entries;
  }

  private boolean isMade(Outline change) {
    return review.standing(change.id()) == Review.Standing.MADE;
  }

  private static String past(Action action) {
    return switch (action) {
      case ADD -> "added";
      case UPDATE -> "updated";
      case REMOVE -> "removed";
    };
  }

  /** Things, and rows that are parts of things, by what they are. */
  private String counted(Action action) {
    Map<String, Long> counts = new LinkedHashMap<>();
    for (Outline change : index.outlines()) {
      if (change.action() == action && isMade(change)) {
        Optional<Item> item = change.item();
        String part = item.map(Item::part).orElse("");
        int quote = part.indexOf(" '");
        String what =
            item.isEmpty()
                ? "row of " + change.table()
                : part.isEmpty()
                    ? item.get().kind()
                    : (quote < 0 ? part : part.substring(0, quote)) + " of a " + item.get().kind();
        counts.merge(Visible.text(what), 1L, Long::sum);
      }
    }
    return counts.entrySet().stream()
        .map(entry -> entry.getValue() + " × " + entry.getKey())
        .collect(Collectors.joining(", "));
  }

  private Optional<String> decided() {
    Map<String, Integer> by = new TreeMap<>();
    for (Decision decision : index.contents().held().values()) {
      if (decision.answer() != Answer.NOTE) {
        by.merge(Visible.text(decision.by()), decision.changes().size(), Integer::sum);
      }
    }
    return by.isEmpty()
        ? Optional.empty()
        : Optional.of(
            by.entrySet().stream()
                .map(entry -> entry.getValue() + " by " + entry.getKey())
                .collect(Collectors.joining(", ")));
  }

  private List<String> things(java.util.function.IntPredicate which) {
    Set<String> things = new LinkedHashSet<>();
    for (int id : review.ids()) {
      if (which.test(id)) {
        things.add(
            Visible.text(
                review
                    .thing(id)
                    .map(item -> new Item(item.kind(), item.name(), "").words())
                    .orElse("change " + id)));
      }
    }
    return List.copyOf(things);
  }

  /** What is touched of a table; tables of accounts and settings deserve a look. */
  private String touched(String table) {
    Set<String> names = new LinkedHashSet<>();
    for (Outline change : index.outlines()) {
      if (change.table().equals(table) && isMade(change)) {
        names.add(Visible.text(change.thing().name()));
      }
    }
    return table.isEmpty()
        ? "the site model does not say where they are"
        : names.isEmpty() ? "none" : named(List.copyOf(names));
  }

  private static String named(List<String> names) {
    return names.stream().limit(NAMED).collect(Collectors.joining(", "))
        + (names.size() > NAMED ? " and " + (names.size() - NAMED) + " more" : "");
  }
}
