package weftex.cli.page;

import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import weftex.cli.result.ApplyReport;
import weftex.cli.result.ItemReport;

/** Prints things as a person sees them, a line each. */
public final class ItemText {
  private ItemText() {}

  /** Prints the things that would change, grouped by kind in the order in which kinds come up. */
  public static void print(Page page, List<ItemReport> items, long beyond, String into) {
    if (items.isEmpty()) {
      return;
    }
    page.line("What would change on " + into + ":");
    items.stream()
        .map(ItemReport::kind)
        .distinct()
        .forEach(
            kind ->
                items.stream()
                    .filter(item -> item.kind().equals(kind))
                    .forEach(item -> page.line("  " + words(page, item, Telling.ASKED))));
    if (beyond > 0) {
      page.line("  … and " + beyond + " more rows; --items lists more things.");
    }
    page.blank();
  }

  /** How what happens to things is told. */
  private enum Telling {
    /** With what is in conflict. */
    ASKED,
    DONE,
    TAKEN_BACK
  }

  /** One thing and what happens to it, without its conflicts. */
  public static String words(Page page, ItemReport item) {
    return words(page, item, Telling.DONE);
  }

  private static String words(Page page, ItemReport item, Telling telling) {
    List<String> words = new ArrayList<>();
    boolean back = telling == Telling.TAKEN_BACK;
    if (!item.does().equals("update")) {
      words.add(
          switch (item.does()) {
            case "add" -> back ? "brought back" : "added";
            case "create" -> "created";
            default -> "removed";
          });
    } else if (!item.columns().isEmpty()) {
      words.add(String.join(", ", item.columns()) + (back ? " as before" : ""));
    }
    for (Map.Entry<String, Long> part : item.parts().entrySet()) {
      String counted = counted(part.getKey(), part.getValue());
      words.add(
          back
              ? counted
                  .replaceFirst(" added$", " brought back")
                  .replaceFirst(" updated$", " as before")
              : counted);
    }
    String name =
        item.name().isEmpty() ? "" : " " + page.strong("'" + Page.shortened(item.name(), 50) + "'");
    String named =
        item.conflicts().isEmpty() || telling != Telling.ASKED
            ? ""
            : " · " + page.alert(String.join(", ", item.conflicts()));
    return item.kind() + name + " · " + String.join(", ", words) + named;
  }

  /** Prints things that were made, a line each. */
  public static void printMade(Page page, ApplyReport.Things things) {
    print(page, things, Telling.DONE);
  }

  /** Prints things that were taken back, a line each. */
  public static void printTakenBack(Page page, ApplyReport.Things things) {
    print(page, things, Telling.TAKEN_BACK);
  }

  private static void print(Page page, ApplyReport.Things things, Telling telling) {
    for (ApplyReport.Made made : things.things()) {
      page.line(
          "  "
              + words(page, made.item(), telling)
              + (made.id().isEmpty()
                  ? ""
                  : (telling == Telling.TAKEN_BACK ? "; it had ID " : "; new ID ")
                      + page.strong(made.id())));
    }
    if (things.thingsBeyond() > 0) {
      page.line("  … and " + things.thingsBeyond() + " more rows of other things");
    }
  }

  private static String plural(String word) {
    return word.endsWith("ry") ? word.substring(0, word.length() - 1) + "ies" : word + "s";
  }

  /** {@code 1 detail added}, {@code 2 details added}. */
  private static String counted(String part, long count) {
    int space = part.lastIndexOf(' ');
    String word = part.substring(0, space);
    return count + " " + (count == 1 ? word : plural(word)) + part.substring(space);
  }
}
