package weftex.cli.screen;

import java.io.IOException;
import java.nio.file.Files;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.SortedMap;
import java.util.TreeMap;
import java.util.function.Supplier;
import weftex.cli.page.Visible;
import weftex.cli.paint.Line;
import weftex.core.change.ChangeSetHeader;
import weftex.core.change.Outline;
import weftex.core.change.Review;
import weftex.core.change.RowChange;
import weftex.core.change.SchemaChange;
import weftex.core.changeset.DecisionLine;
import weftex.core.decide.Consequences;
import weftex.core.merge.ConflictKind;
import weftex.core.row.Value;
import weftex.core.signoff.Answer;
import weftex.core.signoff.Approval;
import weftex.core.signoff.Decision;
import weftex.core.signoff.Withdrawal;
import weftex.store.Refusal;
import weftex.store.changeset.ChangeSetFile;
import weftex.store.changeset.DecisionLog;

/**
 * A change set under review: what is listed, where the reader is, and what is decided. Every
 * decision is on the disk before it shows. What is done answers with a sentence for the reader.
 */
final class Desk {
  private final Optional<DecisionLog> log;
  private final String by;
  private final Supplier<String> now;
  private final String readOnly;
  private ChangeSetFile index;
  private Optional<Proof> proof;
  private Review review;
  private SortedMap<Integer, Decision> held;
  private int decisions;
  private boolean approved;
  private long bytes;
  private List<Thing> things;
  private final Standings standings = new Standings();
  private final Listing listing = new Listing(this);
  private int revision;

  /**
   * @param index may be a mere glance at the file, if there is a proof to come
   * @param proof that the file is as it was drafted; nothing is written before it is there
   * @param log where decisions go; empty if nothing can be decided
   * @param readOnly why nothing can be decided; empty if it can
   * @param by who decides
   * @param now the time, as an ISO 8601 instant
   */
  Desk(
      ChangeSetFile index,
      Optional<Proof> proof,
      Optional<DecisionLog> log,
      String readOnly,
      String by,
      Supplier<String> now) {
    this.proof = proof;
    this.log = log;
    this.readOnly = readOnly;
    this.by = by;
    this.now = now;
    take(index);
  }

  private void take(ChangeSetFile read) {
    index = read;
    review = read.review();
    held = read.contents().held();
    decisions = read.contents().decisions().size();
    approved = read.contents().isApproved();
    bytes = read.bytes();
    things = Things.of(read);
    changed();
  }

  private void changed() {
    standings.changed(review, held.values());
    revision++;
    listing.list();
  }

  /** Counts whatever may look different. */
  int revision() {
    return revision;
  }

  ChangeSetHeader header() {
    return index.contents().header();
  }

  Review review() {
    return review;
  }

  String readOnly() {
    return readOnly;
  }

  boolean isApproved() {
    return approved;
  }

  /** What is listed, and where the reader is in it. */
  Listing listing() {
    return listing;
  }

  List<Thing> things() {
    return things;
  }

  /** How the changes stand. */
  Standings standings() {
    return standings;
  }

  private DeskWords words() {
    return new DeskWords(header().from(), header().into());
  }

  /** The decisions that hold about a change, in their order. */
  List<Decision> decisions(int id) {
    return held.values().stream().filter(decision -> decision.changes().contains(id)).toList();
  }

  boolean isSchema(int id) {
    return index.isSchema(id);
  }

  SchemaChange schema(int id) {
    return index.schema().get(id - 1);
  }

  /** A change with its values, as it was drafted. */
  RowChange change(int id) throws IOException {
    return index.change(id);
  }

  // Deciding.

