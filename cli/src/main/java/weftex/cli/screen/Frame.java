package weftex.cli.screen;

import java.io.IOException;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import org.jline.utils.AttributedString;
import org.jline.utils.AttributedStringBuilder;
import weftex.cli.page.Columns;
import weftex.cli.paint.Line;
import weftex.cli.paint.Painter;
import weftex.cli.paint.Style;
import weftex.core.change.Review;

/**
 * Lays a desk out on the rows and columns of a terminal: the list beside the changes of a thing
 * where it is wide, above them where it is not. Keeps what has been scrolled where.
 */
final class Frame {
  static final int NARROWEST = 50;
  static final int LOWEST = 12;
  private static final int BESIDES = 110;

  private final Desk desk;
  private final Painter painter;
  private final String file;
  private int columns;
  private int rows;
  private int listTop;
  private int detailTop;
  private int spot;
  private boolean inDetail;
  private boolean whole;
  private List<Line> detail = List.of();
  private List<Object> detailOf = List.of();

  Frame(Desk desk, Painter painter, String file) {
    this.desk = desk;
    this.painter = painter;
    this.file = file;
  }

  void size(int ofColumns, int ofRows) {
    columns = ofColumns;
    rows = ofRows;
  }

  boolean isTooSmall() {
    return columns < NARROWEST || rows < LOWEST;
  }

  private boolean besides() {
    return columns >= BESIDES;
  }

  private int listWidth() {
    return besides() ? Math.min(64, Math.max(40, columns * 2 / 5)) : columns;
  }

  private int listHeight() {
    int body = rows - 4;
    return besides() ? body : Math.max(3, Math.min(desk.listing().rows().size(), body * 2 / 5));
  }

  private int detailWidth() {
    return besides() ? columns - listWidth() - 3 : columns;
  }

  private int detailHeight() {
    return besides() ? rows - 4 : rows - 5 - listHeight();
  }

  // Where the reader is.

  boolean inDetail() {
    return inDetail;
  }

  void enter(boolean detailPane) throws IOException {
    inDetail = detailPane && desk.listing().row().flatMap(Listing.Row::thing).isPresent();
    lay();
    if (inDetail) {
      spot = Math.min(spot, Math.max(0, spots().size() - 1));
      showSpot();
    }
  }

  void toggleWhole() {
    whole = !whole;
  }

  /** The spot at which the reader is; empty in the list. */
  Optional<Line.Spot> spot() {
    List<Integer> spots = spots();
    return inDetail && !spots.isEmpty()
        ? detail.get(spots.get(Math.min(spot, spots.size() - 1))).spot()
        : Optional.empty();
  }

  private List<Integer> spots() {
    List<Integer> spots = new ArrayList<>();
    for (int i = 0; i < detail.size(); i++) {
      if (detail.get(i).spot().isPresent()) {
        spots.add(i);
      }
    }
    return spots;
  }

  void move(int by) {
    if (!inDetail) {
      desk.listing().move(by);
      return;
    }
    List<Integer> spots = spots();
    int next = spot + by;
    boolean scrolls = spots.isEmpty() || next < 0 || next >= spots.size();
    if (scrolls) {
      scroll(by);
      return;
    }
    int line = spots.get(next);
    // A long stretch between two spots is read before it is left behind.
    if (line >= detailTop + detailHeight() + detailHeight() / 2) {
      scroll(detailHeight() / 2);
    } else if (line < detailTop - detailHeight() / 2) {
      scroll(-detailHeight() / 2);
    } else {
      spot = next;
      showSpot();
    }
  }

  void page(int by) {
    if (inDetail) {
      scroll(by * (detailHeight() - 1));
    } else {
      desk.listing().move(by * (listHeight() - 1));
    }
  }

  void end(int direction) {
    if (inDetail) {
      spot = direction < 0 ? 0 : Math.max(0, spots().size() - 1);
      showSpot();
    } else {
      desk.listing().moveTo(direction < 0 ? 0 : Integer.MAX_VALUE);
    }
  }

