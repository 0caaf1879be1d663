package weftex.store.tidy;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import weftex.core.file.FileRows;
import weftex.core.row.Value;
import weftex.store.Refusal;
import weftex.store.capture.Bases;
import weftex.store.capture.Capture;
import weftex.store.file.Aside;
import weftex.store.receipt.Receipt;
import weftex.store.receipt.ReceiptRows;
import weftex.store.receipt.Receipts;
import weftex.store.scratch.PrivateServer;
import weftex.store.state.StateFolder;

/**
 * Finds what of a pair's state nobody needs any more. A receipt is needed as long as a base is kept
 * that it may have moved, as the last apply to a copy, and as long as it does not say how it ended;
 * the newest draft and the base in force always stay.
 */
public final class Leftovers {
  /** Clocks of two machines may differ by so much. */
  private static final Duration DOUBT = Duration.ofDays(1);

  private final StateFolder state;
  private final Bases bases;
  private final Receipts receipts;
  private final Limits limits;
  private final Instant now;

  /**
   * How long things stay.
   *
   * @param days how old they may be
   * @param keep how many of the newest stay however old they are
   */
  public record Limits(int days, int keep) {}

  public Leftovers(StateFolder state, Bases bases, Receipts receipts, Limits limits, Instant now) {
    this.state = state;
    this.bases = bases;
    this.receipts = receipts;
    this.limits = limits;
    this.now = now;
  }

  /** All of them, by kind, oldest first. */
  public List<Leftover> all() throws IOException, Refusal {
    List<Leftover> all = new ArrayList<>();
    old(Leftover.Kind.DRAFT, state.drafts(), limits.keep(), all);
    Optional<Instant> needed = bases(all);
    if (needed.isPresent()) {
      receipts(needed.get().minus(DOUBT), all);
    }
    setAside(all);
    old(Leftover.Kind.FAILURE, files(state.failures(), ".txt"), 0, all);
    temporary(all);
    Path server = state.ownServer();
    if (PrivateServer.isIdle(server) && isOld(modified(server.resolve("users")))) {
      String used = modified(server.resolve("users")).toString();
      all.add(Leftover.of(Leftover.Kind.SERVER, server, used));
    }
    return all;
  }

  private boolean isOld(Instant at) {
    return at.isBefore(now.minus(Duration.ofDays(limits.days())));
  }

  /**
   * Adds files that are old and none of the newest.
   *
   * @param files oldest first
   */
  private void old(Leftover.Kind kind, List<Path> files, int keep, List<Leftover> all)
      throws IOException {
    for (Path file : files.subList(0, Math.max(0, files.size() - keep))) {
      if (isOld(modified(file))) {
        all.add(Leftover.of(kind, file, modified(file).toString()));
      }
    }
  }

  private static List<Path> files(Path folder, String suffix) throws IOException {
    if (!Files.isDirectory(folder)) {
      return List.of();
    }
    try (Stream<Path> files = Files.list(folder)) {
      return files
          .filter(file -> file.toString().endsWith(suffix) && Files.isRegularFile(file))
          .sorted()
          .toList();
    }
  }

  private static Instant modified(Path file) {
    return Instant.ofEpochMilli(file.toFile().lastModified());
  }

  /**
   * Adds the earlier bases that can go.
   *
   * @return since when receipts are needed by a base that stays; empty if no base is recorded, as
   *     nobody can say then
   */
  private Optional<Instant> bases(List<Leftover> all) throws IOException, Refusal {
    if (!bases.isRecorded()) {
      return Optional.empty();
    }
    Instant needed = Instant.parse(Capture.markedIn(bases.current()));
    List<Bases.Earlier> earlier = bases.earlier();
    for (int i = 0; i < earlier.size(); i++) {
      Bases.Earlier base = earlier.get(i);
      boolean newest = i >= earlier.size() - limits.keep();
      Instant marked = Instant.parse(base.marked());
      if (newest || !isOld(marked)) {
        needed = marked.isBefore(needed) ? marked : needed;
      } else {
        all.add(Leftover.of(Leftover.Kind.BASE, bases.folder(base), base.marked()));
      }
    }
    return Optional.of(needed);
  }

  private void receipts(Instant needed, List<Leftover> all) throws IOException, Refusal {
    List<Receipt> known = receipts.all();
    Set<String> stay = new HashSet<>();
    Set<String> targets = new HashSet<>();
    for (int i = known.size() - 1; i >= 0; i--) {
      Receipt receipt = known.get(i);
      Instant at = Instant.parse(receipt.at());
      boolean last =
          receipt.kind().equals("apply")
              && receipt.outcome() == Receipt.Outcome.COMMITTED
              && targets.add(receipt.target());
      boolean newest = i >= known.size() - limits.keep();
      if (last
          || newest
          || !at.isBefore(needed)
          || !isOld(at)
          || receipt.outcome() == Receipt.Outcome.UNKNOWN) {
        stay.add(receipt.id());
        receipt.undoes().ifPresent(stay::add);
      }
    }
    for (Receipt receipt : known) {
      boolean undone = receipt.undoes().filter(stay::contains).isPresent();
      if (!undone && !stay.contains(receipt.id())) {
        all.add(Leftover.of(Leftover.Kind.RECEIPT, receipts.file(receipt.id()), receipt.at()));
      }
    }
  }

  /** Adds contents of files that no receipt which stays could give back. */
  private void setAside(List<Leftover> all) throws IOException, Refusal {
    Set<Path> going = all.stream().map(Leftover::path).collect(Collectors.toSet());
    Set<String> needed = new HashSet<>();
    for (Receipt receipt : receipts.all()) {
      if (!going.contains(receipts.file(receipt.id()))) {
        try (ReceiptRows rows = receipts.rows(receipt.id())) {
          for (ReceiptRows.Touched file : rows.files()) {
            for (Map<String, Value> side : List.of(file.before(), file.after())) {
              FileRows.content(side).ifPresent(content -> needed.add(content.sha256()));
            }
          }
        }
      }
    }
    for (Path file : new Aside(state.asideFiles(), bases.atRest()).all()) {
      if (!needed.contains(file.getFileName().toString()) && isOld(modified(file))) {
        all.add(Leftover.of(Leftover.Kind.ASIDE, file, modified(file).toString()));
      }
    }
  }

  /** What a process left that was killed; its number stands behind the name. */
  private void temporary(List<Leftover> all) throws IOException {
    for (Path file : files(state.temporaries(), "")) {
      String name = file.getFileName().toString();
      String process = name.substring(name.lastIndexOf('-') + 1).replaceFirst("\\..*", "");
      boolean gone =
          process.matches("\\d{1,9}") && ProcessHandle.of(Long.parseLong(process)).isEmpty();
      if (gone && modified(file).isBefore(now.minus(DOUBT))) {
        all.add(Leftover.of(Leftover.Kind.TEMPORARY, file, modified(file).toString()));
      }
    }
  }
}
