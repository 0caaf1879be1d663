package weftex.cli.page;

import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import weftex.cli.result.RolesReport;
import weftex.core.model.Role;

/** Prints what stays out because of whose it is, and what goes along all the same. */
public final class RolesText {
  private RolesText() {}

  /** Prints what there is to say; nothing if there is nothing. */
  public static void print(Page page, RolesReport roles, String into) {
    Map<String, List<RolesReport.Left>> byOwner = new TreeMap<>();
    for (RolesReport.Left left : roles.leftOut()) {
      byOwner.merge(
          left.whose(),
          List.of(left),
          (one, other) -> java.util.stream.Stream.concat(one.stream(), other.stream()).toList());
    }
    byOwner.forEach(
        (whose, left) ->
            page.line(
                "Left out as "
                    + whose
                    + ": "
                    + String.join("; ", left.stream().map(l -> rows(l.kind(), l.rows())).toList())
                    + page.faint(
                        " ('--with " + named(whose, left.get(0).kind()) + "' brings them)")));
    printUnknown(page, roles.unknown());
    printUndescribed(page, roles.undescribed());
    if (!roles.brought().isEmpty()) {
      String brought =
          String.join(
              "; ",
              roles.brought().entrySet().stream()
                  .map(entry -> rows(entry.getKey(), entry.getValue()))
                  .toList());
      page.words(
          into.equals("live")
              ? page.alert("Careful:")
                  + " this brings what belongs to live itself: "
                  + brought
                  + "."
              : "Live's own rows that come along: " + brought + ".");
    }
  }

  private static String named(String whose, String kind) {
    if (whose.equals(Role.OWN.words())) {
      return "setting:NAME";
    }
    return whose.equals(Role.NOISE.words()) ? "noise" : kind;
  }

  /** Prints what tables are taken for that no model names, and how to say it. */
  public static void printUnknown(Page page, List<RolesReport.Unknown> unknown) {
    for (RolesReport.Unknown table : unknown) {
      page.line(
          page.alert("Unknown table")
              + " "
              + page.strong(table.table())
              + ": taken for "
              + table.takenFor()
              + (table.evidence().isEmpty()
                  ? "; nothing of it is removed without a decision"
                  : ", since " + table.evidence()));
      table.references().forEach(reference -> page.line("  " + reference));
    }
    if (!unknown.isEmpty()) {
      page.line(
          page.faint(
              "  One line in weftex.yaml ends the question, such as 'roles: {"
                  + example(unknown)
                  + "}'; content, live or noise."));
    }
  }

  /** One that is what it is taken for, and, if there is one, a table that nothing speaks of. */
  private static String example(List<RolesReport.Unknown> unknown) {
    RolesReport.Unknown table =
        unknown.stream()
            .filter(one -> one.takenFor().equals(Role.CONTENT.words()))
            .findFirst()
            .orElse(unknown.get(0));
    String role = table.takenFor().equals(Role.LIVE.words()) ? "live" : table.takenFor();
    return table.table() + ": " + role;
  }

  /** Prints what is taken for a reference in tables that no model describes. */
  public static void printUndescribed(Page page, List<RolesReport.Undescribed> tables) {
    for (RolesReport.Undescribed table : tables) {
      page.line("No model describes " + page.strong(table.table()) + "; by its rows:");
      table.references().forEach(reference -> page.line("  " + reference));
    }
  }

  private static String rows(String kind, long rows) {
    return kind + ", " + rows + (rows == 1 ? " row" : " rows");
  }
}