  private void scroll(int by) {
    detailTop = Math.max(0, Math.min(Math.max(0, detail.size() - detailHeight()), detailTop + by));
    List<Integer> spots = spots();
    for (int i = 0; i < spots.size(); i++) {
      boolean seen = spots.get(i) >= detailTop && spots.get(i) < detailTop + detailHeight();
      if (seen && (spots.get(spot) < detailTop || spots.get(spot) >= detailTop + detailHeight())) {
        spot = i;
      }
    }
  }

  private void showSpot() {
    List<Integer> spots = spots();
    if (spots.isEmpty()) {
      return;
    }
    int line = spots.get(Math.min(spot, spots.size() - 1));
    int room = Math.min(4, detailHeight() / 2);
    if (line < detailTop) {
      detailTop = Math.max(0, line - 1);
    } else if (line > detailTop + detailHeight() - 1 - room) {
      detailTop =
          Math.max(0, Math.min(detail.size() - detailHeight(), line - detailHeight() + 1 + room));
    }
  }

  /** Goes to the first spot of the current thing that is open. */
  void toOpenSpot() throws IOException {
    enter(true);
    List<Integer> spots = spots();
    for (int i = 0; i < spots.size(); i++) {
      Line.Spot at = detail.get(spots.get(i)).spot().orElseThrow();
      boolean open = desk.review().standing(at.change()) == Review.Standing.OPEN;
      boolean undecided =
          at.column()
              .map(
                  column ->
                      desk.review().isContested(at.change(), column)
                          && desk.review().said(at.change(), column).isEmpty()
                          && !desk.review().passages(at.change(), column).containsKey(at.passage()))
              .orElse(false);
      if (open && undecided) {
        spot = i;
        break;
      }
    }
    showSpot();
  }

  // Drawing.

  /** Writes the current thing down, unless that was done already. */
  private void lay() throws IOException {
    Optional<Thing> thing = desk.listing().row().flatMap(Listing.Row::thing);
    List<Object> of =
        List.of(thing.map(t -> t.kind() + ":" + t.name()).orElse(""), detailWidth(), whole);
    boolean same = !detailOf.isEmpty() && detailOf.subList(0, of.size()).equals(of);
    List<Object> now = new ArrayList<>(of);
    now.add(desk.revision());
    if (now.equals(detailOf)) {
      return;
    }
    detail =
        thing.isPresent() ? ThingText.of(thing.get(), desk, detailWidth() - 2, whole) : group();
    detailOf = now;
    if (!same) {
      detailTop = 0;
      spot = 0;
    }
    detailTop = Math.max(0, Math.min(detailTop, detail.size() - 1));
  }

  private List<Line> group() {
    if (desk.listing().row().isEmpty()) {
      return List.of();
    }
    Listing.Row row = desk.listing().row().get();
    List<Line> lines = new ArrayList<>();
    lines.add(
        Line.of(
            row.things().size() + " × " + row.kind() + ": a decision here is about all of them.",
            Style.STRONG));
    for (Review.Standing standing : Review.Standing.values()) {
      long count =
          row.things().stream().filter(t -> desk.standings().of(t).mostly() == standing).count();
      if (count > 0) {
        lines.add(Line.of("  " + count + " stand at '" + standing.label() + "'", Style.PLAIN));
      }
    }
    return lines;
  }

  /** The whole screen, a string for each row. */
  List<AttributedString> draw(String message) throws IOException {
    lay();
    List<AttributedString> screen = new ArrayList<>();
    screen.add(new TitleLine(desk, painter, file).of(columns));
    List<AttributedString> list = list();
    List<AttributedString> text = detail();
    if (besides()) {
      for (int i = 0; i < rows - 4; i++) {
        AttributedStringBuilder line = new AttributedStringBuilder();
        line.append(i < list.size() ? list.get(i) : blank(listWidth()));
        line.append(" " + painter.upright() + " ");
        line.append(i < text.size() ? text.get(i) : blank(detailWidth()));
        screen.add(line.toAttributedString());
      }
    } else {
      screen.addAll(list);
      screen.add(plain(painter.level().repeat(columns), Style.FAINT, columns));
      screen.addAll(text);
      while (screen.size() < rows - 3) {
        screen.add(blank(columns));
      }
    }
    screen.add(plain(painter.level().repeat(columns), Style.FAINT, columns));
    screen.add(plain(message, Style.STRONG, columns));
    screen.add(
        plain(Keys.bar(desk.header().from(), desk.header().into(), columns), Style.FAINT, columns));
    return screen;
  }

