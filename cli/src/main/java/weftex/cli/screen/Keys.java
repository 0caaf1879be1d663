package weftex.cli.screen;

import java.util.List;
import java.util.Locale;
import weftex.cli.page.Columns;
import weftex.core.signoff.Answer;

/** What keys do. */
enum Keys {
  UP("↑", ""),
  DOWN("↓", ""),
  PAGE_UP("PgUp", ""),
  PAGE_DOWN("PgDn", ""),
  FIRST("Home", ""),
  LAST("End", ""),
  SWITCH("Tab", "between the list and the changes of a thing, where single changes can be decided"),
  INTO("→", ""),
  BACK("←", ""),
  TAKE("t", "take the side of the copy that the changes come from"),
  KEEP("k", "keep the side of the copy that receives them"),
  BOTH(
      "+",
      "both: a passage gets both sides' words; two things of one name that both copies added stay two"),
  SKIP("x", "leave out: a change, a thing, or on a heading all of its kind"),
  INCLUDE("i", "make it after all"),
  BRING("b", "bring an offered row along"),
  EDIT("e", "write the value of a column in your editor (VISUAL or EDITOR)"),
  NOTE("n", "leave a note"),
  REOPEN("r", "decide again: discard what was decided about it"),
  UNDO("u", "undo: take back the decision that was made last"),
  NEXT("o", "go to the next open conflict"),
  FILTER("f", "list all, what is to decide, decided, left out, offered, or gets a new ID"),
  FIND("/", "find by name, kind, table, key, path or number; empty to see all again"),
  WHOLE("w", "write long texts out, or fold them"),
  APPROVE("a", "approve, after a look at the summary"),
  HELP("?", "this page"),
  QUIT("q", "leave; every decision is in the file already"),
  NONE("", "");

  private final String key;
  private final String meaning;

  Keys(String key, String meaning) {
    this.key = key;
    this.meaning = meaning;
  }

  String key() {
    return key;
  }

  String meaning() {
    return meaning;
  }

  /** The key that gives an answer. */
  static String of(Answer answer) {
    return switch (answer) {
      case SOURCE -> TAKE.key;
      case TARGET -> KEEP.key;
      case BOTH -> BOTH.key;
      case SKIP -> SKIP.key;
      case INCLUDE -> INCLUDE.key;
      case BRING -> BRING.key;
      case VALUE -> EDIT.key;
      case REOPEN -> REOPEN.key;
      case NOTE -> NOTE.key;
    };
  }

  /** The answer that a key gives; only of those that give one. */
  Answer answer() {
    return switch (this) {
      case TAKE -> Answer.SOURCE;
      case KEEP -> Answer.TARGET;
      case BOTH -> Answer.BOTH;
      case SKIP -> Answer.SKIP;
      case INCLUDE -> Answer.INCLUDE;
      case BRING -> Answer.BRING;
      case REOPEN -> Answer.REOPEN;
      default -> throw new IllegalArgumentException(name().toLowerCase(Locale.ROOT));
    };
  }

  /**
   * What is said at the bottom: as many keys as fit, the last two always.
   *
   * @param from the copy that the changes come from
   * @param into the copy that receives them
   */
  static String bar(String from, String into, int width) {
    List<String> all =
        List.of(
            "t " + from,
            "k " + into,
            "+ both",
            "x leave out",
            "o next open",
            "u undo",
            "a approve",
            "e edit",
            "/ find",
            "f filter",
            "Tab changes",
            "n note");
    String end = "? keys  q quit";
    StringBuilder bar = new StringBuilder();
    for (String each : all) {
      if (Columns.width(bar + each) + 2 + end.length() <= width) {
        bar.append(each).append("  ");
      }
    }
    return bar + end;
  }
}
