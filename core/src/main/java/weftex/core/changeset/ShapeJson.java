package weftex.core.changeset;

import com.fasterxml.jackson.core.JsonGenerator;
import com.fasterxml.jackson.databind.JsonNode;
import java.io.IOException;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.Set;
import weftex.core.schema.Collated;
import weftex.core.schema.ColumnShape;
import weftex.core.schema.IndexShape;
import weftex.core.schema.ReferenceShape;
import weftex.core.schema.TableOptions;
import weftex.core.schema.TableShape;

/**
 * Shapes as JSON. Whatever is not said has its member left out; a member that is not known is
 * refused, so that nothing in a file goes unread.
 */
final class ShapeJson {
  private ShapeJson() {}

  /** Writes a table as members of the current object. */
  public static void write(JsonGenerator json, TableShape table) throws IOException {
    json.writeArrayFieldStart("columns");
    for (ColumnShape column : table.columns()) {
      json.writeStartObject();
      write(json, column);
      json.writeEndObject();
    }
    json.writeEndArray();
    writeIndexes(json, table.indexes());
    if (!table.references().isEmpty()) {
      json.writeArrayFieldStart("references");
      for (ReferenceShape reference : table.references()) {
        json.writeStartObject();
        strings(json, "columns", reference.columns());
        json.writeStringField("table", reference.table());
        strings(json, "targets", reference.targets());
        json.writeStringField("onDelete", label(reference.onDelete()));
        json.writeStringField("onUpdate", label(reference.onUpdate()));
        json.writeEndObject();
      }
      json.writeEndArray();
    }
    optional(json, "engine", table.options().engine());
    optional(json, "charset", table.options().collated().charset());
    optional(json, "collation", table.options().collated().collation());
    optional(json, "rowFormat", table.options().rowFormat());
    text(json, "comment", table.options().comment());
    flag(json, "versioned", table.options().versioned());
    flag(json, "withoutRowNumber", table.options().withoutRowNumber());
  }

  /** Writes a column as members of the current object. */
  public static void write(JsonGenerator json, ColumnShape column) throws IOException {
    json.writeStringField("name", column.name());
    json.writeStringField("type", column.type());
    if (!column.values().isEmpty()) {
      strings(json, "values", column.values());
    }
    flag(json, "nullable", column.nullable());
    if (column.standard().isPresent()) {
      if (column.standard().get() instanceof ColumnShape.Standard.Literal literal) {
        json.writeFieldName("default");
        JsonValues.write(json, literal.value());
      } else if (column.standard().get() instanceof ColumnShape.Standard.Now now) {
        json.writeNumberField("defaultNow", now.fraction());
      }
    }
    flag(json, "counts", column.counts());
    if (column.touched().isPresent()) {
      json.writeNumberField("touched", column.touched().get());
    }
    optional(json, "charset", column.collated().charset());
    optional(json, "collation", column.collated().collation());
    text(json, "comment", column.comment());
    flag(json, "json", column.isJson());
  }

  /** Writes indexes as the member {@code indexes}. */
  public static void writeIndexes(JsonGenerator json, List<IndexShape> indexes) throws IOException {
    json.writeArrayFieldStart("indexes");
    for (IndexShape index : indexes) {
      json.writeStartObject();
      text(json, "name", index.name());
      json.writeStringField("kind", label(index.kind()));
      json.writeArrayFieldStart("parts");
      for (IndexShape.Part part : index.parts()) {
        json.writeStartObject();
        json.writeStringField("column", part.column());
        if (part.length().isPresent()) {
          json.writeNumberField("length", part.length().get());
        }
        flag(json, "descending", part.descending());
        optional(json, "collation", part.collation());
        json.writeEndObject();
      }
      json.writeEndArray();
      json.writeEndObject();
    }
    json.writeEndArray();
  }

  /**
   * Reads a table.
   *
   * @throws IllegalArgumentException if it is none, or has a member that is not known
   */
  public static TableShape table(JsonNode node) throws IOException {
    known(
        node,
        Set.of(
            "columns",
            "indexes",
            "references",
            "engine",
            "charset",
            "collation",
            "rowFormat",
            "comment",
            "versioned",
            "withoutRowNumber"));
    List<ColumnShape> columns = new ArrayList<>();
    for (JsonNode column : node.path("columns")) {
      columns.add(column(column));
    }
    return new TableShape(
        columns,
        indexes(node.path("indexes")),
        references(node.path("references")),
        new TableOptions(
            optional(node, "engine"),
            collated(node),
            optional(node, "rowFormat"),
            node.path("comment").asText(),
            node.path("versioned").asBoolean(),
            node.path("withoutRowNumber").asBoolean()));
  }