  /**
   * Decides about a spot, or about all that is in the current row.
   *
   * @param spot empty for the row
   */
  String decide(Answer answer, Optional<Line.Spot> spot) throws IOException, Refusal {
    Optional<String> refusal = cannotWrite();
    if (refusal.isPresent()) {
      return refusal.get();
    }
    List<Integer> ids = listing.meant(spot);
    if (ids.isEmpty()) {
      return "Nothing is listed.";
    }
    Optional<String> column =
        answer.isOfPassages() || answer == Answer.REOPEN
            ? spot.flatMap(Line.Spot::column)
            : Optional.empty();
    Optional<Decision.Passage> passage =
        spot.filter(s -> s.passage() > 0 && column.isPresent() && answer != Answer.REOPEN)
            .map(s -> new Decision.Passage(s.passage(), s.passages()));
    List<Integer> fitting = ids.stream().filter(id -> fits(id, column, answer)).toList();
    if (fitting.isEmpty()) {
      return review
          .refusal(ids.get(0), column, answer)
          .orElse("Nothing here can be decided so: " + words().said(answer) + ".");
    }
    return write(
        new Decision(fitting, column, passage, answer, Optional.empty(), by, now.get(), ""),
        spot.isEmpty() && answer != Answer.REOPEN);
  }

  /** Gives both sides their words, in one passage or in all of a column's text. */
  String both(Line.Spot spot) throws IOException, Refusal {
    if (spot.passage() > 0) {
      return decide(Answer.BOTH, Optional.of(spot));
    }
    String column = spot.column().orElseThrow();
    int passages =
        change(spot.change()).conflicts().stream()
            .mapToInt(conflict -> conflict.allPassages(column).size())
            .max()
            .orElse(0);
    String said = "Only running text that both copies changed can have both sides' words.";
    for (int number = 1; number <= passages; number++) {
      said =
          decide(
              Answer.BOTH,
              Optional.of(new Line.Spot(spot.change(), spot.column(), number, passages)));
    }
    return said;
  }

  /** Of the change at a spot, or of the current row, those that both copies added. */
  List<Integer> bothAdded(Optional<Line.Spot> spot) {
    Set<Integer> wanted = Set.copyOf(listing.meant(spot));
    return index.outlines().stream()
        .filter(change -> wanted.contains(change.id()))
        .filter(
            change -> change.contests().stream().anyMatch(c -> c.kind() == ConflictKind.BOTH_ADDED))
        .map(Outline::id)
        .toList();
  }

  private boolean fits(int id, Optional<String> column, Answer answer) {
    if (review.refusal(id, column, answer).isPresent()) {
      return false;
    }
    return switch (answer) {
      case INCLUDE -> review.standing(id) == Review.Standing.SKIPPED;
      case SKIP ->
          review.standing(id) != Review.Standing.SKIPPED
              && review.standing(id) != Review.Standing.OFFERED;
      case BRING -> review.standing(id) == Review.Standing.OFFERED;
      case REOPEN -> standings.isDecided(id);
      default -> true;
    };
  }

  /** Writes a value of the reviewer's own. */
  String decide(Line.Spot spot, Value value) throws IOException, Refusal {
    return write(
        new Decision(
            List.of(spot.change()),
            spot.column(),
            Optional.empty(),
            Answer.VALUE,
            Optional.of(value),
            by,
            now.get(),
            ""),
        false);
  }

  /** Leaves a note with what is decided at a spot, or in the current row. */
  String note(Optional<Line.Spot> spot, String text) throws IOException, Refusal {
    Optional<String> refusal = cannotWrite();
    if (refusal.isPresent()) {
      return refusal.get();
    }
    List<Integer> ids =
        spot.map(s -> List.of(s.change()))
            .orElseGet(
                () ->
                    listing.row().stream()
                        .flatMap(row -> row.things().stream())
                        .map(thing -> thing.numbers().get(0))
                        .toList());
    return write(Decision.of(ids, Optional.empty(), Answer.NOTE, by, now.get(), text), false);
  }

  /** Why nothing can be written; empty if it can. */
  Optional<String> cannotWrite() {
    return log.isPresent()
        ? Optional.empty()
        : Optional.of("Nothing can be decided here: " + readOnly + ".");
  }

