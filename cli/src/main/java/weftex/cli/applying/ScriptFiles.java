package weftex.cli.applying;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Optional;
import weftex.cli.page.Progress;
import weftex.cli.page.Sizes;
import weftex.cli.page.Times;
import weftex.cli.session.Session;
import weftex.cli.workplace.Workplace;
import weftex.core.change.SchemaChange;
import weftex.store.Refusal;
import weftex.store.copy.Copy;
import weftex.store.dump.SqlFile;
import weftex.store.receipt.ReceiptRows;
import weftex.store.rows.Ledger;
import weftex.store.script.MergeScript;
import weftex.store.state.Files0600;

/**
 * A merge as a script for a hosting panel, and one that takes it back. Both are tried on the rows
 * of the export before they appear under their names.
 */
final class ScriptFiles {
  private static final String DONE = "done: ";

  private final Path file;
  private final Path back;
  private final Copy target;
  private final Workplace place;
  private final Session session;

  private ScriptFiles(Path file, Path back, Copy target, Workplace place, Session session) {
    this.file = file;
    this.back = back;
    this.target = target;
    this.place = place;
    this.session = session;
  }

  /**
   * Two files that are going to be written.
   *
   * @throws Refusal if the second file is there already
   */
  static ScriptFiles of(Path file, Copy target, Workplace place, Session session) throws Refusal {
    String name = file.getFileName().toString();
    int dot = name.lastIndexOf('.');
    String own = dot > 0 ? name.substring(0, dot) : name;
    Path back = file.resolveSibling(own + "-undo" + (dot > 0 ? name.substring(dot) : ".sql"));
    if (Files.exists(back)) {
      throw new Refusal(
          Refusal.Kind.PROTECTED,
          place.shown(back)
              + ", where the script that takes the changes back would go, is there already. Nothing was"
              + " changed.",
          "Name another file.");
    }
    return new ScriptFiles(file, back, target, place, session);
  }

  /** The one that makes the changes. */
  Path file() {
    return file;
  }

  /**
   * Writes both.
   *
   * @param receipt of the merge, as it was made on the rows of the export
   * @param source the export
   */
  void write(String receipt, SqlFile source) throws Refusal, IOException {
    Copy merged = target.again();
    Ledger.Entry entry = null;
    long before = 0;
    for (Ledger.Entry one : merged.ledger()) {
      if (one.receipt().equals(receipt)) {
        entry = one;
      } else {
        before = Math.max(before, one.sequence());
      }
    }
    if (entry == null) {
      throw new IllegalStateException("no entry of " + receipt);
    }
    List<SchemaChange> schema = place.receipts().schema(receipt);
    MergeScript words = new MergeScript(merged);
    Path first = place.state().temporary("script");
    Path second = place.state().temporary("script-undo");
    try (ReceiptRows rows = place.receipts().rows(receipt)) {
      MergeScript.Merge merge = new MergeScript.Merge(about(source), entry, before, schema, rows);
      Files0600.whole(first, out -> words(() -> words.write(merge, out)));
      Files0600.whole(second, out -> words(() -> words.writeBack(merge, out)));
      prove(source, first, second);
      Files0600.whole(file, out -> Files.copy(first, out));
      Files0600.whole(back, out -> Files.copy(second, out));
    } catch (Unwritable e) {
      throw e.refusal;
    } finally {
      Files.deleteIfExists(first);
      Files.deleteIfExists(second);
    }
    say(words.staysMade() ? schema : List.of());
  }

  private interface Writing {
    void write() throws IOException, Refusal;
  }

  /** Carries a refusal out of the writing of a file. */
  private static final class Unwritable extends IOException {
    private static final long serialVersionUID = 1;
    private final transient Refusal refusal;

    Unwritable(Refusal refusal) {
      super(refusal.getMessage(), refusal);
      this.refusal = refusal;
    }
  }

  private static void words(Writing writing) throws IOException {
    try {
      writing.write();
    } catch (Refusal e) {
      throw new Unwritable(e);
    }
  }

  private List<String> about(SqlFile source) throws IOException {
    return List.of(
        "A merge of the site '"
            + place.pair().site()
            + "' into "
            + target.name()
            + ", by "
            + Session.TOOL,
        "on top of the export of "
            + Times.shown(Files.getLastModifiedTime(source.file()).toInstant().toString())
            + "; written "
            + Times.shown(session.now()));
  }

  /** On the rows of the export: once it is done, once more it is not, and it is taken back. */
  private void prove(SqlFile source, Path first, Path second) throws Refusal, IOException {
    try (Progress progress = Progress.start(session, "trying the script", -1)) {
      source.reload();
      check(source.run(first), true);
      check(source.run(first), false);
      check(source.run(second), true);
      progress.accept(1);
    }
  }

  private void check(String said, boolean done) throws Refusal {
    if (said.startsWith(DONE) != done) {
      throw new Refusal(
          Refusal.Kind.PROTECTED,
          "The script was tried on the rows of the export, and said: "
              + said
              + ". It was not written.",
          "Write the whole copy with 'weftex apply -o', or leave out what it names.");
    }
  }

  /**
   * @param schema new tables and columns that stay even if nothing else is written
   */
  private void say(List<SchemaChange> schema) throws IOException {
    place.say(
        "Wrote "
            + place.shown(file)
            + " ("
            + Sizes.shown(Files.size(file))
            + "), which was tried on the rows of the export, and "
            + place.shown(back)
            + ", which takes the changes back.");
    Optional<String> made =
        schema.stream()
            .map(change -> change.item().words())
            .reduce((one, other) -> one + ", " + other);
    made.ifPresent(
        what ->
            place.say(
                "The server commits by itself: "
                    + what
                    + ". That stays even if nothing else is written."));
    place.say(
        "Import it where "
            + target.name()
            + " is. Its last row says 'done', or that nothing was changed, and why; then export "
            + target.name()
            + " again: 'weftex apply --confirm' says whether it ran.");
  }
}
