package weftex.cli.page;

import java.util.Locale;
import weftex.core.signoff.Answer;

/** What answers are called, for people. */
public final class Words {
  private Words() {}

  /** A number of things, such as {@code 1 row} or {@code 3 rows}. */
  public static String count(long number, String thing) {
    return number + " " + thing + (number == 1 ? "" : "s");
  }

  /** What a reviewer said, such as {@code keep live's side}. */
  public static String answer(Answer answer, String from, String into) {
    return switch (answer) {
      case SOURCE -> "take " + from + "'s side";
      case TARGET -> "keep " + into + "'s side";
      case BOTH -> "both";
      case VALUE -> "a value of the reviewer's own";
      case SKIP -> "leave it out";
      case INCLUDE -> "make it after all";
      case BRING -> "bring it along";
      case REOPEN -> "decide again";
      case NOTE -> "note";
    };
  }

  /** The same, by what files call an answer. */
  public static String answer(String label, String from, String into) {
    return answer(Answer.valueOf(label.toUpperCase(Locale.ROOT)), from, into);
  }
}
