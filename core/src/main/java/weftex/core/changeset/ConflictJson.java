package weftex.core.changeset;

import com.fasterxml.jackson.core.JsonGenerator;
import java.io.IOException;
import java.util.Map;
import weftex.core.change.Conflict;
import weftex.core.row.ColumnValues;
import weftex.core.row.Value;

/** Writes a conflict. */
final class ConflictJson {

  /** Of a value above this many bytes a conflict shows only that it differs. */
  private static final int SHOWN_UP_TO = 1 << 20;

  private ConflictJson() {}

  static void writeConflict(JsonGenerator json, Conflict conflict) throws IOException {
    json.writeStartObject();
    json.writeStringField("kind", conflict.kind().label());
    json.writeBooleanField("binding", conflict.binding());
    ChangeSetWriter.strings(json, "columns", conflict.columns());
    if (!conflict.places().isEmpty()) {
      ChangeSetWriter.strings(json, "places", conflict.places());
    }
    json.writeStringField("reason", conflict.reason());
    JsonValues.write(json, "base", recognisable(conflict.base()));
    JsonValues.write(json, "source", conflict.source());
    JsonValues.write(json, "target", recognisable(conflict.target()));
    if (!conflict.otherwise().isEmpty()) {
      JsonValues.write(json, "otherwise", conflict.otherwise());
    }
    json.writeEndObject();
  }

  /**
   * Values of a conflict that nobody writes: what is too long to be looked at is only recognised.
   */
  static Map<String, Value> recognisable(Map<String, Value> values) {
    ColumnValues.Builder shortened = new ColumnValues.Builder(values.size());
    values.forEach(
        (column, value) -> shortened.add(column, ChangeSetWriter.shorter(value, SHOWN_UP_TO)));
    return shortened.build();
  }
}
