package weftex.cli.screen;

import java.io.IOException;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.concurrent.Future;
import java.util.concurrent.atomic.AtomicBoolean;
import java.util.logging.Level;
import java.util.logging.Logger;
import org.jline.keymap.BindingReader;
import org.jline.keymap.KeyMap;
import org.jline.reader.EndOfFileException;
import org.jline.terminal.Attributes;
import org.jline.terminal.Size;
import org.jline.terminal.Terminal;
import org.jline.terminal.TerminalBuilder;
import org.jline.utils.AttributedString;
import org.jline.utils.Display;
import org.jline.utils.NonBlockingReader;
import weftex.cli.page.Visible;
import weftex.cli.paint.Line;
import weftex.cli.paint.Painter;
import weftex.cli.paint.Style;
import weftex.cli.paint.Wrap;
import weftex.core.change.ChangeSetHeader;
import weftex.core.change.RowChange;
import weftex.core.signoff.Answer;
import weftex.store.Refusal;
import weftex.store.changeset.ChangeSetFile;

/** Reads keys and shows a change set on the whole terminal, until the reader leaves. */
public final class ReviewScreen {
  private static final long LOOK_AROUND_EVERY = 300;
  private static final int ESCAPE = 27;

  /** What the terminal library logs would stand in the middle of the screen. */
  private static final Logger LOG = Logger.getLogger("org.jline");

  private static final int BACKSPACE = 8;
  private static final int DELETE = 127;

  private final Terminal terminal;
  private final Sitting sitting;
  private final ScreenModes modes;
  private final Display display;
  private final BindingReader keys;
  private final KeyMap<Keys> bindings;
  private final Proof proof;
  private final Desk desk;
  private final Frame frame;
  private final Painter painter;
  private final AtomicBoolean stopped = new AtomicBoolean();
  private final AtomicBoolean resized = new AtomicBoolean(true);
  private Size size = Size.of(0, 0);
  private String message;
  private List<Integer> apart = List.of();

  private ReviewScreen(Terminal terminal, Sitting sitting) {
    this.terminal = terminal;
    this.sitting = sitting;
    this.modes = new ScreenModes(terminal);
    this.display = new Display(terminal, true);
    this.keys = new BindingReader(terminal.reader());
    this.bindings = KeyBindings.of(terminal);
    this.proof = new Proof(sitting.index());
    this.desk =
        new Desk(
            sitting.index(),
            Optional.of(proof),
            sitting.log(),
            sitting.readOnly(),
            sitting.by(),
            sitting.now());
    this.painter = new Painter(sitting.seat().colour(), terminal.encoding());
    this.frame = new Frame(desk, painter, sitting.file());
    this.message =
        sitting.readOnly().isEmpty() ? "" : "Read only: " + Visible.text(sitting.readOnly()) + ".";
  }

  /** The terminal that the program was started on, made ready beside whatever else is going on. */
  public static Future<Terminal> terminal() {
    LOG.setLevel(Level.OFF);
    return Aside.begin(
        "terminal",
        () ->
            TerminalBuilder.builder()
                .system(true)
                .dumb(false)
                // To ask a terminal what it can do takes half a second if it does not answer.
                .graphemeCluster(false)
                .signalHandler(Terminal.SignalHandler.SIG_IGN)
                .build());
  }

  /**
   * Shows a change set.
   *
   * @param on closed afterwards
   * @return changes that the reader calls things of their own, though both copies added one of that
   *     name; the change set must be drafted anew for them
   * @throws IOException if the terminal can't be used, or goes away
   */
  public static List<Integer> show(Sitting sitting, Future<Terminal> on)
      throws IOException, Refusal {
    try (Terminal terminal = Aside.result(on)) {
      ReviewScreen screen = new ReviewScreen(terminal, sitting);
      screen.run();
      return screen.apart;
    } catch (EndOfFileException e) {
      // The terminal went away, and every decision is in the file.
      return List.of();
    }
  }

  private void run() throws IOException, Refusal {
    Attributes before = terminal.enterRawMode();
    terminal.handle(Terminal.Signal.INT, signal -> stopped.set(true));
    terminal.handle(Terminal.Signal.WINCH, signal -> resized.set(true));
    sitting.seat().restorer().set(() -> modes.leave(before));
    modes.enter();
    display.clear();
    try {
      loop();
    } finally {
      sitting.seat().restorer().clear();
      modes.leave(before);
    }
  }

