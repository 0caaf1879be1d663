package weftex.store.engine;

import java.io.IOException;
import java.sql.SQLException;
import java.util.List;
import java.util.Optional;
import weftex.store.Refusal;
import weftex.store.receipt.Receipt;
import weftex.store.receipt.ReceiptWriter;
import weftex.store.receipt.Receipts;
import weftex.store.rows.Ledger;
import weftex.store.rows.WriteTransaction;

/**
 * How a run begins to write and how it commits, whatever it makes or takes back: the receipt is on
 * disk before the commit, the ledger's row in the same transaction, and an interrupt is only heard
 * until the commit is sent.
 *
 * @param last the highest place in the order of the target's ledger that a receipt has. A ledger
 *     begins anew where a copy is made anew, and goes back where it is restored; receipts stay
 */
public record Committing(Receipt receipt, CommitGate gate, Ending ending, long last) {
  public static Committing of(Receipts receipts, Receipt receipt, CommitGate gate, Ending ending)
      throws IOException, Refusal {
    return new Committing(receipt, gate, ending, receipts.lastSequence(receipt.target()));
  }

  /**
   * Refuses tables that can't roll back.
   *
   * @param anyhow whether they are written all the same
   */
  public void check(List<String> cantRollBack, boolean anyhow) throws Refusal {
    if (!cantRollBack.isEmpty() && !anyhow) {
      throw ending.cantRollBack(cantRollBack);
    }
  }

  /** Says that rows are written from now on. */
  public void writes(WriteTransaction transaction, List<String> cantRollBack) throws SQLException {
    ending.writes(cantRollBack);
    if (!cantRollBack.isEmpty()) {
      transaction.writesWhatCantRollBack();
    }
  }

  /** Commits; the receipt has yet to say so. */
  public void commit(
      WriteTransaction transaction, ReceiptWriter writer, long adds, long updates, long removes)
      throws SQLException, IOException, Refusal {
    long sequence = transaction.ledger().next(last);
    String hash = writer.written(adds, updates, removes, sequence);
    transaction
        .ledger()
        .write(
            new Ledger.Entry(
                receipt.id(),
                receipt.changeSet(),
                receipt.kind(),
                receipt.at(),
                sequence,
                Optional.of(hash)));
    if (!gate.pass()) {
      throw ending.interrupted();
    }
    ending.commitIsSent();
    transaction.commit();
    ending.committed();
    gate.committed();
  }
}
