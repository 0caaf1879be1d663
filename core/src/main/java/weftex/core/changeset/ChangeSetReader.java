package weftex.core.changeset;

import com.fasterxml.jackson.core.JsonParser;
import com.fasterxml.jackson.core.JsonToken;
import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.node.ObjectNode;
import java.io.IOException;
import java.io.InputStream;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.TreeMap;
import weftex.core.change.Alike;
import weftex.core.change.Change;
import weftex.core.change.ChangeSetHeader;
import weftex.core.change.Outline;
import weftex.core.change.RowChange;
import weftex.core.change.SchemaChange;
import weftex.core.signoff.Approval;
import weftex.core.signoff.Decision;
import weftex.core.signoff.DraftSignature;
import weftex.core.signoff.Withdrawal;

/**
 * Reads a change set line by line, checking that it is whole and as it was drafted. Holds one line
 * at a time.
 */
public final class ChangeSetReader {
  private final Visitor visitor;
  private final LineDigest digest;
  private ChangeSetHeader header;
  private int changes;
  private int alike;
  private boolean drafted;

  /** Whether approvals must have seals. */
  private boolean sealed;

  private String draftHash = "";
  private final List<Decision> decisions = new ArrayList<>();
  private final Map<Integer, Withdrawal> withdrawn = new TreeMap<>();
  private final List<Approval> approvals = new ArrayList<>();
  private final List<Approval> standing = new ArrayList<>();
  private Optional<DraftSignature> drafter = Optional.empty();
  private long line;
  private long offset;

  private ChangeSetReader(Visitor visitor) {
    this.visitor = visitor;
    this.digest = new LineDigest(visitor.wantsProof());
  }

  /** Sees a change set go by. */
  public interface Visitor {
    /** Sees the header, before anything else. */
    default void header(ChangeSetHeader header) throws IOException {}

    /** Whether values are wanted. Without them only outlines are seen, and read much faster. */
    default boolean wantsValues() {
      return true;
    }

    /**
     * Whether it is checked that the file is as it was drafted and approved. Without it the hashes
     * in the contents are empty, and reading takes half the time.
     */
    default boolean wantsProof() {
      return true;
    }

    /**
     * Says where the next change stands.
     *
     * @param offset of its line, in bytes
     * @param length of its line without the line feed
     */
    default void place(long offset, int length) throws IOException {}

    /** Sees one change of the schema; they stand before the changes of rows. */
    default void schema(SchemaChange change) throws IOException {}

    /** Sees one change, in the order of applying, if values are wanted. */
    default void change(RowChange change) throws IOException {}

    /** Sees the outline of one change, in the order of applying, if no values are wanted. */
    default void outline(Outline change) throws IOException {}

    /** Sees a row that both copies have alike; such rows stand behind the changes. */
    default void alike(Alike row) throws IOException {}
  }

  /**
   * Reads a whole change set.
   *
   * @param in closed by the caller
   * @throws ChangeSetProblem if it is not one, is cut short, was altered, or is of a newer format
   */
  public static ChangeSetContents read(InputStream in, Visitor visitor)
      throws IOException, ChangeSetProblem {
    ChangeSetReader reader = new ChangeSetReader(visitor);
    try {
      return visitor.wantsValues() || visitor.wantsProof() ? reader.readAll(in) : reader.glance(in);
    } finally {
      reader.digest.close();
    }
  }

  /**
   * Reads the header alone.
   *
   * @param in closed by the caller
   * @throws ChangeSetProblem if it is not one, or is of a newer format
   */
  public static ChangeSetHeader header(InputStream in) throws IOException, ChangeSetProblem {
    ChangeSetReader reader = new ChangeSetReader(new Visitor() {});
    JsonLines.Lines lines = new JsonLines.Lines(in);
    if (lines.atEnd()) {
      throw reader.nothing();
    }
    reader.takeNext(lines);
    return reader.header;
  }

  private ChangeSetContents readAll(InputStream in) throws IOException, ChangeSetProblem {
    JsonLines.Lines lines = new JsonLines.Lines(in);
    while (!lines.atEnd()) {
      takeNext(lines);
    }
    return contents();
  }

