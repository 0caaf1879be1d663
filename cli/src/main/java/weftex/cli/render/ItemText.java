package weftex.cli.render;

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
                    .forEach(item -> page.line("  " + words(page, item, true))));
    if (beyond > 0) {
      page.line("  … and " + beyond + " more rows; --items lists more things.");
    }
    page.blank();
  }

  /**
   * One thing and what happens to it.
   *
   * @param conflicts whether its conflicts are named
   */
  static String words(Page page, ItemReport item, boolean conflicts) {
    List<String> words = new ArrayList<>();
    if (!item.does().equals("update")) {
      words.add(
          switch (item.does()) {
            case "add" -> "added";
            case "create" -> "created";
            default -> "removed";
          });
    } else if (!item.columns().isEmpty()) {
      words.add(String.join(", ", item.columns()));
    }
    for (Map.Entry<String, Long> part : item.parts().entrySet()) {
      words.add(counted(part.getKey(), part.getValue()));
    }
    String name =
        item.name().isEmpty() ? "" : " " + page.strong("'" + Page.shortened(item.name(), 50) + "'");
    String named =
        item.conflicts().isEmpty() || !conflicts
            ? ""
            : " · " + page.alert(String.join(", ", item.conflicts()));
    return item.kind() + name + " · " + String.join(", ", words) + named;
  }

  /** Prints things that were made or taken back, a line each. */
  static void printThings(Page page, ApplyReport.Things things) {
    for (ApplyReport.Made made : things.things()) {
      page.line(
          "  "
              + words(page, made.item(), false)
              + (made.id().isEmpty() ? "" : "; new ID " + page.strong(made.id())));
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