  /**
   * @param ofThing whether it is said of whole things: then what follows is decided with it
   */
  private String write(Decision decision, boolean ofThing) throws IOException, Refusal {
    prove(true);
    String moved = refresh() ? "Somebody else wrote to the file; it was read again. " : "";
    for (int id : decision.changes()) {
      Optional<String> refusal = review.refusal(id, decision.column(), decision.answer());
      if (refusal.isPresent()) {
        return moved + refusal.get();
      }
    }
    Set<Integer> openBefore = standings.open();
    List<Decision> all = new ArrayList<>(List.of(decision));
    review.add(decision);
    if (ofThing) {
      Set<Integer> apart = new HashSet<>(openBefore);
      decision.changes().forEach(apart::remove);
      all.addAll(Consequences.of(review, decision.answer(), apart, by, decision.at()));
    }
    List<byte[]> lines = new ArrayList<>();
    for (Decision one : all) {
      lines.add(DecisionLine.of(one));
    }
    try {
      bytes = log.orElseThrow().append(lines);
    } catch (IOException | Refusal e) {
      reviewAnew();
      throw e;
    }
    all.forEach(one -> held.put(++decisions, one));
    approved = false;
    changed();
    return moved
        + words().outcome(decision, all.subList(1, all.size()), openBefore, standings.open());
  }

  /** Takes in again what is held. */
  private void reviewAnew() {
    review = new Review();
    index.schema().forEach(review::add);
    index.outlines().forEach(review::add);
    held.values().forEach(review::add);
    standings.changed(review, held.values());
  }

  /** Takes back the decision that was made last. */
  String undo() throws IOException, Refusal {
    Optional<String> refusal = cannotWrite();
    if (refusal.isPresent()) {
      return refusal.get();
    }
    prove(true);
    refresh();
    if (held.isEmpty()) {
      return "There is no decision to take back.";
    }
    // What followed from a decision goes with it.
    SortedMap<Integer, Decision> left = new TreeMap<>(held);
    List<byte[]> lines = new ArrayList<>();
    Decision decision;
    do {
      int last = left.lastKey();
      decision = left.remove(last);
      lines.add(DecisionLine.of(new Withdrawal(last, by, now.get())));
    } while (Consequences.isOne(decision) && !left.isEmpty());
    bytes = log.orElseThrow().append(lines);
    held = left;
    approved = false;
    reviewAnew();
    changed();
    return words().takenBack(decision, review);
  }

  /**
   * Approves what the reader was shown.
   *
   * @param shown the SHA-256 of the file that was shown
   * @param signing what becomes of the approval before it is written
   * @return a sentence; nothing is approved if the file moved since, or as long as something is
   *     open
   */
  String approve(String shown, ApprovalSigning signing) throws IOException, Refusal {
    Optional<String> refusal = cannotWrite();
    if (refusal.isPresent()) {
      return refusal.get();
    }
    take(index.again());
    if (!index.contents().sha256().equals(shown)) {
      return "Somebody else wrote to the file meanwhile; nothing was approved. Look at it again.";
    }
    int open = standings.all().getOrDefault(Review.Standing.OPEN, 0);
    if (open > 0) {
      return open + (open == 1 ? " change needs" : " changes need") + " a decision first.";
    }
    Approval approval = signing.signed(Approval.unsigned(by, now.get(), index.contents().sha256()));
    bytes = log.orElseThrow().append(List.of(DecisionLine.of(approval)));
    approved = true;
    revision++;
    return "Approved by "
        + Visible.text(by)
        + (approval.signature().isPresent() ? ", signed." : ".");
  }

  /** Takes the proof if it is there, or waits for it. */
  private void prove(boolean waits) throws IOException, Refusal {
    if (proof.isPresent() && (waits || proof.get().isDone())) {
      proof.get().await();
      proof = Optional.empty();
    }
  }

  /**
   * Looks whether somebody else wrote to the file, and reads it again if so; says whether that was
   * so.
   *
   * @throws Refusal if the file is not as it was drafted
   */
  boolean look() throws IOException, Refusal {
    prove(false);
    return refresh();
  }

  private boolean refresh() throws IOException, Refusal {
    if (Files.size(index.file()) == bytes) {
      return false;
    }
    take(index.again());
    return true;
  }
}
