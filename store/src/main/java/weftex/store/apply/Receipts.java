package weftex.store.apply;

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
import java.sql.SQLException;
import java.time.Clock;
import java.time.ZoneOffset;
import java.time.format.DateTimeFormatter;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Stream;
import weftex.core.changeset.Approval;
import weftex.core.changeset.ChangeSetReader;
import weftex.core.changeset.JsonLines;
import weftex.core.changeset.SchemaChange;
import weftex.core.row.Value;
import weftex.store.Refusal;
import weftex.store.copy.Copy;
import weftex.store.copy.WriteTransaction;
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

  /** A new id; ids ascend with time. */
  String newId() {
    return ID.format(clock.instant());
  }

  String now() {
    return clock.instant().toString();
  }

  ReceiptWriter begin(Receipt receipt) throws IOException {
    Files0600.createFolder(folder);
    return new ReceiptWriter(file(receipt.id()), receipt);
  }

  Path file(String id) {
    return folder.resolve(id + SUFFIX);
  }

  /** Removes the receipt of a transaction that was rolled back before anything was written. */
  void discard(String id) throws IOException {
    Files.deleteIfExists(file(id));
  }

  /**
   * Takes a row that was touched, as it was before (empty if added) and after (empty if removed).
   */
  public interface TouchedSink {
    void accept(String table, Map<String, Value> before, Map<String, Value> after)
        throws IOException;
  }

  /**
   * Goes through the rows of a receipt, in the order of applying.
   *
   * @param most how many rows at the most
   */
  public void eachTouched(String id, int most, TouchedSink sink) throws IOException {
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

  /** All receipts, oldest first. */
  public List<Receipt> all() throws IOException, Refusal {
    List<Receipt> receipts = new ArrayList<>();
    for (Path file : files()) {
      read(file).ifPresent(receipts::add);
    }
    return receipts;
  }

  private List<Path> files() throws IOException {
    if (!Files.isDirectory(folder)) {
      return List.of();
    }
    try (Stream<Path> files = Files.list(folder)) {
      return files.filter(file -> file.toString().endsWith(SUFFIX)).sorted().toList();
    }
  }

  /**
   * Finds out what became of receipts whose process ended before it could say, and writes it down.
   * New tables and columns that a rolled back apply or a finished undo left are taken away.
   *
   * @return those that were open, with their true ending
   */
  public List<Receipt> settle(Copy target) throws IOException, Refusal {
    List<Receipt> settled = new ArrayList<>();
    for (Receipt receipt : all()) {
      boolean here = receipt.target().equals(target.spec().place());
      if (receipt.outcome() != Receipt.Outcome.UNKNOWN || !here) {
        continue;
      }
      boolean done;
      try (WriteTransaction transaction = target.write()) {
        done = transaction.ledger().has(receipt.id());
      } catch (SQLException e) {
        throw new Refusal(
            Refusal.Kind.UNREACHABLE,
            "An "
                + receipt.kind()
                + " of "
                + receipt.at()
                + " was interrupted, and "
                + target.name()
                + " can't be asked what became of it: "
                + e.getMessage()
                + ".",
            "Nothing was changed by this run; try again.",
            e);
      }
      boolean away = done == receipt.kind().equals("undo");
      SchemaStage.takeAway(away ? schema(receipt.id()) : List.of(), target);
      try (FileChannel channel =
              Files0600.open(
                  file(receipt.id()), StandardOpenOption.WRITE, StandardOpenOption.APPEND);
          OutputStream out = Channels.newOutputStream(channel)) {
        if (!LastLine.isWhole(file(receipt.id()))) {
          out.write('\n');
        }
        ReceiptWriter.end(out, done ? "committed" : "rolledBack", now());
        channel.force(true);
      }
      settled.add(read(file(receipt.id())).orElse(receipt));
    }
    return settled;
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
      return known.ended(
          known.outcome(),
          written.path("adds").asLong(),
          written.path("updates").asLong(),
          written.path("removes").asLong());
    }
    Receipt.Outcome outcome =
        node.has("committed")
            ? Receipt.Outcome.COMMITTED
            : node.has("rolledBack") ? Receipt.Outcome.ROLLED_BACK : known.outcome();
    return known.ended(outcome, known.adds(), known.updates(), known.removes());
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
            a -> approvals.add(new Approval(a.path("by").asText(), a.path("at").asText(), "")));
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
            node.path("by").asText(),
            node.path("at").asText(),
            node.path("tool").asText(),
            approvals,
            ChangeSetReader.readTables(node.path("tables")),
            Receipt.Outcome.UNKNOWN,
            0,
            0,
            0));
  }
}