  private void loop() throws IOException, Refusal {
    while (!stopped.get()) {
      draw();
      proof.start();
      Keys key = next();
      if (key == Keys.QUIT || key == null) {
        return;
      }
      message = "";
      act(key);
      if (!apart.isEmpty()) {
        return;
      }
    }
  }

  /** Waits for a key, and looks around meanwhile; null at the end of the input. */
  private Keys next() throws IOException, Refusal {
    while (!stopped.get()) {
      int peeked = keys.peekCharacter(LOOK_AROUND_EVERY);
      if (peeked == NonBlockingReader.READ_EXPIRED) {
        boolean moved = desk.look();
        if (moved) {
          message = "Somebody else wrote to the file; it was read again.";
        }
        if (moved || resized.get()) {
          draw();
        }
        continue;
      }
      return peeked < 0 ? null : keys.readBinding(bindings);
    }
    return null;
  }

  private void draw() throws IOException {
    resize();
    display.update(frame.isTooSmall() ? tooSmall() : frame.draw(message), -1);
  }

  private void resize() {
    // To ask for the size takes a process of its own, so it is asked only when it changed.
    if (resized.getAndSet(false)) {
      size = terminal.getSize();
      display.clear();
      display.resize(size);
      frame.size(size.getColumns(), size.getRows());
    }
  }

  private List<AttributedString> tooSmall() {
    List<Line.Span> text =
        List.of(
            new Line.Span(
                "This terminal has "
                    + size.getColumns()
                    + " columns and "
                    + size.getRows()
                    + " rows; the review needs "
                    + Frame.NARROWEST
                    + " and "
                    + Frame.LOWEST
                    + ". Make it larger, or leave with q and use weftex review --list.",
                Style.PLAIN));
    int columns = Math.max(1, size.getColumns());
    return filled(
        Wrap.lines(text, columns).stream().map(l -> painter.line(l, columns, false)).toList());
  }

  private List<AttributedString> filled(List<AttributedString> lines) {
    List<AttributedString> screen =
        new ArrayList<>(lines.subList(0, Math.min(lines.size(), size.getRows())));
    while (screen.size() < size.getRows()) {
      screen.add(painter.line(List.of(), size.getColumns(), false));
    }
    return screen;
  }

  private void act(Keys key) throws IOException, Refusal {
    if (frame.isTooSmall()) {
      return;
    }
    switch (key) {
      case UP -> frame.move(-1);
      case DOWN -> frame.move(1);
      case PAGE_UP -> frame.page(-1);
      case PAGE_DOWN -> frame.page(1);
      case FIRST -> frame.end(-1);
      case LAST -> frame.end(1);
      case SWITCH -> frame.enter(!frame.inDetail());
      case INTO -> frame.enter(true);
      case BACK -> frame.enter(false);
      case TAKE, KEEP, SKIP, INCLUDE, BRING, REOPEN ->
          message = desk.decide(key.answer(), frame.spot());
      case BOTH -> both();
      case UNDO -> message = desk.undo();
      case NEXT -> nextOpen();
      case FILTER -> {
        desk.listing().filter(desk.listing().filter().next());
        frame.enter(false);
        message = "Listed: " + frame.listed() + ".";
      }
      case FIND -> {
        Optional<String> text = ask("Find: ", desk.listing().find());
        if (text.isPresent()) {
          desk.listing().find(text.get());
          frame.enter(false);
          message = "Listed: " + frame.listed() + ".";
        }
      }
      case NOTE -> note();
      case EDIT -> edit();
      case WHOLE -> frame.toggleWhole();
      case APPROVE -> approve();
      case HELP -> page(ScreenPages.help());
      case QUIT, NONE -> {}
    }
  }

  private void both() throws IOException, Refusal {
    Optional<Line.Spot> spot = frame.spot();
    List<Integer> added = desk.bothAdded(spot);
    if (desk.cannotWrite().isPresent()) {
      message = desk.cannotWrite().get();
    } else if (!added.isEmpty() && spot.map(at -> at.passage() == 0).orElse(true)) {
      apart = added;
    } else {
      message =
          spot.filter(at -> at.column().isPresent()).isPresent()
              ? desk.both(spot.get())
              : "Go to a passage first: Tab, then the arrows. Only what both copies added can be two things.";
    }
  }

