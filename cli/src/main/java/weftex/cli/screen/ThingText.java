package weftex.cli.screen;

import java.io.IOException;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import weftex.cli.page.Columns;
import weftex.cli.page.Explained;
import weftex.cli.page.FileChanges;
import weftex.cli.page.Members;
import weftex.cli.page.Visible;
import weftex.cli.page.WordMarks;
import weftex.cli.page.Words;
import weftex.cli.paint.Line;
import weftex.cli.paint.Style;
import weftex.cli.paint.TextLines;
import weftex.core.change.Action;
import weftex.core.change.Conflict;
import weftex.core.change.Review;
import weftex.core.change.RowChange;
import weftex.core.change.SchemaChange;
import weftex.core.merge.Passages;
import weftex.core.row.Value;
import weftex.core.signoff.Answer;
import weftex.core.signoff.Decision;

/** Writes a thing down in lines: its changes, what is in conflict, and what can be decided. */
final class ThingText {
  private static final int SIDE_BY_SIDE = 90;
  private static final int MOST_CHANGES = 200;
  private static final int LONG = 160;
  private final Desk desk;
  private final Explained explained;
  private final String from;
  private final String into;
  private final int width;
  private final boolean whole;
  private final TextLines out;

  private ThingText(Desk desk, int width, boolean whole) {
    this.desk = desk;
    this.from = desk.header().from();
    this.into = desk.header().into();
    this.explained = new Explained(from, into);
    this.width = width;
    this.whole = whole;
    this.out = new TextLines(width, whole);
  }

  /**
   * The lines of a thing.
   *
   * @param width columns that a line may take
   * @param whole whether long texts are written out
   */
  static List<Line> of(Thing thing, Desk desk, int width, boolean whole) throws IOException {
    ThingText text = new ThingText(desk, width, whole);
    List<Integer> first =
        thing.numbers().subList(0, Math.min(MOST_CHANGES, thing.numbers().size()));
    for (int id : first) {
      if (!text.out.all().isEmpty()) {
        text.out.add(Line.blank());
      }
      if (desk.isSchema(id)) {
        text.schema(desk.schema(id));
      } else {
        text.change(desk.change(id));
      }
    }
    if (first.size() < thing.numbers().size()) {
      text.out.say(
          thing.numbers().size() - first.size() + " more changes are not shown.", Style.FAINT);
    }
    return text.out.all();
  }

  private void heading(int id, String what) {
    Review.Standing standing = desk.review().standing(id);
    Style style = standing == Review.Standing.OPEN ? Style.ALERT : Style.FAINT;
    String label = standing.label();
    int room = width - label.length() - 2;
    out.add(
        new Line.Builder()
            .add(Columns.fit(id + "  " + what, room) + "  ", Style.STRONG)
            .add(label, style)
            .build()
            .at(Line.Spot.of(id)));
  }

  private void schema(SchemaChange change) {
    heading(change.id(), "new " + Visible.text(change.item().words()));
    change.words().forEach(statement -> out.say("  " + Visible.text(statement), Style.PLAIN));
    decisions(change.id());
  }

  private void change(RowChange made) {
    RowChange change = FileChanges.shown(made);
    String part = change.item().map(item -> item.part()).orElse("");
    heading(
        change.id(),
        Visible.text(
            change.action().label()
                + " "
                + FileChanges.place(change)
                + (part.isEmpty() ? "" : " · " + part)));
    explained.who(change.trace()).ifPresent(who -> out.say("  " + who, Style.FAINT));
    if (!change.trace().path().isEmpty()) {
      out.say("  " + Visible.text(change.trace().path()), Style.FAINT);
    }
    notes(change);
    for (Conflict conflict : explained.told(change)) {
      conflict(change, conflict);
    }
    values(change);
    decisions(change.id());
  }

  private void notes(RowChange change) {
    if (change.renumbered()) {
      out.say(
          "  It gets a new ID: " + into + " has or had another row under its own.", Style.FAINT);
    }
    change
        .alongWith()
        .ifPresent(id -> out.say("  It comes along: change " + id + " needs it.", Style.FAINT));
    if (desk.review().standing(change.id()) == Review.Standing.OFFERED) {
      out.say(
          "  Nobody chose it, but a chosen change refers to it: b brings it along.", Style.FAINT);
    }
    if (desk.review().standing(change.id()) == Review.Standing.OPEN) {
      for (int id : desk.review().unmetNeeds(change.id())) {
        boolean offered = desk.review().standing(id) == Review.Standing.OFFERED;
        out.say(
            "  It needs change "
                + id
                + desk.review().thing(id).map(i -> " (" + Visible.text(i.words()) + ")").orElse("")
                + ", which is "
                + (offered ? "only offered: bring that along" : "left out: include that")
                + ", or leave this one out too.",
            Style.ALERT);
      }
    }
  }

