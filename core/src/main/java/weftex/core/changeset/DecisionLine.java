package weftex.core.changeset;

import java.io.IOException;
import weftex.core.signoff.Approval;
import weftex.core.signoff.Decision;
import weftex.core.signoff.DraftSignature;
import weftex.core.signoff.Withdrawal;

/** Lines that are appended to a change set: what people decide, take back, approve and sign. */
public final class DecisionLine {
  private DecisionLine() {}

  /** The line of a decision. */
  public static byte[] of(Decision decision) throws IOException {
    return JsonLines.line(
        json -> {
          json.writeObjectFieldStart("decision");
          json.writeArrayFieldStart("changes");
          for (int id : decision.changes()) {
            json.writeNumber(id);
          }
          json.writeEndArray();
          if (decision.column().isPresent()) {
            json.writeStringField("column", decision.column().get());
          }
          if (decision.passage().isPresent()) {
            json.writeNumberField("passage", decision.passage().get().number());
            json.writeNumberField("of", decision.passage().get().of());
          }
          json.writeStringField("answer", decision.answer().label());
          if (decision.value().isPresent()) {
            json.writeFieldName("value");
            JsonValues.write(json, decision.value().get());
          }
          json.writeStringField("by", decision.by());
          json.writeStringField("at", decision.at());
          json.writeStringField("why", decision.why());
          json.writeEndObject();
        });
  }

  /** The line of a withdrawal. */
  public static byte[] of(Withdrawal withdrawal) throws IOException {
    return JsonLines.line(
        json -> {
          json.writeObjectFieldStart("withdrawn");
          json.writeNumberField("decision", withdrawal.decision());
          json.writeStringField("by", withdrawal.by());
          json.writeStringField("at", withdrawal.at());
          json.writeEndObject();
        });
  }

  /** The line of an approval. */
  public static byte[] of(Approval approval) throws IOException {
    return JsonLines.line(
        json -> {
          json.writeObjectFieldStart("approval");
          json.writeStringField("by", approval.by());
          json.writeStringField("at", approval.at());
          json.writeStringField("sha256", approval.sha256());
          json.writeStringField("seal", approval.seal());
          if (approval.signature().isPresent()) {
            json.writeStringField("signature", approval.signature().get());
          }
          json.writeEndObject();
        });
  }

  /** The line by which the drafter signs, which stands before all approvals. */
  public static byte[] of(DraftSignature drafter) throws IOException {
    return JsonLines.line(
        json -> {
          json.writeObjectFieldStart("signed");
          json.writeStringField("by", drafter.by());
          json.writeStringField("at", drafter.at());
          json.writeStringField("signature", drafter.signature());
          json.writeEndObject();
        });
  }
}
