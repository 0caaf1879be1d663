package weftex.core.changeset;

import com.fasterxml.jackson.core.JsonGenerator;
import com.fasterxml.jackson.databind.JsonNode;
import java.io.IOException;
import java.util.ArrayList;
import java.util.List;
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
        ShapeMembers.strings(json, "columns", reference.columns());
        json.writeStringField("table", reference.table());
        ShapeMembers.strings(json, "targets", reference.targets());
        json.writeStringField("onDelete", ShapeMembers.label(reference.onDelete()));
        json.writeStringField("onUpdate", ShapeMembers.label(reference.onUpdate()));
        json.writeEndObject();
      }
      json.writeEndArray();
    }
    ShapeMembers.optional(json, "engine", table.options().engine());
    ShapeMembers.optional(json, "charset", table.options().collated().charset());
    ShapeMembers.optional(json, "collation", table.options().collated().collation());
    ShapeMembers.optional(json, "rowFormat", table.options().rowFormat());
    ShapeMembers.text(json, "comment", table.options().comment());
    ShapeMembers.flag(json, "versioned", table.options().versioned());
    ShapeMembers.flag(json, "withoutRowNumber", table.options().withoutRowNumber());
  }

  /** Writes a column as members of the current object. */
  public static void write(JsonGenerator json, ColumnShape column) throws IOException {
    json.writeStringField("name", column.name());
    json.writeStringField("type", column.type());
    if (!column.values().isEmpty()) {
      ShapeMembers.strings(json, "values", column.values());
    }
    ShapeMembers.flag(json, "nullable", column.nullable());
    if (column.standard().isPresent()) {
      if (column.standard().get() instanceof ColumnShape.Standard.Literal literal) {
        json.writeFieldName("default");
        JsonValues.write(json, literal.value());
      } else if (column.standard().get() instanceof ColumnShape.Standard.Now now) {
        json.writeNumberField("defaultNow", now.fraction());
      }
    }
    ShapeMembers.flag(json, "counts", column.counts());
    if (column.touched().isPresent()) {
      json.writeNumberField("touched", column.touched().get());
    }
    ShapeMembers.optional(json, "charset", column.collated().charset());
    ShapeMembers.optional(json, "collation", column.collated().collation());
    ShapeMembers.text(json, "comment", column.comment());
    ShapeMembers.flag(json, "json", column.isJson());
  }

  /** Writes indexes as the member {@code indexes}. */
  public static void writeIndexes(JsonGenerator json, List<IndexShape> indexes) throws IOException {
    json.writeArrayFieldStart("indexes");
    for (IndexShape index : indexes) {
      json.writeStartObject();
      ShapeMembers.text(json, "name", index.name());
      json.writeStringField("kind", ShapeMembers.label(index.kind()));
      json.writeArrayFieldStart("parts");
      for (IndexShape.Part part : index.parts()) {
        json.writeStartObject();
        json.writeStringField("column", part.column());
        if (part.length().isPresent()) {
          json.writeNumberField("length", part.length().get());
        }
        ShapeMembers.flag(json, "descending", part.descending());
        ShapeMembers.optional(json, "collation", part.collation());
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
    ShapeMembers.known(
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
            ShapeMembers.optional(node, "engine"),
            collated(node),
            ShapeMembers.optional(node, "rowFormat"),
            node.path("comment").asText(),
            node.path("versioned").asBoolean(),
            node.path("withoutRowNumber").asBoolean()));
  }

  private static List<ReferenceShape> references(JsonNode node) {
    List<ReferenceShape> references = new ArrayList<>();
    for (JsonNode reference : node) {
      ShapeMembers.known(reference, Set.of("columns", "table", "targets", "onDelete", "onUpdate"));
      references.add(
          new ReferenceShape(
              ShapeMembers.strings(reference.path("columns")),
              reference.path("table").asText(),
              ShapeMembers.strings(reference.path("targets")),
              ShapeMembers.constant(ReferenceShape.Consequence.class, reference.path("onDelete")),
              ShapeMembers.constant(ReferenceShape.Consequence.class, reference.path("onUpdate"))));
    }
    return references;
  }

  private static Collated collated(JsonNode node) {
    return new Collated(
        ShapeMembers.optional(node, "charset"), ShapeMembers.optional(node, "collation"));
  }

  /**
   * Reads a column.
   *
   * @throws IllegalArgumentException if it is none, or has a member that is not known
   */
  public static ColumnShape column(JsonNode node) throws IOException {
    ShapeMembers.known(
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
        ShapeMembers.strings(node.path("values")),
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
      ShapeMembers.known(index, Set.of("name", "kind", "parts"));
      List<IndexShape.Part> parts = new ArrayList<>();
      for (JsonNode part : index.path("parts")) {
        ShapeMembers.known(part, Set.of("column", "length", "descending", "collation"));
        parts.add(
            new IndexShape.Part(
                part.path("column").asText(),
                part.has("length") ? Optional.of(part.get("length").asInt()) : Optional.empty(),
                part.path("descending").asBoolean(),
                ShapeMembers.optional(part, "collation")));
      }
      indexes.add(
          new IndexShape(
              index.path("name").asText(),
              ShapeMembers.constant(IndexShape.Kind.class, index.path("kind")),
              parts));
    }
    return indexes;
  }
}
