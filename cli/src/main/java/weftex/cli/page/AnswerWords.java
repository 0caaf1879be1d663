package weftex.cli.page;

import java.util.Map;
import weftex.core.change.Conflict;
import weftex.core.change.RowChange;
import weftex.core.merge.ConflictKind;
import weftex.core.merge.Passages;
import weftex.core.signoff.Answer;

/** What each answer to a conflict would do. */
final class AnswerWords {

  private final String from;
  private final String into;

  AnswerWords(String from, String into) {
    this.from = from;
    this.into = into;
  }

  void put(
      RowChange change,
      Conflict conflict,
      Map<Answer, String> answers,
      String columns,
      boolean whole) {
    switch (conflict.kind()) {
      case BOTH_EDITED, BOTH_ADDED, NO_BASE -> {
        answers.put(
            Answer.SOURCE,
            whole
                ? "it is made as " + from + " has it"
                : from + "'s " + columns + " stands; what " + into + " wrote there is lost");
        answers.put(
            Answer.TARGET,
            whole
                ? "nothing is made; " + into + " stays as it is"
                : into + "'s " + columns + " stays" + merged(conflict));
        putBoth(conflict, answers, whole);
      }
      case EDITED_GONE -> {
        answers.put(Answer.SOURCE, "it comes back, as " + from + " has it");
        answers.put(Answer.TARGET, "it stays removed; " + from + "'s edit is lost");
      }
      case GONE_EDITED -> {
        answers.put(Answer.SOURCE, "it is removed, together with " + into + "'s edit");
        answers.put(Answer.TARGET, "it stays, as " + into + " has it");
      }
      case UNKNOWN_TABLE -> {
        answers.put(Answer.SOURCE, "it is removed, as " + from + " removed it");
        answers.put(Answer.TARGET, "it stays");
      }
      case GONE_IN_USE -> {
        answers.put(
            Answer.SOURCE,
            "it is removed; " + Explained.hangers(change).orElse("they") + " are left without it");
        answers.put(Answer.TARGET, "it stays, with all that hangs on it");
      }
      case TAKEN, MISSING_PARENT -> {
        answers.put(Answer.SOURCE, "it is made all the same");
        answers.put(Answer.TARGET, into + " stays as it is");
      }
    }
  }

  void putBoth(Conflict conflict, Map<Answer, String> answers, boolean whole) {
    if (conflict.kind() == ConflictKind.BOTH_ADDED) {
      answers.put(Answer.BOTH, "they are two things; the change set is drafted again with both");
    } else if (!whole && hasBoth(conflict)) {
      answers.put(
          Answer.BOTH, "in a passage of the text, " + from + "'s words and then " + into + "'s");
    }
  }

  static boolean hasBoth(Conflict conflict) {
    return conflict.columns().stream()
        .flatMap(column -> conflict.passages(column).stream())
        .flatMap(passages -> passages.pieces().stream())
        .anyMatch(Passages.Piece::hasBoth);
  }

  String merged(Conflict conflict) {
    return conflict.otherwise().isEmpty()
        ? "; " + from + "'s edit of it is not carried over"
        : "; " + from + "'s edits elsewhere in it come along";
  }
}
