package weftex.cli.workplace;

import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import java.io.IOException;
import java.math.BigInteger;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.LinkedHashMap;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import weftex.cli.page.Progress;
import weftex.cli.session.Session;
import weftex.store.Refusal;
import weftex.store.capture.Bases;
import weftex.store.capture.Capture;
import weftex.store.capture.LedgerPlace;
import weftex.store.compare.CopyMarks;
import weftex.store.compare.Recording;
import weftex.store.copy.Copy;
import weftex.store.dump.Restorer;
import weftex.store.file.PairFolders;
import weftex.store.state.Files0600;

/**
 * A copy that was made anew from the other one has a base of its own, and a note of that: so that a
 * run that ends in between is noticed, and the base goes back with the tables.
 */
public final class Remade {
  private static final ObjectMapper JSON = new ObjectMapper();
  private static final String BASE = "base";

  private final Workplace place;
  private final String copy;
  private final Path note;

  public Remade(Workplace place, String copy) {
    this.place = place;
    this.copy = copy;
    this.note = place.state().remade(copy);
  }

  /** Says that it is about to be done; nothing is set aside then. */
  public void begin() throws IOException {
    write("");
  }

  private void write(String base) throws IOException {
    byte[] json = JSON.writeValueAsBytes(Map.of("copy", copy, BASE, base));
    Files0600.whole(note, out -> out.write(json));
  }

  /**
   * Records what the copy is now as the base.
   *
   * @param ledgers where the ledgers stood before the other copy was read
   * @param except rows that only the new copy has, by the table's name without prefix
   * @return how many rows the base has
   */
  public long record(
      Session session,
      Copy before,
      Map<String, LedgerPlace> ledgers,
      Map<String, Set<BigInteger>> except)
      throws Refusal, IOException {
    Copy now = before.again();
    Copy other = Copy.reach(place.pair().other(copy));
    Recording recording = place.recording(copy);
    Bases bases = place.bases();
    String marked = session.now();
    // The copy's own ledger went with its rows; the other one's is where it was.
    Map<String, LedgerPlace> places = new LinkedHashMap<>(CopyMarks.now(now, other));
    places.put(other.name(), ledgers.get(other.name()));
    try {
      Recording.Recorded recorded;
      try (PairFolders folders = Folders.open(place, false);
          Progress progress = Progress.start(session, "recording " + copy, now.roughRows())) {
        recorded =
            recording.record(
                now, other, bases, marked, new Recording.Scope(except, folders, false), progress);
      }
      place.accept(places, marked, now, other);
      write(marked);
      return recorded.rows();
    } finally {
      bases.discard();
    }
  }

  /** Nothing is to be remembered any more. */
  public void forget() throws IOException {
    Files.deleteIfExists(note);
  }

  private Optional<String> base() throws IOException {
    if (!Files.exists(note)) {
      return Optional.empty();
    }
    JsonNode said = JSON.readTree(Files.readAllBytes(note));
    return Optional.of(said.path(BASE).asText());
  }

  /** The tables before are back: so is the base before, unless another one was recorded since. */
  public Optional<Bases.Earlier> back() throws Refusal, IOException {
    Optional<String> base = base();
    forget();
    Bases bases = place.bases();
    boolean inForce =
        base.isPresent()
            && bases.isRecorded()
            && base.get().equals(Capture.markedIn(bases.current()));
    return inForce ? bases.back() : Optional.empty();
  }

  /**
   * Looks whether a run ended between making the copy anew and recording its base.
   *
   * @throws Refusal if so: by the old base every row would be taken for another
   */
  public void check() throws Refusal, IOException {
    if (base().filter(String::isEmpty).isEmpty()) {
      return;
    }
    try (Restorer restorer = Restorer.of(place.pair().copy(copy))) {
      if (!restorer.hasAside()) {
        forget();
        return;
      }
    }
    String other = place.pair().other(copy).name();
    throw new Refusal(
        Refusal.Kind.PROTECTED,
        copy
            + " was being made anew from "
            + other
            + " when the run ended, and no base was recorded of it. Nothing was changed.",
        "Run 'weftex restore "
            + copy
            + " "
            + other
            + "' once more, or return with 'weftex restore "
            + copy
            + " --back'.");
  }
}
