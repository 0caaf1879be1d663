package weftex.store.apply;

import java.io.IOException;
import java.sql.SQLException;
import java.util.List;
import java.util.Optional;
import java.util.function.Function;
import java.util.function.LongConsumer;
import weftex.core.changeset.ChangeSetHeader;
import weftex.core.changeset.Review;
import weftex.core.changeset.SchemaChange;
import weftex.core.row.RowName;
import weftex.core.site.SiteMap;
import weftex.store.Refusal;
import weftex.store.copy.Copy;
import weftex.store.copy.Ledger;
import weftex.store.copy.WriteTransaction;

/**
 * One run of an apply: new tables and columns first, then the rows in one transaction. Whatever
 * fails before the commit is sent leaves the target as it was.
 */
final class ApplyRun {
  private final Receipts receipts;
  private final CommitGate gate;
  private final Receipt receipt;
  private final ReviewedFile reviewed;
  private final Copy found;
  private final Function<Copy, SiteMap> means;
  private final boolean evenIfNoRollback;
  private final LongConsumer progress;
  private final List<SchemaChange> schema;
  private List<String> unsafe = List.of();
  private long passed;

  /** Once it is, only the ledger knows how it ended, until the receipt says so. */
  private boolean commitIsSent;

  ApplyRun(
      Receipts receipts,
      CommitGate gate,
      Receipt receipt,
      ReviewedFile reviewed,
      Copy found,
      Function<Copy, SiteMap> means,
      boolean evenIfNoRollback,
      LongConsumer progress) {
    this.receipts = receipts;
    this.gate = gate;
    this.receipt = receipt;
    this.reviewed = reviewed;
    this.found = found;
    this.means = means;
    this.evenIfNoRollback = evenIfNoRollback;
    this.progress = progress;
    this.schema = reviewed.madeSchema();
  }

  ApplyOutcome run() throws Refusal, IOException {
    if (!schema.isEmpty()) {
      Optional<Ledger.Entry> before = before();
      if (before.isPresent()) {
        return new ApplyOutcome.AlreadyApplied(before.get());
      }
    }
    boolean done = false;
    try (ReceiptWriter writer = receipts.begin(receipt)) {
      Copy target = made(writer);
      ApplyOutcome outcome = rows(target, writer);
      done = outcome instanceof ApplyOutcome.Applied;
      return outcome;
    } catch (Refusal e) {
      throw honest(e);
    } finally {
      if (!done && !commitIsSent) {
        // If this fails, the receipt stays, and the next run takes away what is left.
        SchemaStage.takeAway(receipts.schema(receipt.id()), found);
        receipts.discard(receipt.id());
      }
    }
  }

  /** Whether the change set was applied already: asked before any table is made. */
  private Optional<Ledger.Entry> before() throws Refusal {
    try (WriteTransaction transaction = found.write()) {
      return applied(transaction);
    } catch (SQLException e) {
      throw refused(e);
    }
  }

  private Optional<Ledger.Entry> applied(WriteTransaction transaction) throws SQLException {
    return transaction
        .ledger()
        .last(receipt.changeSet())
        .filter(last -> last.kind().equals("apply"));
  }

  private Copy made(ReceiptWriter writer) throws Refusal, IOException {
    gate.writing();
    if (schema.isEmpty()) {
      return found;
    }
    gate.schema();
    SchemaStage.make(schema, found, writer);
    return found.again();
  }

  private ApplyOutcome rows(Copy target, ReceiptWriter writer) throws Refusal, IOException {
    List<ChangeSetHeader.TableColumns> drafted = reviewed.tables();
    unsafe = TargetTables.notTransactional(target.catalog(), drafted);
    if (!unsafe.isEmpty() && !evenIfNoRollback) {
      List<String> named = unsafe;
      unsafe = List.of();
      throw new Refusal(
          Refusal.Kind.PROTECTED,
          "These tables of "
              + target.name()
              + " can't roll back, so a failure would leave them half written: "
              + String.join(", ", named)
              + ". Nothing was changed.",
          "Convert them to a transactional engine, or apply with --even-if-no-rollback after a backup.");
    }
    TargetTables tables = TargetTables.check(target, drafted);
    boolean hanging = Dependents.isPossible(target.catalog(), drafted);
    try (WriteTransaction transaction = target.write()) {
      Optional<Ledger.Entry> last = applied(transaction);
      return last.isPresent()
          ? new ApplyOutcome.AlreadyApplied(last.get())
          : write(
              transaction,
              tables,
              means.apply(target),
              writer,
              hanging
                  ? Optional.of(new Dependents(transaction, tables, target.catalog(), writer))
                  : Optional.empty());
    } catch (SQLException e) {
      throw commitIsSent ? unknown(target, e) : refused(e);
    } catch (IOException e) {
      throw commitIsSent ? notClosed(e) : notWritten(e);
    }
  }

