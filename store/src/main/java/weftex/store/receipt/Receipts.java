package weftex.store.receipt;

import com.fasterxml.jackson.databind.JsonNode;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.io.InputStream;
import java.io.OutputStream;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.attribute.BasicFileAttributes;
import java.nio.file.attribute.FileTime;
import java.time.Clock;
import java.time.Instant;
import java.time.ZoneOffset;
import java.time.format.DateTimeFormatter;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.concurrent.ConcurrentHashMap;
import java.util.stream.Stream;
import weftex.core.change.SchemaChange;
import weftex.core.changeset.JsonLines;
import weftex.core.changeset.LineParts;
import weftex.store.Refusal;
import weftex.store.changeset.TouchedRows;
import weftex.store.pack.Frames;
import weftex.store.rows.Ledger;
import weftex.store.seal.AtRest;
import weftex.store.state.Files0600;

/** The receipts of a site: one file for each apply and undo. */
public final class Receipts {
  private static final DateTimeFormatter ID =
      DateTimeFormatter.ofPattern("yyyyMMdd-HHmmss-SSS").withZone(ZoneOffset.UTC);

  /** As older versions wrote them. */
  private static final String PLAIN = ".jsonl";

  private static final String PACKED = ".jsonl.zst";
  private static final String SEALED = ".sealed";

  /** What takes the place of what stands behind it. */
  private static final List<String> FORMS = List.of(SEALED, PACKED, PLAIN);

  private final Path folder;
  private final Clock clock;
  private final AtRest atRest;
  private final Frames.Held held = new Frames.Held();

  /** What those say that have ended: they are asked for several times in a run, and are many. */
  private final Map<Version, Receipt> ended = new ConcurrentHashMap<>();

  /** A file as it was when it was read. */
  private record Version(Path file, long size, FileTime modified) {
    private static Version of(Path file) throws IOException {
      BasicFileAttributes attributes = Files.readAttributes(file, BasicFileAttributes.class);
      return new Version(file, attributes.size(), attributes.lastModifiedTime());
    }
  }

  /**
   * @param atRest how they are kept
   */
  public Receipts(Path folder, Clock clock, AtRest atRest) {
    this.folder = folder;
    this.clock = clock;
    this.atRest = atRest;
  }

  /** A new id: the time, and something behind it if a clock that went back gave that before. */
  public String newId() {
    String time = ID.format(clock.instant());
    String id = time;
    for (int next = 2; Files.exists(file(id)); next++) {
      id = time + "-" + next;
    }
    return id;
  }

  public String now() {
    return clock.instant().toString();
  }

  /** The present time. */
  public Instant time() {
    return clock.instant();
  }

  public ReceiptWriter begin(Receipt receipt) throws IOException {
    Files0600.createFolder(folder);
    Path file = folder.resolve(receipt.id() + (atRest.isSealing() ? SEALED : PACKED));
    return new ReceiptWriter(file, receipt, atRest);
  }

  /** The file of a receipt, whether it is there or not. */
  public Path file(String id) {
    return FORMS.stream()
        .map(form -> folder.resolve(id + form))
        .filter(Files::exists)
        .findFirst()
        .orElse(folder.resolve(id + PACKED));
  }

  /** The rows of a receipt. */
  public ReceiptRows rows(String id) throws IOException {
    return new ReceiptRows(open(file(id)));
  }

  /**
   * Goes through a receipt and checks that it is as it was written.
   *
   * @param entry what the target's ledger says of it
   * @return whether the ledger vouches for it; an entry of an older version can't
   * @throws Refusal if the receipt was altered or cut short
   */
  public boolean check(String id, Ledger.Entry entry) throws IOException, Refusal {
    Path file = file(id);
    return seal(id).check(file, entry);
  }

  /**
   * What a receipt says of itself and what it is.
   *
   * @throws Refusal if it was cut short
   */
  public ReceiptSeal seal(String id) throws IOException, Refusal {
    Path file = file(id);
    try (ReceiptFile receipt = open(file)) {
      return ReceiptSeal.of(file, receipt);
    }
  }

  /**
   * The rows of a receipt that is checked while it is read.
   *
   * @param seal takes all lines; what it says of them is asked afterwards
   * @param sink takes the rows, in the order of applying; what it got counts only if the seal holds
   */
  ReceiptRows rows(String id, SealReading seal, ReceiptRows.Sink sink) throws IOException {
    return new ReceiptRows(open(file(id)), seal, sink);
  }

  /** Removes the receipt of a transaction that was rolled back before anything was written. */
  public void discard(String id) throws IOException {
    Files.deleteIfExists(file(id));
  }

  /**
   * Goes through the rows of a receipt, in the order of applying.
   *
   * @param most how many rows at the most
   */
  public void eachTouched(String id, int most, TouchedRows sink) throws IOException {
    try (ReceiptRows rows = new ReceiptRows(open(file(id)), most)) {
      for (int i = 0; i < rows.size(); i++) {
        ReceiptRows.Touched row = rows.get(i);
        sink.accept(row.table(), row.before(), row.after());
      }
    }
  }

