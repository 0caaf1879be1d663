package weftex.store.receipt;

import java.util.Optional;
import weftex.core.change.Action;
import weftex.core.row.RowName;

/** What one apply settled of a row. */
record MergedStep(
    String receipt,
    String at,
    MergedRows.Reader reader,
    Action action,
    boolean kept,
    Optional<RowName> source) {}
