package weftex.store.receipt;

import com.fasterxml.jackson.core.JsonGenerator;
import java.io.BufferedOutputStream;
import java.io.IOException;
import java.io.OutputStream;
import java.nio.channels.Channels;
import java.nio.channels.FileChannel;
import java.nio.file.Path;
import java.nio.file.StandardOpenOption;
import java.security.DigestOutputStream;
import java.security.MessageDigest;
import java.util.Collection;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import weftex.core.change.Action;
import weftex.core.change.SchemaChange;
import weftex.core.changeset.ChangeSetWriter;
import weftex.core.changeset.JsonLines;
import weftex.core.changeset.JsonValues;
import weftex.core.row.RowName;
import weftex.core.row.Value;
import weftex.core.signoff.Approval;
import weftex.store.seal.AtRest;
import weftex.store.state.Files0600;

/**
 * Writes a receipt: what each touched row was before, and what it is after. Several threads may
 * write: a line is never torn by another's.
 */
public final class ReceiptWriter implements AutoCloseable {
  /**
   * Since format 2 an updated row is written after it only as far as it differs from before; since
   * 3 it has its hash and its place in the ledger's order; since 7 it may tell of files.
   */
  static final int FORMAT = 7;

  /** What the last line is called. */
  static final Map<Receipt.Outcome, String> ENDINGS =
      Map.of(Receipt.Outcome.COMMITTED, "committed", Receipt.Outcome.ROLLED_BACK, "rolledBack");

  /** Says in that line that a later run wrote it. */
  static final String FOUND = "foundLater";

  private final Path file;
  private final FileChannel channel;
  private final OutputStream out;
  private final MessageDigest digest = ReceiptSeal.sha256();

  ReceiptWriter(Path file, Receipt receipt, AtRest atRest) throws IOException {
    this.file = file;
    this.channel = Files0600.open(file, StandardOpenOption.CREATE_NEW, StandardOpenOption.WRITE);
    this.out =
        new BufferedOutputStream(
            new DigestOutputStream(
                ReceiptFile.writing(Channels.newOutputStream(channel), atRest), digest),
            1 << 16);
    JsonLines.write(
        out,
        json -> {
          json.writeStringField("weftex", "receipt");
          json.writeNumberField("format", FORMAT);
          json.writeStringField("id", receipt.id());
          json.writeStringField("kind", receipt.kind());
          json.writeStringField("site", receipt.site());
          json.writeStringField("from", receipt.from());
          json.writeStringField("into", receipt.into());
          json.writeStringField("target", receipt.target());
          json.writeStringField("changeSet", receipt.changeSet());
          json.writeStringField("file", receipt.file());
          if (receipt.undoes().isPresent()) {
            json.writeStringField("undoes", receipt.undoes().get());
          }
          if (receipt.part()) {
            json.writeBooleanField("part", true);
          }
          json.writeStringField("by", receipt.by());
          json.writeStringField("at", receipt.at());
          json.writeStringField("tool", receipt.tool());
          writeApprovals(receipt, json);
          ChangeSetWriter.writeTables(json, receipt.tables());
        });
    // A file without a header would tell the next run nothing.
    flush();
  }

  private void writeApprovals(Receipt receipt, JsonGenerator json) throws IOException {
    json.writeArrayFieldStart("approvals");
    for (Approval approval : receipt.approvals()) {
      json.writeStartObject();
      json.writeStringField("by", approval.by());
      json.writeStringField("at", approval.at());
      json.writeStringField("sha256", approval.sha256());
      if (approval.signature().isPresent()) {
        json.writeStringField("signature", approval.signature().get());
      }
      json.writeEndObject();
    }
    json.writeEndArray();
  }

  /** Notes a new table or column before it is made or taken away; it survives a loss of power. */
  public void schema(SchemaChange change) throws IOException {
    line(
        json -> {
          json.writeObjectFieldStart("schema");
          ChangeSetWriter.writeSchema(json, change);
          json.writeEndObject();
        });
    flush();
  }

  /** Writes what a row was before it is touched. */
  public void before(int change, String table, Map<String, Value> key, Map<String, Value> values)
      throws IOException {
    row(new Line("before", change, Optional.empty(), table), key, values, Merged.NOTHING);
  }

  /**
   * What a merge settles of a row.
   *
   * @param fresh the source's row for which it was added
   * @param cells the columns that got the source's value
   * @param drafted the source's values of columns that got another
   */
  public record Merged(
      Optional<RowName> fresh, Collection<String> cells, Map<String, Value> drafted) {
    /** Nothing. */
    public static final Merged NOTHING = of(Optional.empty());

    /** For which row of the source it was added, and nothing else. */
    public static Merged of(Optional<RowName> fresh) {
      return new Merged(fresh, List.of(), Map.of());
    }
  }

