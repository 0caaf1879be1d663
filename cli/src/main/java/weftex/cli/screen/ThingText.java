package weftex.cli.screen;

import java.io.IOException;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import weftex.cli.render.Columns;
import weftex.cli.render.Explained;
import weftex.cli.render.FileChanges;
import weftex.cli.render.Members;
import weftex.cli.render.Visible;
import weftex.cli.render.WordMarks;
import weftex.cli.render.Words;
import weftex.core.change.Action;
import weftex.core.change.Answer;
import weftex.core.change.Conflict;
import weftex.core.change.Decision;
import weftex.core.change.Review;
import weftex.core.change.RowChange;
import weftex.core.change.SchemaChange;
import weftex.core.merge.Passages;
import weftex.core.row.Value;

/** Writes a thing down in lines: its changes, what is in conflict, and what can be decided. */
final class ThingText {
  private static final int NAME_WIDTH = 16;
  private static final int SIDE_BY_SIDE = 90;
  private static final int MOST_CHANGES = 200;
  private static final int FOLDED = 6;
  private static final int CONTEXT = 60;
  private static final int LONG = 160;
  private static final Pattern TAG = Pattern.compile("<[^<>]{1,400}>");
  private static final Pattern BLOCK_END =
      Pattern.compile(
          "(?i)(</(?:p|li|ul|ol|h[1-6]|div|table|tr|blockquote|figure)>|<br ?/?>)(?!\\s*(?:\\n|$))");

  private final Desk desk;
  private final Explained explained;
  private final String from;
  private final String into;
  private final int width;
  private final boolean whole;
  private final List<Line> lines = new ArrayList<>();