  private ChangeSetContents contents() throws ChangeSetProblem {
    if (header == null) {
      throw nothing();
    }
    if (!drafted) {
      throw problem(ChangeSetProblem.Kind.CUT_SHORT, "the file ends before the last change");
    }
    return new ChangeSetContents(
        header,
        changes,
        alike,
        List.copyOf(decisions),
        Map.copyOf(withdrawn),
        List.copyOf(approvals),
        List.copyOf(standing),
        drafter,
        draftHash,
        digest.soFar());
  }

  /**
   * Reads without values and without proof: as one stream of objects, since nobody asks for the
   * bytes of the lines. What is wrong is told less exactly than by a reading that proves.
   */
  private ChangeSetContents glance(InputStream in) throws IOException, ChangeSetProblem {
    try (JsonParser json = JsonLines.parser(in)) {
      while (json.nextToken() == JsonToken.START_OBJECT) {
        line++;
        long from = json.currentTokenLocation().getByteOffset();
        boolean change = "change".equals(json.nextFieldName()) && header != null && !drafted;
        ObjectNode node = JsonLines.object();
        Optional<Outline> row = change ? ChangeLine.outline(json, node) : Optional.empty();
        int length = (int) (json.currentLocation().getByteOffset() - from);
        if (row.isPresent()) {
          count(row.get().id());
          visitor.place(from, length);
          visitor.outline(row.get());
        } else if (change) {
          takeMembers(node, from, length, "");
        } else {
          takeMembers(JsonLines.tree(json), from, length, "");
        }
      }
    }
    return contents();
  }

  private void takeNext(JsonLines.Lines lines) throws IOException, ChangeSetProblem {
    byte[] bytes = lines.next();
    line++;
    if (!lines.isComplete()) {
      throw problem(
          drafted ? ChangeSetProblem.Kind.TORN : ChangeSetProblem.Kind.CUT_SHORT,
          "the file ends in the middle of this line");
    }
    long from = offset;
    offset += bytes.length + 1L;
    Optional<Change> row = row(bytes);
    if (row.isPresent()) {
      digest.add(bytes);
      count(row.get().id());
      visitor.place(from, bytes.length);
      hand(row.get());
      return;
    }
    JsonNode node;
    try {
      node = JsonLines.parse(bytes);
    } catch (IOException e) {
      throw notALine();
    }
    String hashBefore = node.has("change") || node.has("alike") ? "" : digest.soFar();
    digest.add(bytes);
    takeMembers(node, from, bytes.length, hashBefore);
  }

  private void takeMembers(JsonNode node, long from, int length, String hashBefore)
      throws IOException, ChangeSetProblem {
    if (!node.has("approval")) {
      standing.clear();
    }
    try {
      if (header == null) {
        takeHeader(node);
      } else if (node.has("change") && !drafted) {
        visitor.place(from, length);
        takeChange(node);
      } else if (node.has("alike") && !drafted) {
        takeAlike(node.get("alike"));
      } else if (node.has("drafted") && !drafted) {
        takeDrafted(node.get("drafted"), hashBefore);
      } else if (node.has("signed") && drafted && drafter.isEmpty() && approvals.isEmpty()) {
        takeDrafter(node.get("signed"));
      } else if (node.has("decision") && drafted) {
        decisions.add(LineParts.decision(node.get("decision")));
      } else if (node.has("withdrawn") && drafted) {
        takeWithdrawal(node.get("withdrawn"));
      } else if (node.has("approval") && drafted) {
        takeApproval(node.get("approval"), hashBefore);
      } else {
        throw problem(ChangeSetProblem.Kind.ALTERED, "this line has no place here");
      }
    } catch (IllegalArgumentException | NullPointerException e) {
      throw malformed(e);
    }
  }

  private void takeAlike(JsonNode node) throws IOException {
    alike++;
    if (visitor.wantsValues()) {
      visitor.alike(LineParts.alike(node));
    }
  }

  private void hand(Change change) throws IOException {
    if (change instanceof RowChange whole) {
      visitor.change(whole);
    } else if (change instanceof Outline outline) {
      visitor.outline(outline);
    }
  }

  private Optional<Change> row(byte[] bytes) throws ChangeSetProblem {
    if (header == null || drafted) {
      return Optional.empty();
    }
    try {
      return visitor.wantsValues()
          ? ChangeLine.whole(bytes).map(Change.class::cast)
          : ChangeLine.outline(bytes).map(Change.class::cast);
    } catch (IOException e) {
      throw notALine();
    } catch (IllegalArgumentException | NullPointerException e) {
      throw malformed(e);
    }
  }

