package weftex.store.capture;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardCopyOption;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.regex.Pattern;
import java.util.stream.Stream;
import weftex.store.Refusal;
import weftex.store.seal.AtRest;
import weftex.store.state.Files0600;

/**
 * The bases of a pair: the one in force, and the earlier ones, which a new one replaces but does
 * not delete. Whoever changes them holds the claim {@code mark} of the state folder.
 */
public final class Bases {
  private static final Pattern NUMBERED = Pattern.compile("\\d{4,9}");
  private final Path current;
  private final Path next;
  private final Path candidate;
  private final Path earlier;
  private final AtRest atRest;

  /**
   * @param state the folder of all state of the pair
   * @param atRest how bases are kept
   */
  public Bases(Path state, AtRest atRest) {
    this.atRest = atRest;
    this.current = state.resolve("base");
    this.next = state.resolve("base.next");
    this.candidate = state.resolve("base.candidate");
    this.earlier = state.resolve("bases");
  }

  /**
   * A base that was replaced.
   *
   * @param number by which it is kept
   * @param order in which it was recorded
   * @param copy that was recorded
   * @param marked when, as an ISO 8601 instant
   */
  public record Earlier(long number, long order, String copy, String marked) {}

  /** The folder of the base in force; there may be none in it. */
  public Path current() throws IOException {
    // Ended between two renamings, a change of bases is finished by whoever looks next.
    if (!Files.exists(current) && Files.exists(next)) {
      Files.move(next, current, StandardCopyOption.ATOMIC_MOVE);
    }
    return current;
  }

  /** Whether a base is in force. */
  public boolean isRecorded() throws IOException {
    return Capture.isIn(current());
  }

  /** How bases are kept. */
  public AtRest atRest() {
    return atRest;
  }

  /**
   * Opens the base in force.
   *
   * @see Capture#open
   */
  public Capture open(String site) throws IOException, Refusal {
    return Capture.open(current(), site, atRest);
  }

  /** A folder where a base can be recorded that is not in force yet. */
  public Path candidate() {
    return candidate;
  }

  /**
   * Puts the candidate in force, and keeps the one before.
   *
   * @param ledgers where it stands in the ledgers of the copies, by their names
   */
  public void accept(Map<String, LedgerPlace> ledgers) throws IOException {
    // One behind the base that it replaces: what somebody returned from is not before it.
    BasePlace.write(candidate, BasePlace.of(current()).order() + 1, ledgers);
    putInForce(candidate);
  }

  /** Takes the candidate away. */
  public void discard() throws IOException {
    Files0600.delete(candidate);
  }

  /**
   * Puts the base in force that the present one replaced, and keeps the present one.
   *
   * @return empty if there is none
   */
  public Optional<Earlier> back() throws IOException, Refusal {
    if (!Capture.isIn(current())) {
      return Optional.empty();
    }
    Earlier now = described(current, 0);
    Optional<Earlier> before =
        earlier().stream()
            .filter(base -> isBefore(base, now))
            .max(Comparator.comparingLong(Earlier::order).thenComparingLong(Earlier::number));
    if (before.isPresent()) {
      putInForce(folder(before.get().number()));
    }
    return before;
  }

  /** By their order and not by time: a clock may go back. Older versions knew of none. */
  private static boolean isBefore(Earlier base, Earlier now) {
    return now.order() > 0
        ? base.order() < now.order()
        : Instant.parse(base.marked()).isBefore(Instant.parse(now.marked()));
  }

  /** The bases that are kept, in the order in which they were replaced. */
  public List<Earlier> earlier() throws IOException, Refusal {
    List<Earlier> bases = new ArrayList<>();
    for (long number : numbers()) {
      if (Capture.isIn(folder(number))) {
        bases.add(described(folder(number), number));
      }
    }
    return bases;
  }

  private static Earlier described(Path folder, long number) throws IOException, Refusal {
    Capture base = Capture.described(folder);
    return new Earlier(number, BasePlace.of(folder).order(), base.copy(), base.marked());
  }

  private void putInForce(Path base) throws IOException {
    if (Files.exists(next)) {
      // An earlier change ended before it began to count.
      keep(next);
    }
    Files.move(base, next, StandardCopyOption.ATOMIC_MOVE);
    if (Files.exists(current)) {
      keep(current);
    }
    Files.move(next, current, StandardCopyOption.ATOMIC_MOVE);
    Files0600.syncFolder(current.getParent());
  }

  private void keep(Path base) throws IOException {
    Files0600.createFolder(earlier);
    long number = numbers().stream().max(Comparator.naturalOrder()).orElse(0L) + 1;
    Files.move(base, folder(number), StandardCopyOption.ATOMIC_MOVE);
  }

  /** Where an earlier base is. */
  public Path folder(Earlier base) {
    return folder(base.number());
  }

  private Path folder(long number) {
    return earlier.resolve(String.format(Locale.ROOT, "%04d", number));
  }

  private List<Long> numbers() throws IOException {
    if (!Files.isDirectory(earlier)) {
      return List.of();
    }
    try (Stream<Path> all = Files.list(earlier)) {
      return all.map(folder -> folder.getFileName().toString())
          .filter(name -> NUMBERED.matcher(name).matches())
          .map(Long::valueOf)
          .sorted()
          .toList();
    }
  }
}
