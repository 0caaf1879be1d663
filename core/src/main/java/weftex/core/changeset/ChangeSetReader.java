package weftex.core.changeset;

import com.fasterxml.jackson.databind.JsonNode;
import java.io.IOException;
import java.io.InputStream;
import java.security.MessageDigest;
import java.security.NoSuchAlgorithmException;
import java.util.ArrayList;
import java.util.HexFormat;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import weftex.core.merge.ConflictKind;
import weftex.core.row.RowName;
import weftex.core.row.Value;
import weftex.core.row.ValueKind;

/**
 * Reads a change set line by line, checking that it is whole and as it was drafted. Holds one line
 * at a time.
 */
public final class ChangeSetReader {
  private final Visitor visitor;
  private final MessageDigest digest = sha256();
  private ChangeSetHeader header;
  private int changes;
  private boolean drafted;
  private String draftHash = "";
  private final List<Decision> decisions = new ArrayList<>();
  private final List<Approval> approvals = new ArrayList<>();
  private final List<Approval> standing = new ArrayList<>();
  private long line;

  private ChangeSetReader(Visitor visitor) {
    this.visitor = visitor;
  }

  /** Sees a change set go by. */
  public interface Visitor {
    /** Sees the header, before anything else. */
    default void header(ChangeSetHeader header) throws IOException {}

    /** Sees one change of the schema; they stand before the changes of rows. */
    default void schema(SchemaChange change) throws IOException {}

    /** Sees one change, in the order of applying. */
    default void change(RowChange change) throws IOException {}
  }

  /**
   * What a whole change set is, its changes aside.
   *
   * @param draft SHA-256 of the drafted part: what the change set is known by, whatever is decided
   * @param sha256 of the whole file: what a further approval would sign
   * @param standing the approvals after which nothing was decided; none if the last line is
   *     something else
   */
  public record Contents(
      ChangeSetHeader header,
      int changes,
      List<Decision> decisions,
      List<Approval> approvals,
      List<Approval> standing,
      String draft,
      String sha256) {

    /** Whether somebody approved what stands there now. */
    public boolean isApproved() {
      return !standing.isEmpty();
    }

    /** Who approved what stands there now, each once. */
    public List<String> approvers() {
      return standing.stream().map(Approval::by).distinct().toList();
    }
  }

  /**
   * Reads a whole change set.
   *
   * @param in closed by the caller
   * @throws ChangeSetProblem if it is not one, is cut short, was altered, or is of a newer format
   */
  public static Contents read(InputStream in, Visitor visitor)
      throws IOException, ChangeSetProblem {
    return new ChangeSetReader(visitor).readAll(in);
  }

  static MessageDigest sha256() {
    try {
      return MessageDigest.getInstance("SHA-256");
    } catch (NoSuchAlgorithmException e) {
      throw new IllegalStateException("every Java has SHA-256", e);
    }
  }

  private Contents readAll(InputStream in) throws IOException, ChangeSetProblem {
    JsonLines.Lines lines = new JsonLines.Lines(in);
    while (!lines.atEnd()) {
      byte[] bytes = lines.next();
      line++;
      if (!lines.isComplete()) {
        throw problem(ChangeSetProblem.Kind.CUT_SHORT, "the file ends in the middle of this line");
      }
      take(bytes);
    }
    if (header == null) {
      throw problem(ChangeSetProblem.Kind.NOT_A_CHANGE_SET, "the file is empty");
    }
    if (!drafted) {
      throw problem(ChangeSetProblem.Kind.CUT_SHORT, "the file ends before the last change");
    }
    return new Contents(
        header,
        changes,
        List.copyOf(decisions),
        List.copyOf(approvals),
        List.copyOf(standing),
        draftHash,
        HexFormat.of().formatHex(digest.digest()));
  }

