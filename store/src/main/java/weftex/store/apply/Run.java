package weftex.store.apply;

import weftex.store.copy.WriteTransaction;
import weftex.store.receipt.ReceiptWriter;

/**
 * What an apply or undo works with.
 *
 * @param copy the name of the copy that is written
 */
record Run(
    WriteTransaction transaction,
    TargetTables tables,
    ReceiptWriter receipt,
    AfterEffects effects,
    String copy) {}