  private void values(RowChange change) {
    Map<String, Value> shown = change.action() == Action.REMOVE ? change.before() : change.after();
    Map<String, Value> written = desk.review().written(change.id());
    shown.forEach(
        (column, value) -> {
          Line.Spot spot = new Line.Spot(change.id(), Optional.of(column), 0, 0);
          Value now = written.getOrDefault(column, value);
          if (change.action() == Action.UPDATE) {
            pair(column, change.before().getOrDefault(column, Value.NULL), now, spot);
          } else {
            out.one(column, now, change.action() == Action.ADD ? Style.NEW : Style.OLD, spot);
          }
        });
    written.forEach(
        (column, value) -> {
          if (!shown.containsKey(column)) {
            pair(
                column,
                change.before().getOrDefault(column, Value.NULL),
                value,
                new Line.Spot(change.id(), Optional.of(column), 0, 0));
          }
        });
  }

  private void pair(String column, Value before, Value after, Line.Spot spot) {
    Optional<Map<String, String>> old = Members.of(before);
    Optional<Map<String, String>> now = Members.of(after);
    if (old.isPresent() && now.isPresent() && !whole) {
      members(column, old.get(), now.get(), spot);
      return;
    }
    String one = TextLines.text(before);
    String other = TextLines.text(after);
    if (Columns.width(one) + Columns.width(other) + 3 <= width - TextLines.NAME_WIDTH - 2
        && !one.contains("\n")
        && !other.contains("\n")) {
      out.add(
          new Line.Builder()
              .add("  " + Columns.fit(Visible.text(column), TextLines.NAME_WIDTH), Style.PLAIN)
              .add(one, Style.OLD)
              .add(" → ", Style.FAINT)
              .add(other, Style.NEW)
              .build()
              .at(spot));
      return;
    }
    WordMarks.Marked marked =
        whole ? WordMarks.compareWhole(one, other) : WordMarks.compare(one, other);
    out.add(Line.of("  " + Visible.text(column), Style.PLAIN).at(spot));
    out.side("was", out.pieces(marked.before(), Style.OLD));
    out.side("becomes", out.pieces(marked.after(), Style.NEW));
  }

  /** A setting, member by member; those that are alike are only counted. */
  private void members(
      String column, Map<String, String> old, Map<String, String> now, Line.Spot spot) {
    out.add(Line.of("  " + Visible.text(column), Style.PLAIN).at(spot));
    Set<String> paths = new LinkedHashSet<>(old.keySet());
    paths.addAll(now.keySet());
    int alike = 0;
    for (String path : paths) {
      String one = Visible.text(old.getOrDefault(path, ""));
      String other = Visible.text(now.getOrDefault(path, ""));
      if (old.containsKey(path) && now.containsKey(path) && one.equals(other)) {
        alike++;
        continue;
      }
      List<Line.Span> spans = new ArrayList<>();
      spans.add(new Line.Span(Visible.text(path) + ": ", Style.STRONG));
      if (old.containsKey(path)) {
        spans.add(new Line.Span(out.cut(one), Style.OLD));
      }
      spans.add(new Line.Span(old.containsKey(path) ? " → " : "added ", Style.FAINT));
      spans.add(
          now.containsKey(path)
              ? new Line.Span(out.cut(other), Style.NEW)
              : new Line.Span("removed", Style.FAINT));
      out.wrapped(spans, 4, Optional.empty());
    }
    if (alike > 0) {
      out.say(
          "    " + alike + (alike == 1 ? " member stays" : " members stay") + " as before.",
          Style.FAINT);
    }
  }

  private void conflict(RowChange change, Conflict conflict) {
    boolean open = desk.review().open(change.id()).contains(conflict.kind());
    out.wrapped(
        List.of(
            new Line.Span(conflict.kind().label() + "  ", open ? Style.ALERT : Style.FAINT),
            new Line.Span(explained.sentence(change, conflict), open ? Style.STRONG : Style.PLAIN)),
        2,
        Optional.empty());
    for (String column : Explained.shown(change, conflict)) {
      Optional<Passages> passages = conflict.passages(column);
      if (passages.isPresent() && isLong(conflict.source().get(column))) {
        passages(change, column, passages.get());
      } else {
        sides(change, conflict, column);
      }
    }
    if (open) {
      explained
          .answers(change, conflict)
          .forEach(
              (answer, consequence) ->
                  out.wrapped(
                      List.of(
                          new Line.Span(Keys.of(answer) + "  ", Style.ALERT),
                          new Line.Span(Words.answer(answer, from, into) + ": ", Style.PLAIN),
                          new Line.Span(consequence, Style.FAINT)),
                      4,
                      Optional.empty()));
    }
  }

