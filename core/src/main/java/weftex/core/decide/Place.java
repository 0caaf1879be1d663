package weftex.core.decide;

import java.io.IOException;
import java.util.Map;
import java.util.Optional;
import weftex.core.change.Action;
import weftex.core.change.Head;
import weftex.core.change.RowChange;
import weftex.core.change.SchemaChange;
import weftex.core.change.Ties;
import weftex.core.change.Trace;
import weftex.core.changeset.ChangeSetWriter;
import weftex.core.row.Value;

/**
 * By what a change is known again in another change set: its row, or the table or column that it
 * makes. A row of a table without a key is known by all that is said of it.
 *
 * @param what a new row, a row that is there, or a change of the schema
 * @param key of the row; empty if its table has none
 * @param content of a row without a key; nothing's for any other
 * @param nth which of several changes that are alike in all that, from 0
 */
record Place(String what, String table, Map<String, Value> key, Value.Digest content, int nth) {
  private static final Value.Digest NOTHING = Value.Digest.of(new byte[0]);

  static Place of(SchemaChange change) {
    return new Place("schema " + change.column().orElse(""), change.table(), Map.of(), NOTHING, 0);
  }

  static Place of(RowChange change) throws IOException {
    return new Place(
        change.action() == Action.ADD ? "new" : "row",
        change.table(),
        change.key(),
        change.key().isEmpty() ? content(change) : NOTHING,
        0);
  }

  Place next() {
    return new Place(what, table, key, content, nth + 1);
  }

  /** What a change says, without the numbers that differ from one change set to the other. */
  static Value.Digest content(RowChange change) throws IOException {
    Head bare =
        new Head(
            1,
            change.action(),
            change.table(),
            change.key(),
            change.fresh(),
            change.renumbered(),
            Ties.NONE,
            Optional.empty(),
            Trace.NONE);
    return Value.Digest.of(
        ChangeSetWriter.line(
            new RowChange(bare, change.before(), change.after(), Map.of(), change.conflicts())));
  }
}
