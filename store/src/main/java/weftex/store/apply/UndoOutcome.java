package weftex.store.apply;

import java.util.List;

/**
 * How an undo ended.
 *
 * @param receipt the undo's own receipt; empty if there was nothing left to take back
 * @param removed added rows that were removed again
 * @param restored updated rows that have their old values again
 * @param broughtBack removed rows that are there again
 * @param leftAlone rows that changed after the apply, with the reason
 */
public record UndoOutcome(
    String receipt, long removed, long restored, long broughtBack, List<Drift> leftAlone) {}