  private AttributedString blank(int width) {
    return plain("", Style.PLAIN, width);
  }

  private AttributedString plain(String text, Style style, int width) {
    return painter.line(List.of(new Line.Span(text, style)), width, false);
  }

  private List<AttributedString> list() {
    int height = listHeight();
    int selected = desk.listing().selected();
    listTop = Math.max(0, Math.min(listTop, Math.max(0, desk.listing().rows().size() - height)));
    if (selected < listTop) {
      listTop = selected;
    } else if (selected >= listTop + height) {
      listTop = selected - height + 1;
    }
    // A heading stays in sight with its first thing.
    if (listTop == 1) {
      listTop = selected < height ? 0 : 1;
    }
    List<AttributedString> list = new ArrayList<>();
    if (desk.listing().rows().isEmpty()) {
      list.add(plain("Nothing is listed: " + listed() + ".", Style.FAINT, listWidth()));
    }
    for (int i = listTop; i < Math.min(desk.listing().rows().size(), listTop + height); i++) {
      list.add(row(desk.listing().rows().get(i), i == selected));
    }
    return list;
  }

  /** What the list is narrowed by, in words. */
  String listed() {
    String found =
        desk.listing().find().isEmpty() ? "" : ", found by '" + desk.listing().find() + "'";
    return desk.listing().filter().label() + found;
  }

  private AttributedString row(Listing.Row row, boolean selected) {
    int width = listWidth();
    String mark = selected ? painter.pointer() + " " : "  ";
    if (row.thing().isEmpty()) {
      long open =
          row.things().stream()
              .filter(t -> desk.standings().of(t).has(Review.Standing.OPEN))
              .count();
      String counts = (open > 0 ? open + " to decide, " : "") + row.things().size();
      return painter.line(
          List.of(
              new Line.Span(
                  mark + Columns.fit(row.kind(), width - 3 - Columns.width(counts)) + counts,
                  Style.STRONG)),
          width,
          selected && !inDetail);
    }
    Thing thing = row.thing().get();
    Review.Standing standing = desk.standings().of(thing).mostly();
    String label = Columns.fit(standing.label(), 7);
    String does = Columns.fit(thing.does().label(), 8);
    int room = width - 4 - 8 - 8;
    String name = thing.name().isEmpty() ? "(no name)" : thing.name();
    return painter.line(
        List.of(
            new Line.Span(mark + "  " + Columns.fit(name, room - 1) + " ", Style.PLAIN),
            new Line.Span(does + " ", Style.FAINT),
            new Line.Span(label, standing == Review.Standing.OPEN ? Style.ALERT : Style.FAINT)),
        width,
        selected && !inDetail);
  }

  private List<AttributedString> detail() {
    List<AttributedString> lines = new ArrayList<>();
    Optional<Line.Spot> at = spot();
    int width = detailWidth();
    for (int i = detailTop; i < Math.min(detail.size(), detailTop + detailHeight()); i++) {
      Line line = detail.get(i);
      boolean here = at.isPresent() && line.spot().equals(at);
      List<Line.Span> spans = new ArrayList<>();
      spans.add(new Line.Span(here ? painter.pointer() + " " : "  ", Style.PLAIN));
      spans.addAll(line.spans());
      lines.add(painter.line(spans, width, here));
    }
    boolean more = detail.size() > detailTop + detailHeight();
    if (more && !lines.isEmpty()) {
      String below = (detail.size() - detailTop - detailHeight()) + " more lines below ";
      lines.set(
          lines.size() - 1,
          plain(" ".repeat(Math.max(0, width - below.length())) + below, Style.FAINT, width));
    }
    return lines;
  }
}
