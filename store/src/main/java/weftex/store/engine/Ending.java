package weftex.store.engine;

import java.io.IOException;
import java.sql.SQLException;
import java.util.List;
import weftex.store.FailureWords;
import weftex.store.Refusal;
import weftex.store.copy.Copy;

/**
 * What can be said for sure of an apply or undo that failed. A sentence on what was or was not
 * changed is made here alone, since only the run itself knows how far it came.
 */
public final class Ending {
  private final String verb;
  private final Copy target;
  private List<String> unsafe = List.of();
  private boolean schemaTouched;
  private boolean writing;
  private Stage stage = Stage.OPEN;
  private Refusal worded;

  private enum Stage {
    OPEN,
    COMMIT_SENT,
    COMMITTED
  }

  /**
   * @param verb {@code apply} or {@code undo}
   */
  public Ending(String verb, Copy target) {
    this.verb = verb;
    this.target = target;
  }

  /**
   * Says that rows are written from now on.
   *
   * @param cantRollBack tables among them whose engine can't roll back
   */
  void writes(List<String> cantRollBack) {
    this.unsafe = List.copyOf(cantRollBack);
    this.writing = true;
  }

  /** Says that tables or columns are made, each of which the server commits by itself. */
  public void makesSchema() {
    schemaTouched = true;
  }

  /** Says that the commit is on its way: only the ledger knows how it ends. */
  void commitIsSent() {
    stage = Stage.COMMIT_SENT;
  }

  void committed() {
    stage = Stage.COMMITTED;
  }

  /** Whether it is certain that no row was changed. */
  public boolean isOpen() {
    return stage == Stage.OPEN;
  }

  /** Words a failure of the database. */
  public Refusal of(SQLException e) {
    return switch (stage) {
      case OPEN -> isBroken(e) ? broken(e) : refused(e);
      case COMMIT_SENT ->
          new Refusal(
              Refusal.Kind.UNREACHABLE,
              "The connection to "
                  + target.name()
                  + " broke while the commit was on its way: "
                  + FailureWords.of(e)
                  + ". Either all of it was written or nothing.",
              "Run 'weftex history', which asks " + target.name() + " which it was.",
              e);
      case COMMITTED -> afterwards(FailureWords.of(e) + ".", e);
    };
  }

  /** Words a failure of the disk. */
  public Refusal of(IOException e) {
    return stage != Stage.OPEN
        ? afterwards(FailureWords.of(e) + ".", e)
        : new Refusal(
            Refusal.Kind.PROTECTED,
            "A file could not be read or written: "
                + FailureWords.of(e)
                + ". Everything was rolled back; "
                + nothing()
                + " on "
                + target.name()
                + ".",
            "Make room on the disk, and " + verb + " again.",
            e);
  }

  /** The same refusal, with what became of the changes: only the run itself knows that. */
  public Refusal of(Refusal e) {
    if (e == worded || stage == Stage.COMMIT_SENT) {
      return e;
    }
    if (stage == Stage.COMMITTED) {
      return afterwards(e.reason(), e);
    }
    return honest(new Refusal(e.kind(), e.reason() + " " + unchanged() + ".", e.next(), e));
  }

  private Refusal afterwards(String reason, Exception e) {
    worded =
        new Refusal(
            Refusal.Kind.PROTECTED,
            "The "
                + verb
                + " is done on "
                + target.name()
                + " and permanent, but what follows it failed: "
                + reason,
            "Run 'weftex history', which finishes what is left.",
            e);
    return worded;
  }

  private Refusal refused(SQLException e) {
    return honest(
        new Refusal(
            Refusal.Kind.PROTECTED,
            target.name()
                + " refused the "
                + (verb.equals("apply") ? "changes" : verb)
                + ": "
                + FailureWords.of(e)
                + ". Everything was rolled back; "
                + nothing()
                + ".",
            "See the message, mend what it names, and " + verb + " again.",
            e));
  }

  private Refusal broken(SQLException e) {
    return honest(
        new Refusal(
            Refusal.Kind.UNREACHABLE,
            "The connection to "
                + target.name()
                + " broke before the commit: "
                + FailureWords.of(e)
                + ". The database takes back what was not committed, so "
                + (unsafe.isEmpty() ? "no row was changed" : "no other row was changed")
                + ".",
            "Check that " + target.name() + " is up, and " + verb + " again.",
            e));
  }

  private static boolean isBroken(SQLException e) {
    for (Throwable cause = e; cause != null; cause = cause.getCause()) {
      if (cause instanceof SQLException sql && String.valueOf(sql.getSQLState()).startsWith("08")) {
        return true;
      }
    }
    return false;
  }

  private String unchanged() {
    return writing
        ? "Everything was rolled back; " + nothing()
        : (schemaTouched ? "No row was changed" : "Nothing was changed");
  }

  private String nothing() {
    return schemaTouched ? "no row was changed" : "nothing was changed";
  }

  /** What can't roll back may be half written, whatever a refusal says of the rest. */
  private Refusal honest(Refusal refusal) {
    worded =
        unsafe.isEmpty()
            ? refusal
            : with(
                refusal,
                "That does not hold for "
                    + String.join(", ", unsafe)
                    + ", which can't roll back and may be half written.");
    return worded;
  }

  /** The same refusal, and what is left of tables and columns that could not be taken away. */
  public static Refusal leaving(Refusal first) {
    return with(
        first,
        "New tables, columns and files that were made before the rows may still be there, unused: 'weftex"
            + " history' takes them away.");
  }

  private static Refusal with(Refusal refusal, String sentence) {
    return new Refusal(
        refusal.kind(), refusal.getMessage() + " " + sentence, refusal.next(), refusal);
  }

  Refusal interrupted() {
    return new Refusal(
        Refusal.Kind.PROTECTED,
        "Interrupted. Everything was rolled back; " + nothing() + " on " + target.name() + ".",
        "Run the command again when you are ready.");
  }

  /** Refuses tables that can't roll back, before anything is written. */
  Refusal cantRollBack(List<String> tables) {
    return new Refusal(
        Refusal.Kind.PROTECTED,
        "These tables of "
            + target.name()
            + " can't roll back, so a failure would leave them half written: "
            + String.join(", ", tables)
            + ". Nothing was changed.",
        "Convert them to a transactional engine, or "
            + verb
            + " with --even-if-no-rollback after a backup.");
  }
}
