package weftex.store.receipt;

import java.time.Duration;
import java.time.Instant;
import java.util.List;
import java.util.Optional;
import weftex.core.change.ChangeSetHeader;
import weftex.core.signoff.Approval;

/**
 * What a receipt says of itself, its rows aside.
 *
 * @param id by which the ledger knows it; no other receipt has it
 * @param tables the columns of the tables that it touches
 * @param ending how far it came
 */
public record Receipt(
    String id,
    Kind of,
    Way way,
    Changes changes,
    Author author,
    List<ChangeSetHeader.TableColumns> tables,
    Ending ending) {

  /**
   * What was done.
   *
   * @param kind {@code apply} or {@code undo}
   * @param undoes for an undo: the receipt that it takes back
   * @param part for an undo: whether it takes back chosen changes alone
   */
  public record Kind(String kind, Optional<String> undoes, boolean part) {
    /** An apply. */
    public static final Kind APPLY = new Kind("apply", Optional.empty(), false);

    /** An undo of the apply of a receipt. */
    public static Kind undo(String receipt, boolean part) {
      return new Kind("undo", Optional.of(receipt), part);
    }
  }

  /** From where to where; {@code target} is the place of the copy that was written to. */
  public record Way(String site, String from, String into, String target) {}

  /**
   * The change set.
   *
   * @param changeSet what it is known by
   * @param file its file name
   */
  public record Changes(String changeSet, String file, List<Approval> approvals) {}

  /**
   * Who ran it.
   *
   * @param at when, as an ISO 8601 instant
   * @param tool the version that did
   */
  public record Author(String by, String at, String tool) {}

  /** How it ended. */
  public enum Outcome {
    COMMITTED("done"),
    ROLLED_BACK("rolled back"),
    /** The process ended before it could say; the ledger knows. */
    UNKNOWN("interrupted");

    private final String words;

    Outcome(String words) {
      this.words = words;
    }

    public String words() {
      return words;
    }
  }

  /**
   * How far a run came.
   *
   * @param outcome whether it was committed
   * @param at when it ended, as an ISO 8601 instant; empty where it could not say that itself
   * @param sequence its place in the order of the target's ledger; 0 if an older version wrote it,
   *     or if it never came so far
   * @param adds rows added, {@code updates} and {@code removes} likewise
   */
  public record Ending(
      Outcome outcome, Optional<String> at, long sequence, long adds, long updates, long removes) {
    /** Nobody knows yet. */
    public static final Ending NONE = new Ending(Outcome.UNKNOWN, Optional.empty(), 0, 0, 0, 0);
  }

  public String kind() {
    return of.kind();
  }

  public Optional<String> undoes() {
    return of.undoes();
  }

  public boolean part() {
    return of.part();
  }

  public String site() {
    return way.site();
  }

  public String from() {
    return way.from();
  }

  public String into() {
    return way.into();
  }

  public String target() {
    return way.target();
  }

  public String changeSet() {
    return changes.changeSet();
  }

  public String file() {
    return changes.file();
  }

  public List<Approval> approvals() {
    return changes.approvals();
  }

  public String by() {
    return author.by();
  }

  public String at() {
    return author.at();
  }

  public String tool() {
    return author.tool();
  }

  public Outcome outcome() {
    return ending.outcome();
  }

  public long sequence() {
    return ending.sequence();
  }

  public long adds() {
    return ending.adds();
  }

  public long updates() {
    return ending.updates();
  }

  public long removes() {
    return ending.removes();
  }

  /** How long it took; empty where it could not say itself when it ended. */
  public Optional<Duration> took() {
    return ending.at().map(end -> Duration.between(Instant.parse(at()), Instant.parse(end)));
  }

  /** The same receipt with how it ended. */
  Receipt ended(Outcome outcome, Optional<String> end) {
    return with(new Ending(outcome, end, sequence(), adds(), updates(), removes()));
  }

  /** The same receipt with what was written. */
  Receipt written(long sequence, long adds, long updates, long removes) {
    return with(new Ending(outcome(), ending.at(), sequence, adds, updates, removes));
  }

  private Receipt with(Ending other) {
    return new Receipt(id, of, way, changes, author, tables, other);
  }
}
