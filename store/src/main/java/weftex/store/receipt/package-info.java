/**
 * Receipts in files: written while a run goes on, sealed against the target's ledger, read back for
 * an undo ({@code ReceiptRows}) and for the next comparison ({@code MergedRows}). They ask no
 * database and change none.
 */
package weftex.store.receipt;
