package weftex.store.changeset;

import java.io.IOException;
import java.io.InputStream;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Optional;
import weftex.core.change.Alike;
import weftex.core.change.ChangeSetHeader;
import weftex.core.change.Outline;
import weftex.core.change.Review;
import weftex.core.change.RowChange;
import weftex.core.change.SchemaChange;
import weftex.core.changeset.ChangeSetContents;
import weftex.core.changeset.ChangeSetProblem;
import weftex.core.changeset.ChangeSetReader;
import weftex.store.Refusal;
import weftex.store.seal.Keyring;

/**
 * A change set in a file. It is read once, by its outlines: what each change touches, and what the
 * decisions make of it. Values are read when they are asked for, of one change or in a pass over
 * all, and of a small file kept from the first reading if they are wanted at once.
 */
public final class ChangeSetFile {
  /** A larger file is not kept: its values take about twice as much in memory. */
  private static final long KEPT_UP_TO = 32L << 20;

  private final Path file;
  private final Keyring keys;
  private final Content content;
  private final ChangeSetContents contents;
  private final GatheredChanges gathered;
  private final long bytes;

  private ChangeSetFile(
      Path file,
      Keyring keys,
      Content content,
      ChangeSetContents contents,
      GatheredChanges gathered,
      long bytes) {
    this.file = file;
    this.keys = keys;
    this.content = content;
    this.contents = contents;
    this.gathered = gathered;
    this.bytes = bytes;
  }

  /** Where a change's line stands. */
  record Place(long offset, int length) {}

  /** Values in memory. */
  record Kept(List<RowChange> changes, List<Alike> alike) {}

  /**
   * Reads a change set by its outlines, and takes in its decisions.
   *
   * @param keys what opens it, if it is sealed
   * @throws Refusal if it is not there, not a change set, cut short, altered, sealed for others, or
   *     of a newer format
   */
  public static ChangeSetFile read(Path file, Keyring keys) throws Refusal {
    return read(file, keys, true, false);
  }

  /**
   * The same for whoever is going to need all values: those of a file that is not large stay in
   * memory.
   */
  public static ChangeSetFile readWhole(Path file, Keyring keys) throws Refusal {
    return read(file, keys, true, true);
  }

  /**
   * Reads a change set to be looked at, without checking that it is as it was drafted and approved.
   * Nothing may be decided on it before {@link #read} went well.
   *
   * @throws Refusal as {@link #read}
   */
  public static ChangeSetFile glance(Path file, Keyring keys) throws Refusal {
    try {
      return read(file, keys, false, false);
    } catch (Refusal e) {
      // Whoever reads it whole can tell better what is wrong.
      return read(file, keys);
    }
  }

  /** Reads the same change set once more, since something was appended to it. */
  public ChangeSetFile again() throws Refusal {
    return read(file, keys);
  }

  private static ChangeSetFile read(Path file, Keyring keys, boolean proof, boolean whole)
      throws Refusal {
    return Unreadable.refusing(
        file,
        () -> {
          Content content = Content.of(file, keys);
          try (InputStream in = content.open()) {
            long bytes = Files.size(file);
            GatheredChanges gathered =
                new GatheredChanges(proof, whole && content.weight() <= KEPT_UP_TO);
            ChangeSetContents contents = ChangeSetReader.read(in, gathered);
            content.check(contents.header());
            contents.held().values().forEach(gathered.review::add);
            return new ChangeSetFile(file, keys, content, contents, gathered, bytes);
          }
        });
  }

  /**
   * Reads the header alone, which says between which copies a change set goes.
   *
   * @throws Refusal if it is not there, not a change set, or of a newer format
   */
  public static ChangeSetHeader header(Path file, Keyring keys) throws Refusal {
    return Unreadable.refusing(
        file,
        () -> {
          Content content = Content.of(file, keys);
          try (InputStream in = content.open()) {
            ChangeSetHeader header = ChangeSetReader.header(in);
            content.check(header);
            return header;
          }
        });
  }

  /** About how many bytes its lines are, of a file that is there. */
  public static long weight(Path file, Keyring keys) throws IOException {
    return Content.of(file, keys).weight();
  }

  InputStream open() throws IOException {
    return content.open();
  }

  public Path file() {
    return file;
  }

  public ChangeSetHeader header() {
    return contents.header();
  }

  public ChangeSetContents contents() {
    return contents;
  }

  /** What the decisions make of the changes. */
  public Review review() {
    return gathered.review;
  }

  /** New tables and columns, in the order of making; they have the first numbers. */
  public List<SchemaChange> schema() {
    return gathered.schema;
  }

  /** Whether a change is one of the schema. */
  public boolean isSchema(int id) {
    return id <= schema().size();
  }

  /** What each change of a row touches, in the order of applying. */
  public List<Outline> outlines() {
    return gathered.outlines;
  }

  /** How long the file was when it was read. */
  public long bytes() {
    return bytes;
  }

  Optional<Kept> kept() {
    return gathered.kept;
  }

  /** A change with its values. */
  public RowChange change(int id) throws IOException {
    if (kept().isPresent()) {
      return kept().get().changes().get(id - schema().size() - 1);
    }
    Place place = gathered.places.get(id);
    return ChangeSetReader.change(content.at(place.offset(), place.length()));
  }

  /** Takes something of a change set. */
  public interface Sink<T> {
    void accept(T one) throws IOException;
  }

  /** Passes over all changes of rows with their values, in the order of applying. */
  public void eachChange(Sink<RowChange> sink) throws IOException {
    if (kept().isPresent()) {
      for (RowChange change : kept().get().changes()) {
        sink.accept(change);
      }
      return;
    }
    pass(
        new ChangeSetReader.Visitor() {
          @Override
          public void change(RowChange change) throws IOException {
            sink.accept(change);
          }
        });
  }

  /** Passes over the rows that both copies have alike. */
  public void eachAlike(Sink<Alike> sink) throws IOException {
    if (kept().isPresent() || contents.alike() == 0) {
      for (Alike row : kept().map(Kept::alike).orElse(List.of())) {
        sink.accept(row);
      }
      return;
    }
    pass(
        new ChangeSetReader.Visitor() {
          @Override
          public void alike(Alike row) throws IOException {
            sink.accept(row);
          }
        });
  }

  private void pass(ChangeSetReader.Visitor visitor) throws IOException {
    try (InputStream in = open()) {
      ChangeSetReader.read(in, visitor);
    } catch (ChangeSetProblem e) {
      throw new IOException("the change set was written to while it was read", e);
    }
  }

  /** Whether an apply would neither make nor settle anything. */
  public boolean isNothing() {
    return review().count(Review.Standing.MADE) == 0
        && !review().keepsAny()
        && contents.alike() == 0;
  }

  /** The new tables and columns that are going to be made. */
  public List<SchemaChange> madeSchema() {
    return schema().stream()
        .filter(change -> review().standing(change.id()) == Review.Standing.MADE)
        .toList();
  }

  /** The numbered rows that are going to be added, in the order of applying. */
  public List<NumberedRow> added() {
    return outlines().stream()
        .filter(change -> review().standing(change.id()) == Review.Standing.MADE)
        .flatMap(change -> NumberedRow.of(change).stream())
        .toList();
  }

  /** The tables of the header as they are once the decisions are followed. */
  public List<ChangeSetHeader.TableColumns> tables() {
    return contents.header().tables().stream()
        .map(review()::decided)
        .flatMap(Optional::stream)
        .toList();
  }
}