  /**
   * Writes what a row is after it was touched.
   *
   * @param values all of an added row, none of a removed one; of an updated one those that may
   *     differ from what was written before it
   */
  public void after(
      int change,
      Action action,
      String table,
      Map<String, Value> key,
      Map<String, Value> values,
      Merged merged)
      throws IOException {
    row(new Line("after", change, Optional.of(action), table), key, values, merged);
  }

  /**
   * Writes that a row stays as it is on the target, as somebody decided.
   *
   * @param fresh the source's row, if one would have been added
   */
  public void kept(
      int change,
      Action action,
      String table,
      Map<String, Value> key,
      Map<String, Value> drafted,
      Optional<RowName> fresh)
      throws IOException {
    row(
        new Line("kept", change, Optional.of(action), table),
        key,
        Map.of(),
        new Merged(fresh, List.of(), drafted));
  }

  private record Line(String member, int change, Optional<Action> action, String table) {}

  private void row(Line of, Map<String, Value> key, Map<String, Value> values, Merged merged)
      throws IOException {
    line(
        json -> {
          json.writeObjectFieldStart(of.member());
          json.writeNumberField("change", of.change());
          if (of.action().isPresent()) {
            json.writeStringField("do", of.action().get().label());
          }
          json.writeStringField("table", of.table());
          JsonValues.write(json, "key", key);
          JsonValues.write(json, "values", values);
          if (merged.fresh().isPresent()) {
            json.writeStringField("new", merged.fresh().get().toString());
          }
          if (!merged.cells().isEmpty()) {
            json.writeArrayFieldStart("cells");
            for (String column : merged.cells()) {
              json.writeString(column);
            }
            json.writeEndArray();
          }
          if (!merged.drafted().isEmpty()) {
            JsonValues.write(json, "drafted", merged.drafted());
          }
          json.writeEndObject();
        });
  }

  /** Writes values that followed from the changes. */
  public void effects(List<Effect> effects) throws IOException {
    for (Effect effect : effects) {
      line(
          json -> {
            json.writeObjectFieldStart("effect");
            json.writeStringField("table", effect.table());
            JsonValues.write(json, "key", effect.key());
            JsonValues.write(json, "before", effect.before());
            JsonValues.write(json, "after", effect.after());
            json.writeEndObject();
          });
    }
  }

  /** Writes what is left for a person. */
  public void steps(List<String> steps) throws IOException {
    if (steps.isEmpty()) {
      return;
    }
    line(
        json -> {
          json.writeArrayFieldStart("steps");
          for (String step : steps) {
            json.writeString(step);
          }
          json.writeEndArray();
        });
  }

  /**
   * Closes the list of rows and makes everything survive a loss of power; after this the commit may
   * be sent.
   *
   * @param sequence the receipt's place in the order of the target's ledger
   * @return SHA-256 of everything that was written
   */
  public String written(long adds, long updates, long removes, long sequence) throws IOException {
    out.flush();
    String before = ReceiptSeal.soFar(digest);
    line(
        json -> {
          json.writeObjectFieldStart("written");
          json.writeNumberField("adds", adds);
          json.writeNumberField("updates", updates);
          json.writeNumberField("removes", removes);
          json.writeNumberField("sequence", sequence);
          json.writeStringField("sha256", before);
          json.writeEndObject();
        });
    flush();
    Files0600.syncFolder(file.toAbsolutePath().getParent());
    return ReceiptSeal.soFar(digest);
  }

  /** Notes the commit. */
  public void committed(String at) throws IOException {
    end(out, Receipt.Outcome.COMMITTED, at, false);
    flush();
  }

  /**
   * Appends how a receipt ended.
   *
   * @param found whether a later run found that out, so that the time is not that of the ending
   */
  static void end(OutputStream out, Receipt.Outcome outcome, String at, boolean found)
      throws IOException {
    JsonLines.write(
        out,
        json -> {
          json.writeObjectFieldStart(ENDINGS.get(outcome));
          json.writeStringField("at", at);
          if (found) {
            json.writeBooleanField(FOUND, true);
          }
          json.writeEndObject();
        });
  }

  private synchronized void line(JsonLines.Members members) throws IOException {
    JsonLines.write(out, members);
  }

  /** Makes what was written survive a loss of power. */
  public synchronized void flush() throws IOException {
    out.flush();
    channel.force(true);
  }

  @Override
  public void close() throws IOException {
    channel.close();
  }
}
