package weftex.core.changeset;

import com.fasterxml.jackson.core.JsonGenerator;
import java.io.IOException;
import java.util.Map;
import weftex.core.change.RowChange;
import weftex.core.change.Ties;
import weftex.core.change.Trace;

/** Writes where a change comes from, and what goes with it. */
final class TraceJson {

  private TraceJson() {}

  /** What it needs, and what hangs on it. */
  static void writeTies(JsonGenerator json, RowChange change) throws IOException {
    if (!change.needs().isEmpty()) {
      json.writeArrayFieldStart("needs");
      for (Ties.Need need : change.needs()) {
        json.writeStartObject();
        json.writeNumberField("change", need.change());
        json.writeStringField("else", need.orElse().label());
        ChangeSetWriter.strings(json, "columns", need.columns());
        json.writeEndObject();
      }
      json.writeEndArray();
    }
    if (!change.hangers().isEmpty()) {
      json.writeObjectFieldStart("hangers");
      for (Map.Entry<Ties.Hanger, Long> hanger : change.hangers().entrySet()) {
        json.writeNumberField(hanger.getKey().toString(), hanger.getValue());
      }
      json.writeEndObject();
    }
  }

  /** Whether it is offered, and with what it goes. */
  static void writeCompany(JsonGenerator json, RowChange change) throws IOException {
    if (change.offered()) {
      json.writeBooleanField("offered", true);
    }
    if (change.with().isPresent()) {
      json.writeNumberField("with", change.with().get());
    }
    if (!change.withAny().isEmpty()) {
      json.writeArrayFieldStart("withAny");
      for (int other : change.withAny()) {
        json.writeNumber(other);
      }
      json.writeEndArray();
    }
    if (change.alongWith().isPresent()) {
      json.writeNumberField("alongWith", change.alongWith().get());
    }
  }

  static void writeTrace(JsonGenerator json, Trace trace) throws IOException {
    if (!trace.path().isEmpty()) {
      json.writeStringField("path", trace.path());
    }
    writeTouch(json, "onSource", trace.source());
    writeTouch(json, "onTarget", trace.target());
    if (!trace.evidence().isEmpty()) {
      json.writeStringField("evidence", trace.evidence());
    }
  }

  static void writeTouch(JsonGenerator json, String member, Trace.Touch touch) throws IOException {
    if (touch.isKnown()) {
      json.writeObjectFieldStart(member);
      json.writeStringField("by", touch.by());
      json.writeStringField("at", touch.at());
      json.writeEndObject();
    }
  }
}
