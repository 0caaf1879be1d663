package weftex.store.engine;

import weftex.store.receipt.ReceiptWriter;
import weftex.store.rows.WriteTransaction;

/**
 * What an apply or undo works with.
 *
 * @param copy the name of the copy that is written
 */
public record Run(
    WriteTransaction transaction,
    TargetTables tables,
    ReceiptWriter receipt,
    AfterEffects effects,
    String copy) {}
