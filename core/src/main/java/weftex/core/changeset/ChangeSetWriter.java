package weftex.core.changeset;

import com.fasterxml.jackson.core.JsonGenerator;
import java.io.IOException;
import java.io.OutputStream;
import java.security.DigestOutputStream;
import java.security.MessageDigest;
import java.util.HashSet;
import java.util.HexFormat;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeMap;
import weftex.core.change.Action;
import weftex.core.change.Alike;
import weftex.core.change.ChangeSetHeader;
import weftex.core.change.Conflict;
import weftex.core.change.Item;
import weftex.core.change.RowChange;
import weftex.core.change.SchemaChange;
import weftex.core.row.ColumnValues;
import weftex.core.row.Value;

/**
 * Writes the drafted part of a change set: header, changes, and a closing line with their number
 * and hash, by which a file that was cut short or edited by hand is known. Decisions and approvals
 * are appended later, line by line.
 */
public final class ChangeSetWriter {
  /** An unchanged value up to this many bytes is written whole, so that a reviewer sees it. */
  public static final int WHOLE_UP_TO = 256;

  private final OutputStream out;
  private final MessageDigest digest = LineDigest.sha256();
  private final OutputStream digested;
  private int changes;

  public ChangeSetWriter(OutputStream out, ChangeSetHeader header) throws IOException {
    this.out = out;
    this.digested = new DigestOutputStream(out, digest);
    JsonLines.write(digested, json -> writeHeader(json, header));
  }

  public void write(RowChange change) throws IOException {
    JsonLines.write(digested, json -> writeChange(json, change));
    changes++;
  }

  public void write(SchemaChange change) throws IOException {
    JsonLines.write(digested, json -> writeSchema(json, change));
    changes++;
  }

  /** Writes a row that both copies have alike; such rows stand behind the changes. */
  public void write(Alike row) throws IOException {
    JsonLines.write(
        digested,
        json -> {
          json.writeObjectFieldStart("alike");
          json.writeStringField("table", row.table());
          JsonValues.write(json, "key", row.key());
          JsonValues.write(json, "values", row.values());
          json.writeEndObject();
        });
  }

  /** The line of a change of the schema. */
  public static byte[] line(SchemaChange change) throws IOException {
    return JsonLines.line(json -> writeSchema(json, change));
  }

  /** Writes a change of the schema as members of the current object. */
  public static void writeSchema(JsonGenerator json, SchemaChange change) throws IOException {
    json.writeNumberField("change", change.id());
    json.writeStringField("do", change.does());
    json.writeStringField("table", change.table());
    if (change.made() instanceof SchemaChange.Made.NewTable table) {
      json.writeObjectFieldStart("shape");
      ShapeJson.write(json, table.shape());
      json.writeEndObject();
    } else if (change.made() instanceof SchemaChange.Made.NewColumn column) {
      json.writeObjectFieldStart("column");
      ShapeJson.write(json, column.shape());
      json.writeEndObject();
      if (column.after().isPresent()) {
        json.writeStringField("after", column.after().get());
      }
      ShapeJson.writeIndexes(json, column.indexes());
      json.writeFieldName("fill");
      JsonValues.write(json, column.fill());
    } else if (change.made() instanceof SchemaChange.Made.Named named) {
      if (named.column().isPresent()) {
        json.writeStringField("column", named.column().get());
      }
      strings(json, "indexes", named.indexes());
      strings(json, "statements", List.of());
    }
  }

  /** The line of a change. */
  public static byte[] line(RowChange change) throws IOException {
    return JsonLines.line(json -> writeChange(json, change));
  }

  /** What conflicts say, as bytes by which they can be compared. */
  public static byte[] bytes(List<Conflict> conflicts) throws IOException {
    return JsonLines.line(
        json -> {
          json.writeArrayFieldStart("conflicts");
          for (Conflict conflict : conflicts) {
            ConflictJson.writeConflict(json, conflict);
          }
          json.writeEndArray();
        });
  }

  /** How many changes were written. */
  public int changes() {
    return changes;
  }

  /** Closes the drafted part; the stream itself stays open. */
  public void finish() throws IOException {
    String hash = HexFormat.of().formatHex(digest.digest());
    out.write(
        JsonLines.line(
            json -> {
              json.writeObjectFieldStart("drafted");
              json.writeNumberField("changes", changes);
              json.writeStringField("sha256", hash);
              json.writeEndObject();
            }));
  }

