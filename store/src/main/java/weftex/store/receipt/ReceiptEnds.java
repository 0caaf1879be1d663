package weftex.store.receipt;

import com.fasterxml.jackson.databind.JsonNode;
import java.io.ByteArrayInputStream;
import java.io.IOException;
import java.io.InputStream;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import weftex.core.changeset.JsonLines;
import weftex.core.changeset.LineParts;
import weftex.core.signoff.Approval;
import weftex.store.Refusal;

/** The header and the end of a receipt, read without the rows between, which are many. */
final class ReceiptEnds {
  private static final int TAIL_BYTES = 2048;
  private static final String WRITTEN = "{\"written\"";

  private ReceiptEnds() {}

  /**
   * Reads it.
   *
   * @return empty if the process was killed before it had written anything
   * @throws Refusal if it is of a newer format
   */
  static Optional<Receipt> read(Path file, ReceiptFile lines) throws IOException, Refusal {
    Optional<Receipt> receipt;
    try (InputStream in = lines.lines()) {
      receipt = header(file, new JsonLines.Lines(in).next());
    }
    if (receipt.isEmpty()) {
      return receipt;
    }
    Receipt known = receipt.get();
    JsonLines.Lines last = new JsonLines.Lines(new ByteArrayInputStream(lines.tail(TAIL_BYTES)));
    // It may be cut off in front; those that tell of the ending are short.
    last.next();
    while (!last.atEnd()) {
      known = withEnding(known, last.next());
    }
    return Optional.of(known);
  }

  /** Whether a line is none of a row, of which there are many before the end. */
  private static boolean tellsOfTheEnd(byte[] line) {
    return ReceiptFront.begins(line, WRITTEN)
        || ReceiptWriter.ENDINGS.values().stream()
            .anyMatch(name -> ReceiptFront.begins(line, "{\"" + name + "\""));
  }

  private static Receipt withEnding(Receipt known, byte[] line) {
    if (!tellsOfTheEnd(line)) {
      return known;
    }
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
    for (Receipt.Outcome outcome :
        List.of(Receipt.Outcome.COMMITTED, Receipt.Outcome.ROLLED_BACK)) {
      JsonNode end = node.path(ReceiptWriter.ENDINGS.get(outcome));
      if (!end.isMissingNode()) {
        boolean itself = !end.path(ReceiptWriter.FOUND).asBoolean();
        return known.ended(outcome, Optional.of(end.path("at").asText()).filter(at -> itself));
      }
    }
    return known;
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
    return receipt(node, approvals);
  }

  private static Optional<Receipt> receipt(JsonNode node, List<Approval> approvals) throws Refusal {
    return Optional.of(
        new Receipt(
            node.path("id").asText(),
            new Receipt.Kind(
                node.path("kind").asText(),
                Optional.ofNullable(node.get("undoes")).map(JsonNode::asText),
                node.path("part").asBoolean()),
            new Receipt.Way(
                node.path("site").asText(),
                node.path("from").asText(),
                node.path("into").asText(),
                node.path("target").asText()),
            new Receipt.Changes(
                node.path("changeSet").asText(), node.path("file").asText(), approvals),
            new Receipt.Author(
                node.path("by").asText(), node.path("at").asText(), node.path("tool").asText()),
            LineParts.tables(node.path("tables")),
            Receipt.Ending.NONE));
  }
}