  private static List<ReferenceShape> references(JsonNode node) {
    List<ReferenceShape> references = new ArrayList<>();
    for (JsonNode reference : node) {
      known(reference, Set.of("columns", "table", "targets", "onDelete", "onUpdate"));
      references.add(
          new ReferenceShape(
              strings(reference.path("columns")),
              reference.path("table").asText(),
              strings(reference.path("targets")),
              constant(ReferenceShape.Consequence.class, reference.path("onDelete")),
              constant(ReferenceShape.Consequence.class, reference.path("onUpdate"))));
    }
    return references;
  }

  private static Collated collated(JsonNode node) {
    return new Collated(optional(node, "charset"), optional(node, "collation"));
  }

  /**
   * Reads a column.
   *
   * @throws IllegalArgumentException if it is none, or has a member that is not known
   */
  public static ColumnShape column(JsonNode node) throws IOException {
    known(
        node,
        Set.of(
            "name",
            "type",
            "values",
            "nullable",
            "default",
            "defaultNow",
            "counts",
            "touched",
            "charset",
            "collation",
            "comment",
            "json"));
    Optional<ColumnShape.Standard> standard = Optional.empty();
    if (node.has("default")) {
      standard =
          Optional.of(new ColumnShape.Standard.Literal(JsonValues.read(node.get("default"))));
    } else if (node.has("defaultNow")) {
      standard = Optional.of(new ColumnShape.Standard.Now(node.get("defaultNow").asInt(-1)));
    }
    return new ColumnShape(
        node.path("name").asText(),
        node.path("type").asText(),
        strings(node.path("values")),
        node.path("nullable").asBoolean(),
        standard,
        node.path("counts").asBoolean(),
        node.has("touched") ? Optional.of(node.get("touched").asInt(-1)) : Optional.empty(),
        collated(node),
        node.path("comment").asText(),
        node.path("json").asBoolean());
  }

  /** Reads indexes. */
  public static List<IndexShape> indexes(JsonNode node) {
    List<IndexShape> indexes = new ArrayList<>();
    for (JsonNode index : node) {
      known(index, Set.of("name", "kind", "parts"));
      List<IndexShape.Part> parts = new ArrayList<>();
      for (JsonNode part : index.path("parts")) {
        known(part, Set.of("column", "length", "descending", "collation"));
        parts.add(
            new IndexShape.Part(
                part.path("column").asText(),
                part.has("length") ? Optional.of(part.get("length").asInt()) : Optional.empty(),
                part.path("descending").asBoolean(),
                optional(part, "collation")));
      }
      indexes.add(
          new IndexShape(
              index.path("name").asText(),
              constant(IndexShape.Kind.class, index.path("kind")),
              parts));
    }
    return indexes;
  }

  private static void known(JsonNode node, Set<String> members) {
    node.fieldNames()
        .forEachRemaining(
            name -> {
              if (!members.contains(name)) {
                throw new IllegalArgumentException("'" + name + "' is not known here");
              }
            });
  }

  private static <E extends Enum<E>> E constant(Class<E> type, JsonNode node) {
    return Enum.valueOf(type, node.asText().toUpperCase(Locale.ROOT).replace('-', '_'));
  }

  private static String label(Enum<?> constant) {
    return constant.name().toLowerCase(Locale.ROOT).replace('_', '-');
  }

  private static Optional<String> optional(JsonNode node, String member) {
    return node.has(member) ? Optional.of(node.get(member).asText()) : Optional.empty();
  }

  private static List<String> strings(JsonNode node) {
    List<String> strings = new ArrayList<>();
    node.forEach(element -> strings.add(element.asText()));
    return strings;
  }

  private static void optional(JsonGenerator json, String member, Optional<String> value)
      throws IOException {
    if (value.isPresent()) {
      json.writeStringField(member, value.get());
    }
  }

  private static void text(JsonGenerator json, String member, String value) throws IOException {
    if (!value.isEmpty()) {
      json.writeStringField(member, value);
    }
  }

  private static void flag(JsonGenerator json, String member, boolean value) throws IOException {
    if (value) {
      json.writeBooleanField(member, true);
    }
  }

  private static void strings(JsonGenerator json, String member, List<String> values)
      throws IOException {
    json.writeArrayFieldStart(member);
    for (String value : values) {
      json.writeString(value);
    }
    json.writeEndArray();
  }
}
