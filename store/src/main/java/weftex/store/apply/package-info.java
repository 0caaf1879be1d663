/**
 * Writing a copy. {@link weftex.store.apply.Applier} applies an approved change set in one
 * transaction, {@link weftex.store.apply.Undoer} takes it back, {@link
 * weftex.store.receipt.Receipts} keeps what was done. What must hold whatever happens: the receipt
 * is on disk before the commit, and the ledger's row is in the same transaction.
 */
package weftex.store.apply;