  private void take(byte[] bytes) throws IOException, ChangeSetProblem {
    JsonNode node;
    try {
      node = JsonLines.parse(bytes);
    } catch (IOException e) {
      throw problem(
          header == null ? ChangeSetProblem.Kind.NOT_A_CHANGE_SET : ChangeSetProblem.Kind.ALTERED,
          "this is not a line of a change set");
    }
    String hashBefore = node.has("change") ? "" : hashSoFar();
    digest.update(bytes);
    digest.update((byte) '\n');
    if (!node.has("approval")) {
      standing.clear();
    }
    try {
      if (header == null) {
        takeHeader(node);
      } else if (node.has("change") && !drafted) {
        takeChange(node);
      } else if (node.has("drafted") && !drafted) {
        takeDrafted(node.get("drafted"), hashBefore);
      } else if (node.has("decision") && drafted) {
        decisions.add(decision(node.get("decision")));
      } else if (node.has("approval") && drafted) {
        takeApproval(node.get("approval"), hashBefore);
      } else {
        throw problem(ChangeSetProblem.Kind.ALTERED, "this line has no place here");
      }
    } catch (IllegalArgumentException | NullPointerException e) {
      throw problem(
          ChangeSetProblem.Kind.MALFORMED, "a member is missing or wrong: " + e.getMessage());
    }
  }

  private String hashSoFar() {
    try {
      return HexFormat.of().formatHex(((MessageDigest) digest.clone()).digest());
    } catch (CloneNotSupportedException e) {
      throw new IllegalStateException("SHA-256 can be cloned", e);
    }
  }

  private void takeHeader(JsonNode node) throws IOException, ChangeSetProblem {
    if (!node.path("weftex").asText().equals("change-set")) {
      throw problem(
          ChangeSetProblem.Kind.NOT_A_CHANGE_SET, "this is not the header of a change set");
    }
    int format = node.path("format").asInt();
    if (format != ChangeSetHeader.FORMAT) {
      throw problem(
          ChangeSetProblem.Kind.NEWER_FORMAT,
          "its format is " + format + ", and this version reads format " + ChangeSetHeader.FORMAT);
    }
    header =
        new ChangeSetHeader(
            text(node, "site"),
            text(node, "from"),
            text(node, "into"),
            text(node, "target"),
            Optional.ofNullable(node.get("base")).map(JsonNode::asText),
            text(node, "drafted"),
            text(node, "tool"),
            readTables(node.get("tables")));
    visitor.header(header);
  }

  /** Reads what {@link ChangeSetWriter#writeTables} wrote. */
  public static List<ChangeSetHeader.TableColumns> readTables(JsonNode array) {
    List<ChangeSetHeader.TableColumns> tables = new ArrayList<>();
    for (JsonNode table : array) {
      List<ChangeSetHeader.ColumnType> columns = new ArrayList<>();
      for (JsonNode column : table.get("columns")) {
        columns.add(
            new ChangeSetHeader.ColumnType(
                text(column, "name"),
                ValueKind.valueOf(text(column, "kind").toUpperCase(Locale.ROOT)),
                column.path("scale").asInt(),
                text(column, "type")));
      }
      tables.add(
          new ChangeSetHeader.TableColumns(
              text(table, "name"),
              strings(table.get("key")),
              text(table, "number"),
              columns,
              strings(table.get("others"))));
    }
    return tables;
  }

  private void takeChange(JsonNode node) throws IOException, ChangeSetProblem {
    int id = node.get("change").asInt();
    if (id != changes + 1) {
      throw problem(
          ChangeSetProblem.Kind.ALTERED,
          "change " + id + " stands where " + (changes + 1) + " should");
    }
    changes++;
    if (node.has("statements")) {
      visitor.schema(readSchema(node));
    } else {
      visitor.change(change(node));
    }
  }

  /** Reads what {@link ChangeSetWriter#line(SchemaChange)} wrote. */
  public static SchemaChange readSchema(JsonNode node) {
    return new SchemaChange(
        node.get("change").asInt(),
        text(node, "table"),
        Optional.ofNullable(node.get("column")).map(JsonNode::asText),
        strings(node.get("statements")),
        strings(node.path("indexes")),
        node.path("fill").asText());
  }

