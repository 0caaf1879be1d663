package weftex.cli.page;

import java.util.List;
import java.util.Optional;
import weftex.cli.result.InsideReport;
import weftex.core.moving.Malformed;
import weftex.core.moving.Suspicion;

/** Prints what happens inside the values that move. */
public final class InsideText {
  private static final int LISTED = 10;

  private InsideText() {}

  /** Prints what there is to say; nothing if there is nothing. */
  public static void print(Page page, InsideReport inside, String into) {
    if (!inside.addresses().isEmpty()) {
      page.line("Addresses that become those of " + into + ":");
      page.table(
          List.of(
              Page.Heading.text("column"),
              Page.Heading.number("rows"),
              Page.Heading.number("addresses"),
              Page.Heading.text("written")),
          inside.addresses().stream()
              .map(
                  m ->
                      List.of(
                          m.table() + "." + m.column(),
                          String.valueOf(m.rows()),
                          String.valueOf(m.hits()),
                          forms(m)))
              .toList());
      page.blank();
    }
    for (Malformed value : first(inside.malformed())) {
      page.line(
          page.alert("left as it is")
              + ": "
              + value.table()
              + " "
              + value.key()
              + ", "
              + value.column()
              + " is malformed at byte "
              + value.offset()
              + " ("
              + value.what()
              + "), so no address or number in it is touched.");
    }
    more(page, inside.malformed());
    printNumbers(page, inside);
  }

  /** Numbers in values: which follow, and which may have to. */
  private static void printNumbers(Page page, InsideReport inside) {
    if (!inside.followed().isEmpty()) {
      page.line(
          "These numbers are taken for references by the names of their members, and follow:");
      numbers(page, inside.followed());
      page.blank();
    }
    if (!inside.suspicions().isEmpty()) {
      page.line(
          "These numbers equal IDs of rows that get another ID, and no rule declares them as references:");
      numbers(page, inside.suspicions());
      Optional<Suspicion> declarable =
          inside.suspicions().stream().filter(number -> !number.rule().isEmpty()).findFirst();
      page.line(
          page.faint(
              "If one of them is a reference, declare it in the site model (docs/values.md)"
                  + declarable
                      .map(number -> ", such as " + number.table() + ": {" + number.rule() + "}")
                      .orElse("")
                  + "."));
      page.blank();
    }
  }

  private static void numbers(Page page, List<Suspicion> numbers) {
    for (Suspicion number : first(numbers)) {
      page.line(
          "  "
              + number.table()
              + " "
              + number.key()
              + ", "
              + number.column()
              + (number.place().isEmpty() ? "" : ", " + Page.shortened(number.place(), 60))
              + ": "
              + number.number()
              + page.faint(" (" + number.row() + ")"));
    }
    more(page, numbers);
  }

  private static String forms(InsideReport.Mapped mapped) {
    return String.join(
        ", ",
        mapped.forms().entrySet().stream()
            .map(form -> form.getKey() + " " + form.getValue())
            .toList());
  }

  private static <T> List<T> first(List<T> all) {
    return all.subList(0, Math.min(LISTED, all.size()));
  }

  private static void more(Page page, List<?> all) {
    if (all.size() > LISTED) {
      page.line("  … and " + (all.size() - LISTED) + " more; --json lists them.");
    }
  }
}
