package weftex.store.engine;

import java.io.IOException;
import java.sql.SQLException;
import java.util.ArrayList;
import java.util.List;
import weftex.core.change.SchemaChange;
import weftex.store.FailureWords;
import weftex.store.Refusal;
import weftex.store.copy.Copy;
import weftex.store.copy.SchemaWriter;
import weftex.store.receipt.ReceiptWriter;

/**
 * The new tables and columns of a change set. A server commits each of them by itself, so they are
 * made before the transaction, and each is noted in the receipt before it is made.
 */
public final class SchemaStage {
  private SchemaStage() {}

  /** What became of new tables and columns that were to be taken away. */
  public record TakenAway(List<SchemaChange> gone, List<SchemaChange> inUse) {
    /** What stays, as rows that were left alone. */
    public List<Drift> leftAlone(String copy) {
      return inUse.stream()
          .map(
              change ->
                  new Drift(
                      change.id(),
                      change.table(),
                      change.column().orElse(""),
                      change.column().isPresent()
                          ? "has values on " + copy + " that came in since, so the column stays"
                          : "has rows on " + copy + " that came in since, so the table stays"))
          .toList();
    }
  }

  /**
   * Makes what the target lacks.
   *
   * @throws Refusal if something of it is there, or can't be made; what was made until then is
   *     still there
   */
  public static void make(List<SchemaChange> changes, Copy target, ReceiptWriter journal)
      throws Refusal, IOException {
    try (SchemaWriter writer = target.schemaWriter()) {
      List<String> missing = writer.missingRights();
      if (!missing.isEmpty()) {
        throw new Refusal(
            Refusal.Kind.PROTECTED,
            "The user of "
                + target.name()
                + " lacks the rights "
                + String.join(", ", missing)
                + ", without which new tables and columns can't be made and taken back. Nothing was changed.",
            "Grant them, or leave the new tables and columns out with 'weftex review --skip N'.");
      }
      List<SchemaChange> there = writer.thereOf(changes);
      if (!there.isEmpty()) {
        throw new Refusal(
            Refusal.Kind.UNDECIDED,
            target.name()
                + " has "
                + there.get(0).item().words()
                + " by now, which the change set was going to make. Nothing was changed.",
            "Draft again with 'weftex draft' and have the new change set approved.");
      }
      for (SchemaChange change : changes) {
        journal.schema(change);
        make(change, writer, target);
      }
    } catch (SQLException e) {
      throw unasked(target, e);
    }
  }

  private static void make(SchemaChange change, SchemaWriter writer, Copy target) throws Refusal {
    try {
      writer.make(change);
    } catch (SQLException e) {
      throw new Refusal(
          Refusal.Kind.PROTECTED,
          target.name()
              + " refused to make "
              + change.item().words()
              + ": "
              + FailureWords.of(e)
              + ".",
          "See the message; make it by hand, or leave it out with 'weftex review --skip "
              + change.id()
              + "'.",
          e);
    }
  }

  /** Takes away what nobody has used, in the reverse order of making. */
  public static TakenAway takeAway(List<SchemaChange> changes, Copy target) throws Refusal {
    List<SchemaChange> gone = new ArrayList<>();
    List<SchemaChange> inUse = new ArrayList<>();
    if (changes.isEmpty()) {
      return new TakenAway(gone, inUse);
    }
    SchemaChange at = null;
    try (SchemaWriter writer = target.schemaWriter()) {
      for (int i = changes.size() - 1; i >= 0; i--) {
        at = changes.get(i);
        switch (writer.takeAway(at)) {
          case TAKEN_AWAY -> gone.add(at);
          case IN_USE -> inUse.add(at);
          case GONE -> {
            // Somebody was faster.
          }
        }
      }
      return new TakenAway(gone, inUse);
    } catch (SQLException e) {
      throw new Refusal(
          Refusal.Kind.PROTECTED,
          target.name()
              + " refused to take "
              + at.item().words()
              + " away again: "
              + FailureWords.of(e)
              + ". It holds nothing of this change set.",
          "See the message; 'weftex history' tries again.",
          e);
    }
  }

  /** Whether there is anything left to take away. */
  public static boolean isAnyLeft(List<SchemaChange> changes, Copy target) throws Refusal {
    if (changes.isEmpty()) {
      return false;
    }
    try (SchemaWriter writer = target.schemaWriter()) {
      return !writer.thereOf(changes).isEmpty();
    } catch (SQLException e) {
      throw unasked(target, e);
    }
  }

  private static Refusal unasked(Copy target, SQLException e) {
    return new Refusal(
        Refusal.Kind.UNREACHABLE,
        "The tables of "
            + target.name()
            + " can't be listed: "
            + FailureWords.of(e)
            + ". Nothing was changed.",
        "Check that it is up, and try again.",
        e);
  }
}
