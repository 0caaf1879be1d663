package weftex.store.receipt;

import com.fasterxml.jackson.databind.JsonNode;
import java.io.BufferedInputStream;
import java.io.IOException;
import java.io.InputStream;
import java.io.OutputStream;
import java.nio.ByteBuffer;
import java.nio.channels.Channels;
import java.nio.channels.FileChannel;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardOpenOption;
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
import java.util.stream.Stream;
import weftex.core.change.Approval;
import weftex.core.change.SchemaChange;
import weftex.core.changeset.ChangeSetReader;
import weftex.core.changeset.JsonLines;
import weftex.store.Refusal;
import weftex.store.changeset.LastLine;
import weftex.store.changeset.TouchedRows;
import weftex.store.state.Files0600;

/** The receipts of a site: one file for each apply and undo. */
public final class Receipts {
  private static final DateTimeFormatter ID =
      DateTimeFormatter.ofPattern("yyyyMMdd-HHmmss-SSS").withZone(ZoneOffset.UTC);
  private static final String SUFFIX = ".jsonl";
  private static final int TAIL_BYTES = 2048;

  private final Path folder;
  private final Clock clock;

  public Receipts(Path folder, Clock clock) {
    this.folder = folder;
    this.clock = clock;
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
    return new ReceiptWriter(file(receipt.id()), receipt);
  }

  public Path file(String id) {
    return folder.resolve(id + SUFFIX);
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
    try (ReceiptRows rows = new ReceiptRows(file(id), most)) {
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
    try (InputStream in = new BufferedInputStream(Files.newInputStream(file(id)), 1 << 13)) {
      JsonLines.Lines lines = new JsonLines.Lines(in);
      lines.next();
      while (!lines.atEnd()) {
        byte[] line = lines.next();
        JsonNode node = lines.isComplete() ? JsonLines.parse(line).get("schema") : null;
        if (node == null) {
          break;
        }
        changes.add(ChangeSetReader.readSchema(node));
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
      read(file).ifPresent(receipts::add);
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

  private List<Path> files() throws IOException {
    if (!Files.isDirectory(folder)) {
      return List.of();
    }
    try (Stream<Path> files = Files.list(folder)) {
      return files.filter(file -> file.toString().endsWith(SUFFIX)).sorted().toList();
    }
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
    boolean whole = LastLine.isWhole(file);
    try (FileChannel channel =
            Files0600.open(file, StandardOpenOption.WRITE, StandardOpenOption.APPEND);
        OutputStream out = Channels.newOutputStream(channel)) {
      if (!whole) {
        out.write('\n');
      }
      ReceiptWriter.end(out, committed ? "committed" : "rolledBack", now());
      channel.force(true);
    }
    return read(file).orElse(receipt);
  }

  /** Reads the header and the end alone: the rows between are many. */
  private static Optional<Receipt> read(Path file) throws IOException, Refusal {
    Optional<Receipt> receipt;
    try (InputStream in = new BufferedInputStream(Files.newInputStream(file), 1 << 13)) {
      receipt = header(file, new JsonLines.Lines(in).next());
    }
    if (receipt.isEmpty()) {
      return receipt;
    }
    Receipt known = receipt.get();
    for (String line : tail(file)) {
      known = withEnding(known, line.getBytes(StandardCharsets.UTF_8));
    }
    return Optional.of(known);
  }

  /** The last whole lines of a file; those that tell of the ending are short. */
  private static List<String> tail(Path file) throws IOException {
    try (FileChannel channel = FileChannel.open(file, StandardOpenOption.READ)) {
      long from = Math.max(0, channel.size() - TAIL_BYTES);
      ByteBuffer bytes = ByteBuffer.allocate((int) (channel.size() - from));
      while (bytes.hasRemaining() && channel.read(bytes, from + bytes.position()) > 0) {
        // Reads on until the end.
      }
      String text = new String(bytes.array(), StandardCharsets.UTF_8);
      return text.substring(text.indexOf('\n') + 1).lines().toList();
    }
  }

  private static Receipt withEnding(Receipt known, byte[] line) {
    JsonNode node;
    try {
      node = JsonLines.parse(line);
    } catch (IOException e) {
      // The last line of a process that was killed while it wrote.
      return known;
    }
    JsonNode written = node.path("written");
    if (!written.isMissingNode()) {
      return known.written(
          written.path("sequence").asLong(),
          written.path("adds").asLong(),
          written.path("updates").asLong(),
          written.path("removes").asLong());
    }
    Receipt.Outcome outcome =
        node.has("committed")
            ? Receipt.Outcome.COMMITTED
            : node.has("rolledBack") ? Receipt.Outcome.ROLLED_BACK : known.outcome();
    return known.ended(outcome);
  }

  private static Optional<Receipt> header(Path file, byte[] line) throws Refusal {
    JsonNode node;
    try {
      node = JsonLines.parse(line);
    } catch (IOException e) {
      // The process was killed before the header was on disk, and so before it touched anything.
      return Optional.empty();
    }
    int format = node.path("format").asInt();
    if (format < 1 || format > ReceiptWriter.FORMAT) {
      throw new Refusal(
          Refusal.Kind.WRONG_INPUT,
          "The receipt "
              + file.getFileName()
              + " has format "
              + format
              + ", and this version reads formats 1 to "
              + ReceiptWriter.FORMAT
              + ". Nothing was changed.",
          "Use the version that wrote it.");
    }
    List<Approval> approvals = new ArrayList<>();
    node.path("approvals")
        .forEach(
            a ->
                approvals.add(
                    new Approval(
                        a.path("by").asText(),
                        a.path("at").asText(),
                        a.path("sha256").asText(),
                        Optional.ofNullable(a.get("signature")).map(JsonNode::asText))));
    return Optional.of(
        new Receipt(
            node.path("id").asText(),
            node.path("kind").asText(),
            node.path("site").asText(),
            node.path("from").asText(),
            node.path("into").asText(),
            node.path("target").asText(),
            node.path("changeSet").asText(),
            node.path("file").asText(),
            Optional.ofNullable(node.get("undoes")).map(JsonNode::asText),
            node.path("part").asBoolean(),
            node.path("by").asText(),
            node.path("at").asText(),
            node.path("tool").asText(),
            approvals,
            ChangeSetReader.readTables(node.path("tables")),
            Receipt.Outcome.UNKNOWN,
            0,
            0,
            0,
            0));
  }
}