  private ThingText(Desk desk, int width, boolean whole) {
    this.desk = desk;
    this.from = desk.header().from();
    this.into = desk.header().into();
    this.explained = new Explained(from, into);
    this.width = width;
    this.whole = whole;
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
      if (!text.lines.isEmpty()) {
        text.lines.add(Line.blank());
      }
      if (desk.isSchema(id)) {
        text.schema(desk.schema(id));
      } else {
        text.change(desk.change(id));
      }
    }
    if (first.size() < thing.numbers().size()) {
      text.say(thing.numbers().size() - first.size() + " more changes are not shown.", Style.FAINT);
    }
    return text.lines;
  }

  private void say(String text, Style style) {
    wrapped(List.of(new Line.Span(text, style)), 0, Optional.empty());
  }

  private void wrapped(List<Line.Span> spans, int indent, Optional<Line.Spot> spot) {
    boolean first = true;
    for (List<Line.Span> line : Wrap.lines(spans, Math.max(10, width - indent))) {
      List<Line.Span> own = new ArrayList<>();
      own.add(new Line.Span(" ".repeat(indent), Style.PLAIN));
      own.addAll(line);
      lines.add(new Line(own, first ? spot : Optional.empty()));
      first = false;
    }
  }

  private void heading(int id, String what) {
    Review.Standing standing = desk.review().standing(id);
    Style style = standing == Review.Standing.OPEN ? Style.ALERT : Style.FAINT;
    String label = standing.label();
    int room = width - label.length() - 2;
    lines.add(
        new Line.Builder()
            .add(Columns.fit(id + "  " + what, room) + "  ", Style.STRONG)
            .add(label, style)
            .build()
            .at(Line.Spot.of(id)));
  }

  private void schema(SchemaChange change) {
    heading(change.id(), "new " + Visible.text(change.item().words()));
    change.words().forEach(statement -> say("  " + Visible.text(statement), Style.PLAIN));
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
    explained.who(change.trace()).ifPresent(who -> say("  " + who, Style.FAINT));
    if (!change.trace().path().isEmpty()) {
      say("  " + Visible.text(change.trace().path()), Style.FAINT);
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
      say("  It gets a new ID: " + into + " has or had another row under its own.", Style.FAINT);
    }
    change
        .alongWith()
        .ifPresent(id -> say("  It comes along: change " + id + " needs it.", Style.FAINT));
    if (desk.review().standing(change.id()) == Review.Standing.OFFERED) {
      say("  Nobody chose it, but a chosen change refers to it: b brings it along.", Style.FAINT);
    }
    if (desk.review().standing(change.id()) == Review.Standing.OPEN) {
      for (int id : desk.review().unmetNeeds(change.id())) {
        boolean offered = desk.review().standing(id) == Review.Standing.OFFERED;
        say(
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
            one(column, now, change.action() == Action.ADD ? Style.NEW : Style.OLD, spot);
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
    String one = text(before);
    String other = text(after);
    if (Columns.width(one) + Columns.width(other) + 3 <= width - NAME_WIDTH - 2
        && !one.contains("\n")
        && !other.contains("\n")) {
      lines.add(
          new Line.Builder()
              .add("  " + Columns.fit(Visible.text(column), NAME_WIDTH), Style.PLAIN)
              .add(one, Style.OLD)
              .add(" → ", Style.FAINT)
              .add(other, Style.NEW)
              .build()
              .at(spot));
      return;
    }
    WordMarks.Marked marked =
        whole ? WordMarks.compareWhole(one, other) : WordMarks.compare(one, other);
    lines.add(Line.of("  " + Visible.text(column), Style.PLAIN).at(spot));
    side("was", pieces(marked.before(), Style.OLD));
    side("becomes", pieces(marked.after(), Style.NEW));
  }

  /** A setting, member by member; those that are alike are only counted. */
  private void members(
      String column, Map<String, String> old, Map<String, String> now, Line.Spot spot) {
    lines.add(Line.of("  " + Visible.text(column), Style.PLAIN).at(spot));
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
        spans.add(new Line.Span(cut(one), Style.OLD));
      }
      spans.add(new Line.Span(old.containsKey(path) ? " → " : "added ", Style.FAINT));
      spans.add(
          now.containsKey(path)
              ? new Line.Span(cut(other), Style.NEW)
              : new Line.Span("removed", Style.FAINT));
      wrapped(spans, 4, Optional.empty());
    }
    if (alike > 0) {
      say(
          "    " + alike + (alike == 1 ? " member stays" : " members stay") + " as before.",
          Style.FAINT);
    }
  }

  private String cut(String text) {
    return whole ? text : Columns.cut(text, width * 3);
  }

  private void one(String column, Value value, Style style, Line.Spot spot) {
    List<Line.Span> spans = new ArrayList<>();
    markup(text(value), style == Style.OLD ? Style.FAINT : Style.PLAIN, spans);
    List<List<Line.Span>> wrapped = Wrap.lines(spans, Math.max(10, width - NAME_WIDTH - 2));
    int shown = whole ? wrapped.size() : Math.min(FOLDED, wrapped.size());
    for (int i = 0; i < shown; i++) {
      List<Line.Span> own = new ArrayList<>();
      own.add(
          new Line.Span(
              "  " + Columns.fit(i == 0 ? Visible.text(column) : "", NAME_WIDTH), Style.PLAIN));
      own.addAll(wrapped.get(i));
      lines.add(new Line(own, i == 0 ? Optional.of(spot) : Optional.empty()));
    }
    if (shown < wrapped.size()) {
      lines.add(
          Line.of(
              " ".repeat(NAME_WIDTH + 2)
                  + "… "
                  + (wrapped.size() - shown)
                  + " more lines; w shows them",
              Style.FAINT));
    }
  }

  private void side(String word, List<Line.Span> spans) {
    List<List<Line.Span>> wrapped = Wrap.lines(spans, Math.max(10, width - 12));
    for (int i = 0; i < wrapped.size(); i++) {
      List<Line.Span> own = new ArrayList<>();
      own.add(new Line.Span("    " + Columns.fit(i == 0 ? word : "", 8), Style.FAINT));
      own.addAll(wrapped.get(i));
      lines.add(new Line(own, Optional.empty()));
    }
  }

  private List<Line.Span> pieces(List<WordMarks.Piece> pieces, Style changed) {
    List<Line.Span> spans = new ArrayList<>();
    for (WordMarks.Piece piece : pieces) {
      if (piece.isGap()) {
        spans.add(new Line.Span(" … ", Style.FAINT));
      } else if (piece.changed()) {
        spans.add(new Line.Span(piece.text(), changed));
      } else {
        markup(piece.text(), Style.PLAIN, spans);
      }
    }
    return spans;
  }

  /** Running text with its tags standing back, and a new line after what ends a block. */
  private static void markup(String text, Style style, List<Line.Span> spans) {
    String broken = BLOCK_END.matcher(text).replaceAll("$1\n");
    Matcher tag = TAG.matcher(broken);
    int at = 0;
    while (tag.find()) {
      if (tag.start() > at) {
        spans.add(new Line.Span(broken.substring(at, tag.start()), style));
      }
      spans.add(new Line.Span(tag.group(), Style.FAINT));
      at = tag.end();
    }
    if (at < broken.length()) {
      spans.add(new Line.Span(broken.substring(at), style));
    }
  }

  private void conflict(RowChange change, Conflict conflict) {
    boolean open = desk.review().open(change.id()).contains(conflict.kind());
    wrapped(
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
                  wrapped(
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
      lines.add(
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
      String lead = lastOf(passages.pieces().get(i - 1).source());
      String follow = firstOf(passages.pieces().get(i + 1).source());
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
    side(copy, spans);
  }

  private static String lastOf(String text) {
    if (text.codePointCount(0, text.length()) <= CONTEXT) {
      return text;
    }
    String end = text.substring(text.offsetByCodePoints(text.length(), -CONTEXT));
    return "…" + end.substring(Math.max(0, end.indexOf(' ')));
  }

  private static String firstOf(String text) {
    if (text.codePointCount(0, text.length()) <= CONTEXT) {
      return text;
    }
    String start = text.substring(0, text.offsetByCodePoints(0, CONTEXT));
    return start.substring(0, start.lastIndexOf(' ') < 1 ? start.length() : start.lastIndexOf(' '))
        + " …";
  }

  private void sides(RowChange change, Conflict conflict, String column) {
    String base = text(conflict.base().get(column));
    String source = text(conflict.source().get(column));
    String target = text(conflict.target().get(column));
    Line.Spot spot = new Line.Spot(change.id(), Optional.of(column), 0, 0);
    Optional<Answer> said =
        desk.review().said(change.id(), column).or(() -> desk.review().said(change.id(), ""));
    lines.add(
        new Line.Builder()
            .add("  " + Visible.text(column), Style.PLAIN)
            .add(said.map(a -> "  " + stands(change.id(), column, a)).orElse(""), Style.FAINT)
            .build()
            .at(spot));
    Map<String, List<Line.Span>> columns = new LinkedHashMap<>();
    columns.put("base", pieces(marks(base, target).before(), Style.OLD));
    columns.put(from, pieces(marks(base, source).after(), Style.NEW));
    columns.put(into, pieces(marks(base, target).after(), Style.NEW));
    if (conflict.base().isEmpty()) {
      columns.remove("base");
      columns.put(from, pieces(marks(target, source).after(), Style.NEW));
      columns.put(into, pieces(marks(source, target).after(), Style.NEW));
    }
    if (width >= SIDE_BY_SIDE) {
      besides(columns);
    } else {
      columns.forEach(this::side);
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

  private WordMarks.Marked marks(String one, String other) {
    return whole ? WordMarks.compareWhole(one, other) : WordMarks.compare(one, other);
  }

  /** Texts side by side, each under its heading. */
  private void besides(Map<String, List<Line.Span>> columns) {
    int own = (width - 4) / columns.size() - 2;
    List<List<List<Line.Span>>> wrapped = new ArrayList<>();
    Line.Builder headings = new Line.Builder().add("    ", Style.PLAIN);
    columns.forEach(
        (heading, spans) -> {
          headings.add(Columns.fit(heading, own) + "  ", Style.FAINT);
          wrapped.add(Wrap.lines(spans, own));
        });
    lines.add(headings.build());
    int height = wrapped.stream().mapToInt(List::size).max().orElse(0);
    for (int row = 0; row < height; row++) {
      Line.Builder line = new Line.Builder().add("    ", Style.PLAIN);
      for (List<List<Line.Span>> column : wrapped) {
        int used = 0;
        if (row < column.size()) {
          for (Line.Span span : column.get(row)) {
            line.add(span.text(), span.style());
            used += Columns.width(span.text());
          }
        }
        line.add(" ".repeat(Math.max(0, own + 2 - used)), Style.PLAIN);
      }
      lines.add(line.build());
    }
  }

  private void decisions(int id) {
    for (Decision decision : desk.decisions(id)) {
      say(
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

  private static String text(Value value) {
    return value == null ? "" : Visible.text(value.display());
  }
}