  private void takeDrafted(JsonNode node, String hashBefore) throws ChangeSetProblem {
    drafted = true;
    draftHash = hashBefore;
    if (node.path("changes").asInt() != changes || !text(node, "sha256").equals(hashBefore)) {
      throw problem(
          ChangeSetProblem.Kind.ALTERED, "the changes above are not those that were drafted");
    }
  }

  private void takeApproval(JsonNode node, String hashBefore) throws ChangeSetProblem {
    Approval approval = new Approval(text(node, "by"), text(node, "at"), text(node, "sha256"));
    if (!approval.sha256().equals(hashBefore)) {
      throw problem(
          ChangeSetProblem.Kind.ALTERED,
          "what " + approval.by() + " approved is not what stands above");
    }
    approvals.add(approval);
    standing.add(approval);
  }

  private static RowChange change(JsonNode node) {
    List<Conflict> conflicts = new ArrayList<>();
    for (JsonNode conflict : node.path("conflicts")) {
      conflicts.add(
          new Conflict(
              ConflictKind.ofLabel(text(conflict, "kind")),
              conflict.get("binding").asBoolean(),
              strings(conflict.get("columns")),
              JsonValues.readMap(conflict.get("base")),
              JsonValues.readMap(conflict.get("source")),
              JsonValues.readMap(conflict.get("target")),
              conflict.has("otherwise") ? JsonValues.readMap(conflict.get("otherwise")) : Map.of(),
              text(conflict, "reason")));
    }
    List<RowChange.Need> needs = new ArrayList<>();
    for (JsonNode need : node.path("needs")) {
      needs.add(
          new RowChange.Need(
              need.get("change").asInt(),
              ConflictKind.ofLabel(text(need, "else")),
              strings(need.get("columns"))));
    }
    Map<RowChange.Hanger, Long> hangers = new LinkedHashMap<>();
    node.path("hangers")
        .properties()
        .forEach(f -> hangers.put(RowChange.Hanger.parse(f.getKey()), f.getValue().asLong()));
    Map<String, Value> none = Map.of();
    return new RowChange(
        node.get("change").asInt(),
        Action.valueOf(text(node, "do").toUpperCase(Locale.ROOT)),
        text(node, "table"),
        JsonValues.readMap(node.get("key")),
        node.has("before") ? JsonValues.readMap(node.get("before")) : none,
        node.has("after") ? JsonValues.readMap(node.get("after")) : none,
        conflicts,
        node.has("new") ? Optional.of(RowName.parse(text(node, "new"))) : Optional.empty(),
        node.path("renumbered").asBoolean(),
        node.path("offered").asBoolean(),
        Optional.ofNullable(node.get("with")).map(JsonNode::asInt),
        Optional.ofNullable(node.get("alongWith")).map(JsonNode::asInt),
        needs,
        hangers,
        Optional.ofNullable(node.get("item"))
            .map(item -> new Item(text(item, "kind"), text(item, "name"), text(item, "part"))));
  }

  private static Decision decision(JsonNode node) {
    List<Integer> ids = new ArrayList<>();
    node.get("changes").forEach(id -> ids.add(id.asInt()));
    return new Decision(
        ids,
        Optional.ofNullable(node.get("column")).map(JsonNode::asText),
        Answer.valueOf(text(node, "answer").toUpperCase(Locale.ROOT)),
        text(node, "by"),
        text(node, "at"),
        text(node, "why"));
  }

  private static String text(JsonNode node, String member) {
    JsonNode value = node.get(member);
    if (value == null || !value.isTextual()) {
      throw new IllegalArgumentException("'" + member + "' must be a text");
    }
    return value.textValue();
  }

  private static List<String> strings(JsonNode array) {
    List<String> strings = new ArrayList<>();
    array.forEach(item -> strings.add(item.asText()));
    return strings;
  }

  private ChangeSetProblem problem(ChangeSetProblem.Kind kind, String what) {
    return new ChangeSetProblem(kind, Math.max(line, 1), what);
  }
}
