package weftex.store.apply;

import java.io.IOException;
import java.sql.SQLException;
import java.util.List;
import java.util.Optional;
import java.util.function.LongConsumer;
import weftex.core.changeset.SchemaChange;
import weftex.core.site.SiteMap;
import weftex.store.Refusal;
import weftex.store.copy.Copy;
import weftex.store.copy.Ledger;
import weftex.store.copy.WriteTransaction;

/** Takes an applied change set back, row by row, in one transaction. */
public final class Undoer {
  private final Receipts receipts;
  private final CommitGate gate;
  private final String tool;
  private final String by;

  /**
   * @param tool the version that undoes
   * @param by who undoes
   */
  public Undoer(Receipts receipts, CommitGate gate, String tool, String by) {
    this.receipts = receipts;
    this.gate = gate;
    this.tool = tool;
    this.by = by;
  }

  /**
   * Undoes.
   *
   * @param applied the receipt of the apply
   * @param site what the target's tables mean: rows that came to hang on an added one keep it from
   *     being removed
   * @param alsoChanged whether rows that changed after the apply are taken back too
   * @param progress is told how many rows have been passed over, three times as many as there are
   */
  public UndoOutcome undo(
      Receipt applied, Copy target, SiteMap site, boolean alsoChanged, LongConsumer progress)
      throws Refusal, IOException {
    if (!applied.target().equals(target.spec().place())) {
      throw new Refusal(
          Refusal.Kind.PROTECTED,
          "It was applied to "
              + applied.target()
              + ", and "
              + target.name()
              + " is now "
              + target.spec().place()
              + ". Nothing was changed.",
          "Point weftex.yaml at the copy that it was applied to.");
    }
    List<SchemaChange> schema = receipts.schema(applied.id());
    TargetTables tables = TargetTables.forUndo(target, applied.tables(), schema);
    Receipt receipt = receipt(applied, target);
    boolean schemaLeft = SchemaStage.isAnyLeft(schema, target);
    boolean keep = false;
    try (WriteTransaction transaction = target.write();
        ReceiptRows touched = new ReceiptRows(receipts.file(applied.id()));
        ReceiptWriter writer = receipts.begin(receipt)) {
      transaction.ledger().last(applied.changeSet());
      gate.writing();
      for (SchemaChange change : schema) {
        writer.schema(change);
      }
      UndoPass pass =
          new UndoPass(transaction, tables, site, touched, alsoChanged, target.name(), progress);
      pass.look();
      pass.write();
      AfterEffects effects = new AfterEffects(transaction, tables, site);
      pass.verify(writer, effects);
      if (pass.touched() == 0 && !schemaLeft) {
        return pass.outcome("");
      }
      if (pass.tookAllBack()) {
        effects.takeBack(touched.effects());
      }
      writer.effects(effects.settle());
      transaction
          .ledger()
          .write(new Ledger.Entry(receipt.id(), receipt.changeSet(), "undo", receipt.at()));
      writer.written(pass.broughtBack(), pass.restored(), pass.removed());
      if (!gate.pass()) {
        throw ApplyRun.interrupted(target);
      }
      keep = true;
      transaction.commit();
      gate.committed();
      // Until the receipt says that it is closed, the next run takes away what is left.
      SchemaStage.TakenAway away = SchemaStage.takeAway(schema, target);
      writer.committed(receipts.now());
      return pass.outcome(receipt.id()).with(away, target.name());
    } catch (SQLException e) {
      throw keep
          ? ApplyRun.unknown(target, e)
          : new Refusal(
              Refusal.Kind.PROTECTED,
              target.name()
                  + " refused the undo: "
                  + e.getMessage()
                  + ". Everything was rolled back; nothing was changed.",
              "See the message, and undo again.",
              e);
    } finally {
      if (!keep) {
        receipts.discard(receipt.id());
      }
    }
  }

  private Receipt receipt(Receipt applied, Copy target) {
    return new Receipt(
        receipts.newId(),
        "undo",
        applied.site(),
        applied.from(),
        applied.into(),
        target.spec().place(),
        applied.changeSet(),
        applied.file(),
        Optional.of(applied.id()),
        by,
        receipts.now(),
        tool,
        applied.approvals(),
        applied.tables(),
        Receipt.Outcome.UNKNOWN,
        0,
        0,
        0);
  }
}