  /** A short text is better seen on all three sides than by what differs in it. */
  private static boolean isLong(Value value) {
    return value.display().length() > LONG;
  }

  /** The merged text, with only those passages open that both copies changed. */
  private void passages(RowChange change, String column, Passages passages) {
    Map<Integer, Answer> chosen = desk.review().passages(change.id(), column);
    Optional<Answer> all =
        desk.review().said(change.id(), column).or(() -> desk.review().said(change.id(), ""));
    int number = 0;
    for (int i = 0; i < passages.pieces().size(); i++) {
      Passages.Piece piece = passages.pieces().get(i);
      if (i % 2 == 0) {
        continue;
      }
      number++;
      Optional<Answer> answer =
          Optional.ofNullable(chosen.get(number)).or(() -> all.filter(Answer::isOfPassages));
      Line.Spot spot = new Line.Spot(change.id(), Optional.of(column), number, passages.open());
      out.add(
          new Line.Builder()
              .add(
                  "  "
                      + Visible.text(column)
                      + (passages.open() == 1
                          ? ""
                          : ", passage " + number + " of " + passages.open()),
                  Style.PLAIN)
              .add(answer.map(a -> "  " + Words.answer(a, from, into)).orElse(""), Style.FAINT)
              .build()
              .at(spot));
      String lead = TextLines.lastOf(passages.pieces().get(i - 1).source());
      String follow = TextLines.firstOf(passages.pieces().get(i + 1).source());
      passage(from, lead, piece.source(), follow, answer, Answer.SOURCE);
      passage(into, lead, piece.target(), follow, answer, Answer.TARGET);
    }
  }

  private void passage(
      String copy, String lead, String own, String follow, Optional<Answer> chosen, Answer answer) {
    List<Line.Span> spans = new ArrayList<>();
    boolean stands = chosen.map(a -> a == answer || a == Answer.BOTH).orElse(true);
    spans.add(new Line.Span(Visible.text(lead), Style.FAINT));
    spans.add(
        new Line.Span(
            own.isBlank() ? "(nothing)" : Visible.text(own), stands ? Style.NEW : Style.FAINT));
    spans.add(new Line.Span(Visible.text(follow), Style.FAINT));
    out.side(copy, spans);
  }

  private void sides(RowChange change, Conflict conflict, String column) {
    String base = TextLines.text(conflict.base().get(column));
    String source = TextLines.text(conflict.source().get(column));
    String target = TextLines.text(conflict.target().get(column));
    Line.Spot spot = new Line.Spot(change.id(), Optional.of(column), 0, 0);
    Optional<Answer> said =
        desk.review().said(change.id(), column).or(() -> desk.review().said(change.id(), ""));
    out.add(
        new Line.Builder()
            .add("  " + Visible.text(column), Style.PLAIN)
            .add(said.map(a -> "  " + stands(change.id(), column, a)).orElse(""), Style.FAINT)
            .build()
            .at(spot));
    Map<String, List<Line.Span>> columns = new LinkedHashMap<>();
    columns.put("base", out.pieces(out.marks(base, target).before(), Style.OLD));
    columns.put(from, out.pieces(out.marks(base, source).after(), Style.NEW));
    columns.put(into, out.pieces(out.marks(base, target).after(), Style.NEW));
    if (conflict.base().isEmpty()) {
      columns.remove("base");
      columns.put(from, out.pieces(out.marks(target, source).after(), Style.NEW));
      columns.put(into, out.pieces(out.marks(source, target).after(), Style.NEW));
    }
    if (width >= SIDE_BY_SIDE) {
      out.besides(columns);
    } else {
      columns.forEach(out::side);
    }
  }

  /** What stands in a column: of several passages each side, or both, may have some. */
  private String stands(int change, String column, Answer answer) {
    Set<Answer> sides = Set.copyOf(desk.review().passages(change, column).values());
    return answer != Answer.VALUE || sides.isEmpty()
        ? Words.answer(answer, from, into)
        : sides.size() == 1
            ? Words.answer(sides.iterator().next(), from, into)
            : "put together of passages";
  }

  private void decisions(int id) {
    for (Decision decision : desk.decisions(id)) {
      out.say(
          "  "
              + Words.answer(decision.answer(), from, into)
              + decision.column().map(c -> " in " + Visible.text(c)).orElse("")
              + decision.passage().map(p -> ", passage " + p.number()).orElse("")
              + " — "
              + Visible.text(decision.by())
              + (decision.why().isEmpty() ? "" : ": " + Visible.text(decision.why())),
          Style.FAINT);
    }
  }
}