  private void nextOpen() throws IOException {
    if (desk.listing().nextOpen()) {
      frame.toOpenSpot();
    } else {
      message = "Nothing that is listed needs a decision.";
    }
  }

  private void note() throws IOException, Refusal {
    if (desk.cannotWrite().isPresent()) {
      message = desk.cannotWrite().get();
      return;
    }
    Optional<String> text = ask("Note: ", "");
    if (text.isPresent() && !text.get().isBlank()) {
      message = desk.note(frame.spot(), text.get().strip());
    }
  }

  /** Reads a line at the bottom of the screen; empty if the reader thinks better of it. */
  private Optional<String> ask(String prompt, String start) throws IOException {
    StringBuilder text = new StringBuilder(start);
    while (!stopped.get()) {
      message = prompt + Visible.text(text.toString()) + "_   (Enter, or Esc to go back)";
      draw();
      int c = keys.readCharacter();
      if (c == '\r' || c == '\n') {
        message = "";
        return Optional.of(text.toString());
      }
      if (c < 0 || c == ESCAPE) {
        message = "";
        drain();
        return Optional.empty();
      }
      if (c == BACKSPACE || c == DELETE) {
        if (text.length() > 0) {
          text.setLength(text.offsetByCodePoints(text.length(), -1));
        }
      } else if (c >= ' ') {
        text.appendCodePoint(c);
      }
    }
    return Optional.empty();
  }

  /** The rest of a key that begins with an escape. */
  private void drain() throws IOException {
    while (keys.peekCharacter(20) >= 0) {
      keys.readCharacter();
    }
  }

  private void edit() throws IOException, Refusal {
    Optional<Line.Spot> spot = frame.spot().filter(s -> s.column().isPresent());
    if (desk.cannotWrite().isPresent()) {
      message = desk.cannotWrite().get();
      return;
    }
    if (spot.isEmpty()) {
      message = "Go to a column first: Tab, then the arrows.";
      return;
    }
    String column = spot.get().column().orElseThrow();
    Optional<String> refusal =
        desk.review().refusal(spot.get().change(), spot.get().column(), Answer.VALUE);
    RowChange change = desk.change(spot.get().change());
    Optional<ChangeSetHeader.ColumnType> type = desk.header().column(change.table(), column);
    if (refusal.isPresent() || type.isEmpty()) {
      message = refusal.orElse("Nobody knows what the column holds.");
      return;
    }
    modes.lend();
    ValueEditor.Edited edited;
    try {
      edited =
          new ValueEditor(sitting.seat().environment(), !desk.header().receivers().isEmpty())
              .edit(type.get(), desk.review().current(change, column));
    } finally {
      backFromOthers();
    }
    message = edited.value() == null ? edited.sentence() : desk.decide(spot.get(), edited.value());
  }

  private void backFromOthers() {
    modes.takeBack();
    display.clear();
    resized.set(true);
  }

  private void approve() throws IOException, Refusal {
    if (desk.cannotWrite().isPresent()) {
      message = desk.cannotWrite().get();
      return;
    }
    ChangeSetFile index = sitting.index().again();
    List<Line> lines = ScreenPages.approval(desk.header(), index, sitting);
    int c = page(lines);
    if (c != 'y') {
      message = "Nothing was approved.";
      return;
    }
    modes.lend();
    try {
      message = desk.approve(index.contents().sha256(), sitting.signing());
    } catch (Refusal e) {
      message = e.getMessage() + " " + e.next();
    } finally {
      backFromOthers();
    }
  }

  /** Shows lines in place of everything else until a key is pressed. */
  private int page(List<Line> lines) throws IOException {
    resize();
    List<AttributedString> screen = new ArrayList<>();
    for (Line line : lines) {
      for (List<Line.Span> each : Wrap.lines(line.spans(), size.getColumns() - 2)) {
        List<Line.Span> own = new ArrayList<>(each);
        own.add(0, new Line.Span(" ", Style.PLAIN));
        screen.add(painter.line(own, size.getColumns(), false));
      }
    }
    display.update(filled(screen), -1);
    int c = keys.readCharacter();
    if (c == ESCAPE) {
      drain();
    }
    return c;
  }
}