  private ChangeSetProblem nothing() {
    return problem(ChangeSetProblem.Kind.NOT_A_CHANGE_SET, "the file is empty");
  }

  private ChangeSetProblem notALine() {
    return problem(
        header == null ? ChangeSetProblem.Kind.NOT_A_CHANGE_SET : ChangeSetProblem.Kind.ALTERED,
        "this is not a line of a change set");
  }

  private ChangeSetProblem malformed(RuntimeException e) {
    return problem(
        ChangeSetProblem.Kind.MALFORMED, "a member is missing or wrong: " + e.getMessage());
  }

  private void takeHeader(JsonNode node) throws IOException, ChangeSetProblem {
    if (!node.path("weftex").asText().equals("change-set")) {
      throw problem(
          ChangeSetProblem.Kind.NOT_A_CHANGE_SET, "this is not the header of a change set");
    }
    int format = node.path("format").asInt();
    if (format < ChangeSetHeader.OLDEST || format > ChangeSetHeader.FORMAT) {
      throw problem(
          ChangeSetProblem.Kind.NEWER_FORMAT,
          "its format is "
              + format
              + ", and this version reads formats "
              + ChangeSetHeader.OLDEST
              + " to "
              + ChangeSetHeader.FORMAT);
    }
    sealed = format > ChangeSetHeader.OLDEST;
    header = LineParts.header(node);
    visitor.header(header);
  }

  private void takeChange(JsonNode node) throws IOException, ChangeSetProblem {
    count(node.get("change").asInt());
    if (node.has("shape") || node.has("fill") || node.has("statements")) {
      visitor.schema(LineParts.schema(node));
    } else {
      RowChange change = ChangeLine.of(node);
      hand(visitor.wantsValues() ? change : change.outline());
    }
  }

  private void count(int id) throws ChangeSetProblem {
    if (id != changes + 1) {
      throw problem(
          ChangeSetProblem.Kind.ALTERED,
          "change " + id + " stands where " + (changes + 1) + " should");
    }
    changes++;
  }

  private void takeDrafted(JsonNode node, String hashBefore) throws ChangeSetProblem {
    drafted = true;
    draftHash = hashBefore;
    if (node.path("changes").asInt() != changes
        || !digest.fits(LineParts.text(node, "sha256"), hashBefore)) {
      throw problem(
          ChangeSetProblem.Kind.ALTERED, "the changes above are not those that were drafted");
    }
  }

  private void takeWithdrawal(JsonNode node) {
    Withdrawal withdrawal = LineParts.withdrawal(node);
    if (withdrawal.decision() < 1 || withdrawal.decision() > decisions.size()) {
      throw new IllegalArgumentException("there is no decision " + withdrawal.decision());
    }
    withdrawn.putIfAbsent(withdrawal.decision(), withdrawal);
  }

  private void takeDrafter(JsonNode node) {
    drafter =
        Optional.of(
            new DraftSignature(
                LineParts.text(node, "by"),
                LineParts.text(node, "at"),
                draftHash,
                LineParts.text(node, "signature")));
  }

  private void takeApproval(JsonNode node, String hashBefore) throws ChangeSetProblem {
    Approval approval = LineParts.approval(node);
    if (!digest.fits(approval.sha256(), hashBefore)) {
      throw problem(
          ChangeSetProblem.Kind.ALTERED,
          "what " + approval.by() + " approved is not what stands above");
    }
    String seal = node.path("seal").asText();
    boolean asGiven = seal.isEmpty() ? !sealed : seal.equals(approval.seal());
    if (!asGiven || approval.by().isBlank()) {
      throw problem(
          ChangeSetProblem.Kind.ALTERED,
          approval.by().isBlank()
              ? "an approval has no name"
              : "the approval of " + approval.by() + " is not as it was given");
    }
    approvals.add(approval);
    standing.add(approval);
  }

  /**
   * Reads the line of one change of a row.
   *
   * @param line without its line feed, as {@link Visitor#place} told where it stands
   */
  public static RowChange change(byte[] line) throws IOException {
    return ChangeLine.whole(line)
        .orElseThrow(() -> new IOException("this is not the line of a change"));
  }

  private ChangeSetProblem problem(ChangeSetProblem.Kind kind, String what) {
    return new ChangeSetProblem(kind, Math.max(line, 1), what);
  }
}
