package weftex.store.compare;

import java.io.IOException;
import java.security.SecureRandom;
import java.sql.SQLException;
import java.time.Instant;
import java.util.HexFormat;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.UUID;
import java.util.stream.Stream;
import weftex.store.FailureWords;
import weftex.store.Refusal;
import weftex.store.capture.Capture;
import weftex.store.capture.LedgerPlace;
import weftex.store.copy.Claim;
import weftex.store.copy.Copy;
import weftex.store.rows.Ledger;
import weftex.store.rows.WriteTransaction;

/**
 * By what a copy is known again, wherever it is: an entry of its own ledger for each base. It tells
 * a copy that was recreated from the other, or restored from a backup, and it is where the merges
 * begin that count since the base.
 */
public final class CopyMarks {
  private static final String KIND = "mark";
  private static final int ID_BYTES = 32;

  private final List<Ledger.Entry> entries;
  private final Optional<LedgerPlace> own;
  private final Optional<LedgerPlace> others;
  private final Instant marked;

  private CopyMarks(
      List<Ledger.Entry> entries,
      Optional<LedgerPlace> own,
      Optional<LedgerPlace> others,
      Instant marked) {
    this.entries = entries;
    this.own = own;
    this.others = others;
    this.marked = marked;
  }

  /**
   * Reads the ledger of a copy.
   *
   * @param otherName the name of the other copy
   */
  public static CopyMarks of(Copy copy, String otherName, Capture base)
      throws Refusal, IOException {
    return new CopyMarks(
        copy.ledger(),
        base.inLedger(copy.name()),
        base.inLedger(otherName),
        Instant.parse(base.marked()));
  }

  /** How a copy's ledger stands to a base. */
  public enum Standing {
    /** It has the base, or nobody wrote it down there. */
    FITS,
    /** It is the other copy's: this one was recreated from it. */
    OTHERS,
    /** It is this copy's, but older than the base. */
    OLDER,
    /** It knows of neither. */
    UNKNOWN
  }

  /**
   * Where a base stands that is going to be recorded now, by the copies' names. Two copies that
   * have one ledger are one copy twice; staging gets a new name then.
   */
  public static Map<String, LedgerPlace> now(Copy one, Copy other) throws Refusal {
    List<Ledger.Entry> ofOne = one.ledger();
    List<Ledger.Entry> ofOther = other.ledger();
    Optional<String> known = id(ofOne);
    Optional<String> otherKnown = id(ofOther);
    boolean same = known.isPresent() && known.equals(otherKnown);
    boolean oneIsLive = one.name().equals(ComparisonRun.LIVE);
    Map<String, LedgerPlace> places = new LinkedHashMap<>();
    places.put(one.name(), place(same && !oneIsLive ? Optional.empty() : known, ofOne));
    places.put(other.name(), place(same && oneIsLive ? Optional.empty() : otherKnown, ofOther));
    return places;
  }

  private static LedgerPlace place(Optional<String> id, List<Ledger.Entry> entries) {
    return new LedgerPlace(id.orElseGet(CopyMarks::newId), null, last(entries));
  }

  private static long last(List<Ledger.Entry> entries) {
    return entries.stream().mapToLong(Ledger.Entry::sequence).max().orElse(0);
  }

  private static String newId() {
    byte[] id = new byte[ID_BYTES];
    new SecureRandom().nextBytes(id);
    return HexFormat.of().formatHex(id);
  }

  private static Optional<String> id(List<Ledger.Entry> entries) {
    return marks(entries).reduce((earlier, later) -> later).map(Ledger.Entry::changeSet);
  }

  private static Stream<Ledger.Entry> marks(List<Ledger.Entry> entries) {
    return entries.stream().filter(entry -> entry.kind().equals(KIND));
  }

  /**
   * Writes the place of a base into the ledger of its copy. Only live gets a ledger for that: where
   * a site is built, its own tools may stumble over a table that they did not make. A file is not
   * written to.
   *
   * @param at the time to write down, as an ISO 8601 instant
   * @return the place with the entry's name, or without if there is no ledger
   * @throws Refusal if the ledger can't be written to
   */
  public static LedgerPlace write(Copy copy, LedgerPlace place, String at) throws Refusal {
    if (copy.spec().origin().isPresent()
        || !copy.name().equals(ComparisonRun.LIVE) && !copy.hasLedger()) {
      return place;
    }
    String mark = KIND + "-" + UUID.randomUUID();
    try (Claim claim = copy.claim();
        WriteTransaction transaction = claim.begin()) {
      Ledger ledger = transaction.ledger();
      ledger.write(
          new Ledger.Entry(mark, place.copy(), KIND, at, ledger.next(0), Optional.empty()));
      transaction.commit();
    } catch (SQLException e) {
      throw new Refusal(
          Refusal.Kind.PROTECTED,
          copy.name() + " refused to note the base: " + FailureWords.of(e) + ".",
          "Grant the right to write to its table weftex_ledger.",
          e);
    }
    return new LedgerPlace(place.copy(), mark, place.sequence());
  }

  /** The applies and undos of the copy that came after the base, in their order. */
  public List<Ledger.Entry> since() {
    boolean bySequence =
        own.isPresent()
            && entries.stream().anyMatch(entry -> entry.sequence() > 0)
            && (own.get().mark() == null
                ? last(entries) >= own.get().sequence()
                : has(own.get().mark()));
    boolean[] counts = {false};
    return entries.stream()
        .filter(
            entry -> {
              // The ledger has its own order: whatever comes after what counts, counts, even if
              // the clock went back in between.
              counts[0] |=
                  bySequence
                      ? entry.sequence() > own.get().sequence()
                      : !Instant.parse(entry.writtenAt()).isBefore(marked);
              return counts[0] && !entry.kind().equals(KIND);
            })
        .toList();
  }

  private boolean has(String mark) {
    return entries.stream().anyMatch(entry -> entry.receipt().equals(mark));
  }

  /** How the ledger stands to the base. */
  public Standing standing() {
    if (isHere(own)) {
      return Standing.FITS;
    }
    if (isHere(others)) {
      return Standing.OTHERS;
    }
    if (own.isEmpty() || own.get().mark() == null) {
      return Standing.FITS;
    }
    boolean older = marks(entries).anyMatch(entry -> entry.changeSet().equals(own.get().copy()));
    return older ? Standing.OLDER : Standing.UNKNOWN;
  }

  /** Whether the copy's own ledger has the base, so that nothing has to be guessed. */
  public boolean isProven() {
    return isHere(own);
  }

  private boolean isHere(Optional<LedgerPlace> place) {
    return place.map(LedgerPlace::mark).filter(this::has).isPresent();
  }

  /**
   * Whether two copies are one: of both the last base was noted in one and the same ledger, as if
   * one had been made anew from the other.
   */
  public static boolean areOne(Copy one, Copy other) throws Refusal {
    Optional<String> known = id(one.ledger());
    return known.isPresent() && known.equals(id(other.ledger()));
  }
}