  private ApplyOutcome write(
      WriteTransaction transaction,
      TargetTables tables,
      SiteMap site,
      ReceiptWriter writer,
      Optional<Dependents> dependents)
      throws SQLException, Refusal, IOException {
    String copy = found.name();
    ChangePass pass = new ChangePass(reviewed);
    Numbers numbers = Numbers.settle(transaction, tables, fresh());
    try (DriftCheck drift = new DriftCheck(transaction, tables, numbers, writer, copy)) {
      pass.run(
          chunk -> {
            drift.check(chunk);
            if (dependents.isPresent()) {
              dependents.get().look(chunk);
            }
            passed(chunk.size());
          });
      drift.finish();
      if (drift.found()) {
        return drift.outcome();
      }
    }
    ChangeWriter changes = new ChangeWriter(transaction, tables, numbers, copy);
    pass.run(
        chunk -> {
          changes.write(chunk);
          passed(chunk.size());
        });
    changes.finish();
    if (dependents.isPresent()) {
      dependents.get().settle();
    }
    AfterEffects effects = new AfterEffects(transaction, tables, site);
    Verification verification =
        new Verification(effects, transaction, tables, numbers, writer, copy);
    try (verification) {
      pass.run(
          chunk -> {
            verification.check(chunk);
            passed(chunk.size());
          });
      verification.finish();
    }
    List<Effect> followed = effects.settle();
    List<String> steps = effects.steps();
    writer.effects(followed);
    writer.steps(steps);
    transaction
        .ledger()
        .write(new Ledger.Entry(receipt.id(), receipt.changeSet(), "apply", receipt.at()));
    writer.written(verification.adds(), verification.updates(), verification.removes());
    if (!gate.pass()) {
      throw interrupted(found);
    }
    commitIsSent = true;
    transaction.commit();
    gate.committed();
    writer.committed(receipts.now());
    return new ApplyOutcome.Applied(
        receipt.id(),
        schema,
        verification.adds(),
        verification.updates(),
        verification.removes(),
        numbers.renumbered(),
        verification.altered(),
        followed,
        steps);
  }

  private void passed(int changes) {
    progress.accept(passed += changes);
  }

  private List<RowName> fresh() {
    return reviewed.fresh().stream()
        .filter(added -> reviewed.review().standing(added.change()) == Review.Standing.MADE)
        .map(ReviewedFile.Fresh::row)
        .toList();
  }

  /** What can't roll back may be half written, whatever a refusal says of the rest. */
  private Refusal honest(Refusal refusal) {
    return unsafe.isEmpty()
        ? refusal
        : new Refusal(
            refusal.kind(),
            refusal.getMessage()
                + " That does not hold for "
                + String.join(", ", unsafe)
                + ", which can't roll back and may be half written.",
            refusal.next(),
            refusal);
  }

  private Refusal refused(SQLException e) {
    return new Refusal(
        Refusal.Kind.PROTECTED,
        found.name()
            + " refused the changes: "
            + e.getMessage()
            + ". Everything was rolled back; nothing was changed.",
        "See the message, correct the change set or the tables, and apply again.",
        e);
  }

  private Refusal notClosed(IOException e) {
    return new Refusal(
        Refusal.Kind.PROTECTED,
        "The changes are made on "
            + found.name()
            + ", but the receipt could not be closed: "
            + e.getMessage()
            + ".",
        "Make room on the disk and run 'weftex history', which closes it.",
        e);
  }

  private Refusal notWritten(IOException e) {
    return new Refusal(
        Refusal.Kind.PROTECTED,
        "The receipt could not be written: "
            + e.getMessage()
            + ". Everything was rolled back; nothing was changed on "
            + found.name()
            + ".",
        "Make room on the disk, and apply again.",
        e);
  }

  static Refusal unknown(Copy target, SQLException e) {
    return new Refusal(
        Refusal.Kind.UNREACHABLE,
        "The connection to "
            + target.name()
            + " broke while the commit was on its way: "
            + e.getMessage()
            + ". Either all of it was written or nothing.",
        "Run 'weftex history', which asks " + target.name() + " which it was.",
        e);
  }

  static Refusal interrupted(Copy target) {
    return new Refusal(
        Refusal.Kind.PROTECTED,
        "Interrupted. Everything was rolled back; nothing was changed on " + target.name() + ".",
        "Run the command again when you are ready.");
  }
}
