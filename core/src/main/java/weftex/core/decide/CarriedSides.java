package weftex.core.decide;

import java.io.IOException;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.Map;
import weftex.core.change.Conflict;
import weftex.core.change.RowChange;
import weftex.core.changeset.ChangeSetWriter;
import weftex.core.changeset.JsonLines;
import weftex.core.changeset.JsonValues;
import weftex.core.row.Value;

/** The sides that a decision was about. */
final class CarriedSides {

  private CarriedSides() {}

  /** What both copies say of each column that is written or in conflict. */
  static Map<String, Value.Digest> sides(RowChange change) throws IOException {
    Map<String, Value> before = new LinkedHashMap<>(change.before());
    Map<String, Value> after = new LinkedHashMap<>(change.after());
    for (Conflict conflict : change.conflicts()) {
      before.putAll(conflict.target());
      after.putAll(conflict.source());
    }
    Map<String, Value.Digest> sides = new HashMap<>();
    for (Map.Entry<String, Value> written : after.entrySet()) {
      Value was = before.getOrDefault(written.getKey(), Value.NULL);
      byte[] both =
          JsonLines.line(
              json -> {
                json.writeFieldName("before");
                JsonValues.write(json, was);
                json.writeFieldName("after");
                JsonValues.write(json, written.getValue());
              });
      sides.put(written.getKey(), Value.Digest.of(both));
    }
    return sides;
  }

  static Value.Digest conflicts(RowChange change) throws IOException {
    return Value.Digest.of(ChangeSetWriter.bytes(change.conflicts()));
  }
}
