package weftex.cli.screen;

import java.util.List;
import java.util.Set;
import java.util.stream.Collectors;
import weftex.cli.page.Visible;
import weftex.cli.page.Words;
import weftex.core.change.Item;
import weftex.core.change.Review;
import weftex.core.signoff.Answer;
import weftex.core.signoff.Decision;

/**
 * What is done in a review, said to the reader in a sentence.
 *
 * @param from the copy that the changes come from
 * @param into the copy that receives them
 */
record DeskWords(String from, String into) {

  /**
   * What a decision did.
   *
   * @param followed what followed from it
   * @param openBefore changes that were open before it
   * @param open those that are open now
   */
  String outcome(
      Decision decision, List<Decision> followed, Set<Integer> openBefore, Set<Integer> open) {
    List<Integer> arisen = open.stream().filter(id -> !openBefore.contains(id)).sorted().toList();
    String what = decision.answer() == Answer.NOTE ? "Noted" : capital(said(decision.answer()));
    String about =
        decision.changes().size() == 1
            ? " for change " + decision.changes().get(0)
            : " for " + decision.changes().size() + " changes";
    String where =
        decision.column().map(c -> " in " + c).orElse("")
            + decision.passage().map(p -> ", passage " + p.number()).orElse("");
    String next =
        open.isEmpty()
            ? " Nothing is left to decide."
            : " " + open.size() + (open.size() == 1 ? " change is" : " changes are") + " open.";
    return what
        + about
        + where
        + "."
        + followed.stream()
            .map(one -> " Follows: " + said(one.answer()) + " for " + listed(one.changes()) + ".")
            .collect(Collectors.joining())
        + (arisen.isEmpty() ? next : " That leaves something to decide in " + listed(arisen) + ".");
  }

  private static String listed(List<Integer> ids) {
    String first = String.join(", ", ids.stream().limit(5).map(String::valueOf).toList());
    return (ids.size() == 1 ? "change " : "changes ") + first + (ids.size() > 5 ? " …" : "");
  }

  /** An answer in words. */
  String said(Answer answer) {
    return Words.answer(answer, from, into);
  }

  private static String capital(String text) {
    return Character.toUpperCase(text.charAt(0)) + text.substring(1);
  }

  /** That a decision was taken back, and what followed from it. */
  String takenBack(Decision decision, Review review) {
    return "Taken back: "
        + said(decision.answer())
        + " for "
        + (decision.changes().size() == 1
            ? review
                .thing(decision.changes().get(0))
                .map(Item::words)
                .map(Visible::text)
                .orElse("change " + decision.changes().get(0))
            : decision.changes().size() + " changes")
        + ", said by "
        + Visible.text(decision.by())
        + ".";
  }
}