  private static void writeHeader(JsonGenerator json, ChangeSetHeader header) throws IOException {
    json.writeStringField("weftex", "change-set");
    json.writeNumberField("format", ChangeSetHeader.FORMAT);
    json.writeStringField("site", header.site());
    json.writeStringField("from", header.from());
    json.writeStringField("into", header.into());
    json.writeStringField("target", header.target());
    if (header.base().isPresent()) {
      json.writeStringField("base", header.base().get());
    }
    json.writeStringField("drafted", header.drafted());
    json.writeStringField("tool", header.tool());
    if (!header.selection().isEmpty()) {
      json.writeObjectFieldStart("selection");
      for (Map.Entry<String, List<String>> said : new TreeMap<>(header.selection()).entrySet()) {
        strings(json, said.getKey(), said.getValue());
      }
      json.writeEndObject();
    }
    if (!header.receivers().isEmpty()) {
      strings(json, "sealed-for", header.receivers());
    }
    writeTables(json, header.tables());
  }

  /** Writes the columns of some tables as the member {@code tables} of the current object. */
  public static void writeTables(JsonGenerator json, List<ChangeSetHeader.TableColumns> tables)
      throws IOException {
    json.writeArrayFieldStart("tables");
    for (ChangeSetHeader.TableColumns table : tables) {
      json.writeStartObject();
      json.writeStringField("name", table.name());
      strings(json, "key", table.key());
      json.writeStringField("number", table.number());
      json.writeArrayFieldStart("columns");
      for (ChangeSetHeader.ColumnType column : table.columns()) {
        json.writeStartObject();
        json.writeStringField("name", column.name());
        json.writeStringField("kind", column.kind().name().toLowerCase(java.util.Locale.ROOT));
        if (column.scale() > 0) {
          json.writeNumberField("scale", column.scale());
        }
        json.writeStringField("type", column.type());
        json.writeEndObject();
      }
      json.writeEndArray();
      strings(json, "others", table.others());
      json.writeEndObject();
    }
    json.writeEndArray();
  }

  private static void writeChange(JsonGenerator json, RowChange change) throws IOException {
    json.writeNumberField("change", change.id());
    json.writeStringField("do", change.action().label());
    json.writeStringField("table", change.table());
    JsonValues.write(json, "key", change.key());
    if (change.item().isPresent()) {
      Item item = change.item().get();
      json.writeObjectFieldStart("item");
      json.writeStringField("kind", item.kind());
      json.writeStringField("name", item.name());
      json.writeStringField("part", item.part());
      json.writeEndObject();
    }
    TraceJson.writeTrace(json, change.trace());
    if (change.fresh().isPresent()) {
      json.writeStringField("new", change.fresh().get().toString());
      json.writeBooleanField("renumbered", change.renumbered());
    }
    TraceJson.writeCompany(json, change);
    if (change.action() != Action.ADD) {
      JsonValues.write(json, "before", shortened(change));
    }
    if (change.action() != Action.REMOVE) {
      JsonValues.write(json, "after", change.after());
    }
    if (!change.drafted().isEmpty()) {
      JsonValues.write(json, "drafted", change.drafted());
    }
    if (!change.conflicts().isEmpty()) {
      json.writeArrayFieldStart("conflicts");
      for (Conflict conflict : change.conflicts()) {
        ConflictJson.writeConflict(json, conflict);
      }
      json.writeEndArray();
    }
    TraceJson.writeTies(json, change);
  }

  static void strings(JsonGenerator json, String member, List<String> values) throws IOException {
    json.writeArrayFieldStart(member);
    for (String value : values) {
      json.writeString(value);
    }
    json.writeEndArray();
  }

  /** What a change leaves as it is need not be carried whole. */
  private static Map<String, Value> shortened(RowChange change) {
    Set<String> shown = new HashSet<>(change.after().keySet());
    change.conflicts().forEach(conflict -> shown.addAll(conflict.target().keySet()));
    return change.action() == Action.REMOVE ? change.before() : shortened(change.before(), shown);
  }

  /**
   * The values, with a digest in place of each long one that is not to be shown whole.
   *
   * @param shown columns that stay whole
   */
  public static Map<String, Value> shortened(Map<String, Value> values, Set<String> shown) {
    ColumnValues.Builder shortened = new ColumnValues.Builder(values.size());
    values.forEach(
        (column, value) -> shortened.add(column, shown.contains(column) ? value : shorter(value)));
    return shortened.build();
  }

  static Value shorter(Value value) {
    return shorter(value, WHOLE_UP_TO);
  }

  static Value shorter(Value value, int wholeUpTo) {
    byte[] content =
        value instanceof Value.Text text
            ? text.utf8()
            : value instanceof Value.Binary binary ? binary.bytes() : new byte[0];
    return content.length > wholeUpTo ? Value.Digest.of(content) : value;
  }
}