  /** The new tables and columns that a receipt speaks of, in the order of making. */
  public List<SchemaChange> schema(String id) throws IOException {
    List<SchemaChange> changes = new ArrayList<>();
    if (!Files.exists(file(id))) {
      return changes;
    }
    try (ReceiptFile receipt = open(file(id));
        InputStream in = receipt.lines()) {
      JsonLines.Lines lines = new JsonLines.Lines(in);
      lines.next();
      while (!lines.atEnd()) {
        byte[] line = lines.next();
        JsonNode node = lines.isComplete() ? JsonLines.parse(line).get("schema") : null;
        if (node == null) {
          break;
        }
        changes.add(LineParts.schema(node));
      }
    }
    return changes;
  }

  /** Tables that applies made on a copy and no undo took back; without prefix. */
  public Set<String> madeTables(String place) throws IOException, Refusal {
    Set<String> made = new HashSet<>();
    for (Receipt receipt : all()) {
      if (receipt.outcome() == Receipt.Outcome.COMMITTED && receipt.target().equals(place)) {
        for (SchemaChange change : schema(receipt.id())) {
          boolean table = change.column().isEmpty();
          if (table && receipt.kind().equals("apply")) {
            made.add(change.table());
          } else if (table) {
            made.remove(change.table());
          }
        }
      }
    }
    return made;
  }

  /**
   * All receipts, oldest first: in the order of the ledger of each target, whatever clocks said.
   */
  public List<Receipt> all() throws IOException, Refusal {
    List<Receipt> receipts = new ArrayList<>();
    for (Path file : files()) {
      ends(file).ifPresent(receipts::add);
    }
    Map<String, List<Integer>> places = new HashMap<>();
    for (int i = 0; i < receipts.size(); i++) {
      Receipt receipt = receipts.get(i);
      if (receipt.outcome() == Receipt.Outcome.COMMITTED && receipt.sequence() > 0) {
        places.computeIfAbsent(receipt.target(), target -> new ArrayList<>()).add(i);
      }
    }
    List<Receipt> ordered = new ArrayList<>(receipts);
    for (List<Integer> of : places.values()) {
      List<Receipt> sorted =
          of.stream()
              .map(receipts::get)
              .sorted(Comparator.comparingLong(Receipt::sequence))
              .toList();
      for (int i = 0; i < of.size(); i++) {
        ordered.set(of.get(i), sorted.get(i));
      }
    }
    return ordered;
  }

  /** The highest place that a receipt has in the order of a copy's ledger; 0 if none has one. */
  public long lastSequence(String place) throws IOException, Refusal {
    return all().stream()
        .filter(receipt -> receipt.target().equals(place))
        .mapToLong(Receipt::sequence)
        .max()
        .orElse(0);
  }

  /** The files of all receipts, by their ids. */
  public List<Path> files() throws IOException {
    if (!Files.isDirectory(folder)) {
      return List.of();
    }
    try (Stream<Path> files = Files.list(folder)) {
      return files
          .filter(file -> id(file).isPresent())
          // One that is being packed or sealed is there twice for a moment.
          .filter(file -> file.equals(file(id(file).get())))
          .sorted(Comparator.comparing(file -> id(file).get()))
          .toList();
    }
  }

  /** The file in which a receipt is kept as it is to be, if it is kept otherwise now. */
  public Optional<Path> wanted(Path file) {
    String form = atRest.isSealing() ? SEALED : PACKED;
    return id(file)
        .filter(id -> !file.toString().endsWith(SEALED))
        .map(id -> file.resolveSibling(id + form))
        .filter(other -> !other.equals(file));
  }

  /** Writes a receipt again as it is to be kept. */
  public void rewrite(Path file, OutputStream into) throws IOException {
    try (ReceiptFile lines = open(file);
        InputStream in = lines.lines();
        OutputStream out = ReceiptFile.writing(into, atRest)) {
      in.transferTo(out);
    }
  }

  private Optional<Receipt> ends(Path file) throws IOException, Refusal {
    Version version = Version.of(file);
    Optional<Receipt> receipt = Optional.ofNullable(ended.get(version));
    if (receipt.isPresent()) {
      return receipt;
    }
    try (ReceiptFile lines = open(file)) {
      receipt = ReceiptEnds.read(file, lines);
    }
    receipt
        .filter(read -> read.outcome() != Receipt.Outcome.UNKNOWN)
        .ifPresent(read -> ended.put(version, read));
    return receipt;
  }

  private ReceiptFile open(Path file) throws IOException {
    return ReceiptFile.open(file, atRest, held);
  }

  private static Optional<String> id(Path file) {
    String name = file.getFileName().toString();
    return FORMS.stream()
        .filter(name::endsWith)
        .findFirst()
        .map(form -> name.substring(0, name.length() - form.length()));
  }

  /** Those of a copy that do not say how they ended. */
  public List<Receipt> open(String place) throws IOException, Refusal {
    return all().stream()
        .filter(receipt -> receipt.target().equals(place))
        .filter(receipt -> receipt.outcome() == Receipt.Outcome.UNKNOWN)
        .toList();
  }

  /**
   * Writes down how a run ended whose process could not.
   *
   * @return the receipt with its ending
   */
  public Receipt end(Receipt receipt, boolean committed) throws IOException, Refusal {
    Path file = file(receipt.id());
    ByteArrayOutputStream line = new ByteArrayOutputStream();
    ReceiptWriter.end(
        line, committed ? Receipt.Outcome.COMMITTED : Receipt.Outcome.ROLLED_BACK, now(), true);
    try (ReceiptFile lines = open(file)) {
      lines.append(line.toByteArray());
    }
    return ends(file).orElse(receipt);
  }
}
