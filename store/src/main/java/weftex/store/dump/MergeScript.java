package weftex.store.dump;

import java.io.IOException;
import java.io.OutputStream;
import java.util.List;
import weftex.core.change.SchemaChange;
import weftex.store.Refusal;
import weftex.store.copy.Ledger;
import weftex.store.receipt.ReceiptRows;

/**
 * Writes an applied merge as a script that guards itself, for a place that only imports files: it
 * writes all of the merge or nothing, also where statements come one by one, errors are passed
 * over, or the connection is another one half-way.
 */
public interface MergeScript {

  /**
   * A merge that was made on rows loaded from a file.
   *
   * @param about what it is, for the reader: lines of a comment
   * @param entry the ledger's, by which the next export tells that the script ran
   * @param ledger the ledger as the file has it: its last place in the order
   * @param schema new tables and columns
   * @param rows what was touched, before and after
   */
  record Merge(
      List<String> about,
      Ledger.Entry entry,
      long ledger,
      List<SchemaChange> schema,
      ReceiptRows rows) {}

  /**
   * Writes the script that makes it.
   *
   * @throws Refusal if a value is not known whole
   */
  void write(Merge merge, OutputStream out) throws IOException, Refusal;

  /** Writes the script that takes it back, where nothing of it was changed since. */
  void writeBack(Merge merge, OutputStream out) throws IOException, Refusal;
}
