package weftex.cli.render;

import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.stream.Stream;
import weftex.cli.page.Explained;
import weftex.cli.page.FileChanges;
import weftex.cli.page.Page;
import weftex.cli.page.Values;
import weftex.cli.page.Words;
import weftex.core.change.Action;
import weftex.core.change.Conflict;
import weftex.core.change.RowChange;
import weftex.core.file.FileRows;
import weftex.core.merge.ConflictKind;
import weftex.core.merge.Passages;
import weftex.core.row.Value;

/** Prints one row change: what it does, and its columns with old and new value. */
final class ChangeText {
  private static final int NAME_WIDTH = 18;
  private static final int INDENT = 6;

  private final Page page;
  private final String from;
  private final String into;
  private final boolean whole;
  private final Explained explained;

  /**
   * @param whole whether values are printed whole rather than cut to the terminal
   */
  ChangeText(Page page, String from, String into, boolean whole) {
    this.page = page;
    this.from = from;
    this.into = into;
    this.whole = whole;
    this.explained = new Explained(from, into);
  }

  /** The first line of a change. */
  String title(RowChange change) {
    String row = Page.shortened(FileChanges.place(change), 80);
    String title =
        change.action().label()
            + " "
            + change
                .item()
                .map(
                    item -> page.strong(Page.shortened(item.words(), 60)) + page.faint(" · " + row))
                .orElse(page.strong(row));
    return change.renumbered()
        ? title
            + page.faint(
                " (gets a new ID: " + into + " has or had another row " + change.keyText() + ")")
        : title;
  }

  /** The columns of a change. */
  void columns(RowChange made) {
    RowChange change = FileChanges.shown(made);
    if (!change.conflicts().isEmpty()) {
      explained
          .who(change.trace())
          .ifPresent(who -> page.line(" ".repeat(INDENT) + page.faint(Page.shortened(who, 200))));
    }
    if (change.action() == Action.UPDATE) {
      change
          .after()
          .forEach(
              (name, after) -> pair(name, change.before().getOrDefault(name, Value.NULL), after));
    } else {
      Map<String, Value> values = change.action() == Action.ADD ? change.after() : change.before();
      values.forEach((name, value) -> one(name, value));
    }
    for (Conflict conflict : explained.told(change)) {
      conflict(change, conflict);
    }
  }

  private void pair(String name, Value before, Value after) {
    if (whole) {
      label(name, "was", before.display());
      label("", "becomes", after.display());
      return;
    }
    int room = page.width() - INDENT - NAME_WIDTH - 4;
    String old = Values.shown(before, after, room);
    String now = Values.shown(after, before, room);
    if (old.length() + now.length() + 3 <= room) {
      page.line(" ".repeat(INDENT) + padded(name) + page.faint(old) + " → " + now);
    } else {
      page.line(" ".repeat(INDENT) + padded(name) + page.faint(old));
      page.line(" ".repeat(INDENT + NAME_WIDTH) + "→ " + now);
    }
  }

  private void one(String name, Value value) {
    if (whole) {
      label(name, "", value.display());
    } else {
      page.line(
          " ".repeat(INDENT)
              + padded(name)
              + Values.shown(value, page.width() - INDENT - NAME_WIDTH));
    }
  }

  private void label(String name, String word, String text) {
    String label = word.isEmpty() ? "" : word + " ";
    boolean first = true;
    for (String line : text.split("\n", -1)) {
      page.line(
          " ".repeat(INDENT)
              + padded(first ? name : "")
              + (first ? label : "")
              + Page.shortened(line, Integer.MAX_VALUE / 8));
      first = false;
    }
  }

  /** What else can be answered, or can't. */
  private String remark(RowChange change, Conflict conflict) {
    if (conflict.binding()) {
      return " (only " + into + "'s side is possible)";
    }
    return conflict.kind() == ConflictKind.BOTH_ADDED && change.id() > 0 && !FileRows.isFile(change)
        ? " (Two things of one name? --both " + change.id() + ")"
        : "";
  }

  private void conflict(RowChange change, Conflict conflict) {
    page.words(
        INDENT,
        conflict.kind().label(),
        Page.shortened(explained.sentence(change, conflict), 400) + remark(change, conflict));
    for (String name : Explained.shown(change, conflict)) {
      List<Value> all =
          Stream.of(conflict.base(), conflict.source(), conflict.target())
              .map(side -> side.get(name))
              .filter(Objects::nonNull)
              .toList();
      side(name, "base", conflict.base().get(name), all);
      // What both copies added has no base to stand beside the column's name.
      side(conflict.base().containsKey(name) ? "" : name, from, conflict.source().get(name), all);
      side("", into, conflict.target().get(name), all);
      if (whole) {
        passages(conflict, name);
      }
    }
    if (whole) {
      explained
          .answers(change, conflict)
          .forEach(
              (answer, consequence) ->
                  page.line(
                      " ".repeat(INDENT + 2)
                          + Words.answer(answer, from, into)
                          + page.faint(": " + consequence)));
    }
  }

  /** What can be decided by itself, such as {@code --take 4.body#2}. */
  private void passages(Conflict conflict, String name) {
    List<Passages.Piece> open =
        conflict.passages(name).map(Passages::pieces).orElse(List.of()).stream()
            .filter(Passages.Piece::isOpen)
            .toList();
    for (int i = 0; i < open.size(); i++) {
      label("", "#" + (i + 1) + " " + from, open.get(i).source());
      label("", "#" + (i + 1) + " " + into, open.get(i).target());
    }
  }

  private void side(String label, String side, Value value, List<Value> all) {
    if (value == null) {
      return;
    }
    if (whole) {
      label(label, side, value.display());
    } else {
      String word = side + " ".repeat(Math.max(1, 9 - side.length()));
      page.line(
          " ".repeat(INDENT)
              + padded(label)
              + page.faint(word)
              + Values.shown(value, all, page.width() - INDENT - NAME_WIDTH - word.length()));
    }
  }

  private static String padded(String name) {
    String cut = Page.shortened(name, NAME_WIDTH - 1);
    return cut + " ".repeat(NAME_WIDTH - cut.length());
  }
}
