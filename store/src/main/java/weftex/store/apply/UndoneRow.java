package weftex.store.apply;

import weftex.store.receipt.ReceiptRows;

/**
 * A row of a receipt that is taken back.
 *
 * @param index its place in the order of applying, from 0
 */
record UndoneRow(int index, ReceiptRows.Touched row) {}
