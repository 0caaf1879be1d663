package weftex.cli.reviewing;

import java.io.IOException;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeMap;
import java.util.TreeSet;
import java.util.stream.Collectors;
import weftex.cli.page.Times;
import weftex.cli.session.Session;
import weftex.cli.workplace.Workplace;
import weftex.core.change.Review;
import weftex.core.changeset.DecisionLine;
import weftex.core.decide.Consequences;
import weftex.core.signoff.Answer;
import weftex.core.signoff.Decision;
import weftex.store.Refusal;
import weftex.store.changeset.ChangeSetFile;
import weftex.store.changeset.DecisionLog;
import weftex.store.receipt.Undone;

/** Holds back what somebody undid before, where nobody is asked. */
final class HoldingBack {

  private HoldingBack() {}

  static Set<Integer> openOf(Review review) {
    return review.ids().stream()
        .filter(id -> review.standing(id) == Review.Standing.OPEN)
        .collect(Collectors.toCollection(TreeSet::new));
  }

  /** Leaves out what was merged before and taken back, and what can't be made without it. */
  static int holdBack(Workplace place, Session session, Path file, String by, DecisionLog log)
      throws Refusal, IOException {
    ChangeSetFile index = ChangeSetFile.read(file, session.keys());
    Undone undone = Undone.of(place.receipts(), index.header().target());
    if (undone.isNothing()) {
      return 0;
    }
    Review review = index.review();
    Set<Integer> included =
        index.contents().held().values().stream()
            .filter(decision -> decision.answer() == Answer.INCLUDE)
            .flatMap(decision -> decision.changes().stream())
            .collect(Collectors.toSet());
    Map<String, List<Integer>> held = undoneSince(index, undone, review, included);
    return skipped(session, by, log, review, held);
  }

  static Map<String, List<Integer>> undoneSince(
      ChangeSetFile index, Undone undone, Review review, Set<Integer> included)
      throws Refusal, IOException {
    Map<String, List<Integer>> held = new TreeMap<>();
    index.eachChange(
        change -> {
          Review.Standing standing = review.standing(change.id());
          boolean goes = standing == Review.Standing.MADE || standing == Review.Standing.OPEN;
          if (goes && !included.contains(change.id())) {
            undone
                .at(change)
                .ifPresent(at -> held.computeIfAbsent(at, t -> new ArrayList<>()).add(change.id()));
          }
        });
    return held;
  }

  static int skipped(
      Session session, String by, DecisionLog log, Review review, Map<String, List<Integer>> held)
      throws Refusal, IOException {
    Set<Integer> open = openOf(review);
    List<Decision> decisions = new ArrayList<>();
    held.forEach(
        (at, changes) ->
            decisions.add(
                Decision.of(
                    changes,
                    Optional.empty(),
                    Answer.SKIP,
                    by,
                    session.now(),
                    "undone " + Times.shown(at) + ", so held back until somebody includes it")));
    decisions.forEach(review::add);
    open.removeAll(held.values().stream().flatMap(List::stream).toList());
    decisions.addAll(Consequences.of(review, Answer.SKIP, open, by, session.now()));
    List<byte[]> lines = new ArrayList<>();
    for (Decision decision : decisions) {
      lines.add(DecisionLine.of(decision));
    }
    log.append(lines);
    return decisions.stream().mapToInt(decision -> decision.changes().size()).sum();
  }
}
