package weftex.store.apply;

import java.io.IOException;
import java.sql.SQLException;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.function.LongConsumer;
import weftex.core.changeset.ChangeSetHeader;
import weftex.core.changeset.Review;
import weftex.core.row.RowName;
import weftex.core.site.SiteMap;
import weftex.store.Refusal;
import weftex.store.copy.Copy;
import weftex.store.copy.Ledger;
import weftex.store.copy.WriteTransaction;

/**
 * Applies an approved change set in one transaction. Three passes over the file: lock every row and
 * compare it with what the reviewer saw; write; read every row again and compare it with what was
 * meant. The receipt is on disk before the commit is sent.
 */
public final class Applier {
  private final Receipts receipts;
  private final CommitGate gate;
  private final String tool;
  private final String by;

  /**
   * @param tool the version that applies
   * @param by who applies
   */
  public Applier(Receipts receipts, CommitGate gate, String tool, String by) {
    this.receipts = receipts;
    this.gate = gate;
    this.tool = tool;
    this.by = by;
  }

  /**
   * Applies.
   *
   * @param site the site that the change set must be for
   * @param means what the target's tables mean: which counters and caches follow from the changes
   * @param evenIfNoRollback whether tables are written whose engine can't roll back
   * @param progress is told how many changes have been passed over, three times as many as there
   *     are in all
   * @throws Refusal if the change set is not fit to be applied here; nothing was changed
   */
  public ApplyOutcome apply(
      ReviewedFile reviewed,
      String site,
      Copy target,
      SiteMap means,
      boolean evenIfNoRollback,
      LongConsumer progress)
      throws Refusal, IOException {
    ChangeSetHeader header = reviewed.contents().header();
    checkFit(reviewed, site, target);
    List<String> unsafe = TargetTables.notTransactional(target.catalog(), header);
    if (!unsafe.isEmpty() && !evenIfNoRollback) {
      throw new Refusal(
          Refusal.Kind.PROTECTED,
          "These tables of "
              + target.name()
              + " can't roll back, so a failure would leave them half written: "
              + String.join(", ", unsafe)
              + ". Nothing was changed.",
          "Convert them to a transactional engine, or apply with --even-if-no-rollback after a backup.");
    }
    TargetTables tables = TargetTables.check(target, header.tables());
    Receipt receipt = receipt(reviewed, target);
    try (WriteTransaction transaction = target.write()) {
      Optional<Ledger.Entry> last = transaction.ledger().last(reviewed.contents().draft());
      if (last.isPresent() && last.get().kind().equals("apply")) {
        return new ApplyOutcome.AlreadyApplied(last.get());
      }
      return run(transaction, tables, means, receipt, reviewed, target, progress);
    } catch (SQLException e) {
      receipts.discard(receipt.id());
      throw honest(
          unsafe,
          new Refusal(
              Refusal.Kind.PROTECTED,
              target.name()
                  + " refused the changes: "
                  + e.getMessage()
                  + ". Everything was rolled back; nothing was changed.",
              "See the message, correct the change set or the tables, and apply again.",
              e));
    } catch (Refusal e) {
      throw honest(unsafe, e);
    }
  }

  /** What can't roll back may be half written, whatever a refusal says of the rest. */
  private static Refusal honest(List<String> unsafe, Refusal refusal) {
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

  private ApplyOutcome run(
      WriteTransaction transaction,
      TargetTables tables,
      SiteMap means,
      Receipt receipt,
      ReviewedFile reviewed,
      Copy target,
      LongConsumer progress)
      throws SQLException, Refusal, IOException {
    gate.writing();
    ChangePass pass = new ChangePass(reviewed);
    long[] done = {0};
    boolean keep = false;
    try (ReceiptWriter writer = receipts.begin(receipt)) {
      Numbers numbers = Numbers.settle(transaction, tables, fresh(reviewed));
      try (DriftCheck drift = new DriftCheck(transaction, tables, numbers, writer, target.name())) {
        pass.run(
            chunk -> {
              drift.check(chunk);
              progress.accept(done[0] += chunk.size());
            });
        drift.finish();
        if (drift.found()) {
          return drift.outcome();
        }
      }
      ChangeWriter changes = new ChangeWriter(transaction, tables, numbers, target.name());
      pass.run(
          chunk -> {
            changes.write(chunk);
            progress.accept(done[0] += chunk.size());
          });
      changes.finish();
      AfterEffects effects = new AfterEffects(transaction, tables, means);
      Verification verification =
          new Verification(effects, transaction, tables, numbers, writer, target.name());
      try (verification) {
        pass.run(
            chunk -> {
              verification.check(chunk);
              progress.accept(done[0] += chunk.size());
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
        throw interrupted(target);
      }
      // From here on only the ledger knows how it ended, until the receipt says so.
      keep = true;
      transaction.commit();
      gate.committed();
      writer.committed(receipts.now());
      return new ApplyOutcome.Applied(
          receipt.id(),
          verification.adds(),
          verification.updates(),
          verification.removes(),
          numbers.renumbered(),
          verification.altered(),
          followed,
          steps);
    } catch (SQLException e) {
      if (keep) {
        throw unknown(target, e);
      }
      throw e;
    } catch (IOException e) {
      if (keep) {
        throw new Refusal(
            Refusal.Kind.PROTECTED,
            "The changes are made on "
                + target.name()
                + ", but the receipt could not be closed: "
                + e.getMessage()
                + ".",
            "Make room on the disk and run 'weftex history', which closes it.",
            e);
      }
      throw new Refusal(
          Refusal.Kind.PROTECTED,
          "The receipt could not be written: "
              + e.getMessage()
              + ". Everything was rolled back; nothing was changed on "
              + target.name()
              + ".",
          "Make room on the disk, and apply again.",
          e);
    } finally {
      if (!keep) {
        receipts.discard(receipt.id());
      }
    }
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

  private static List<RowName> fresh(ReviewedFile reviewed) {
    return reviewed.fresh().stream()
        .filter(added -> reviewed.review().standing(added.change()) == Review.Standing.MADE)
        .map(ReviewedFile.Fresh::row)
        .toList();
  }

  private static void checkFit(ReviewedFile reviewed, String site, Copy target) throws Refusal {
    ChangeSetHeader header = reviewed.contents().header();
    if (!header.site().equals(site)) {
      throw unfit(
          "It is for the site '" + header.site() + "', and weftex.yaml is of '" + site + "'.",
          "Name a change set of this site.");
    }
    if (!header.into().equals(target.name()) || !header.target().equals(target.spec().place())) {
      throw unfit(
          "It was drafted for "
              + header.into()
              + " at "
              + header.target()
              + ", and "
              + target.name()
              + " is now "
              + target.spec().place()
              + ".",
          "Draft again for this target.");
    }
    Review review = reviewed.review();
    List<Integer> open = new ArrayList<>();
    for (int id : review.ids()) {
      if (review.standing(id) == Review.Standing.OPEN) {
        open.add(id);
      }
    }
    if (!open.isEmpty()) {
      throw new Refusal(
          Refusal.Kind.UNDECIDED,
          "The change set has "
              + open.size()
              + (open.size() == 1 ? " conflict" : " conflicts")
              + " without a decision (change "
              + open.get(0)
              + (open.size() > 1 ? " and others" : "")
              + "). Nothing was changed.",
          "Decide with 'weftex review', then approve.");
    }
    if (!reviewed.contents().isApproved()) {
      boolean once = !reviewed.contents().approvals().isEmpty();
      throw new Refusal(
          Refusal.Kind.UNDECIDED,
          once
              ? "The change set was approved, but something was decided after that, which voids the approval. Nothing was changed."
              : "The change set is not approved. Nothing was changed.",
          "Look at it with 'weftex review', and approve it with 'weftex review --approve'.");
    }
  }

  private static Refusal unfit(String what, String next) {
    return new Refusal(
        Refusal.Kind.PROTECTED,
        "This change set can't be applied here. " + what + " Nothing was changed.",
        next);
  }

  private Receipt receipt(ReviewedFile reviewed, Copy target) {
    ChangeSetHeader header = reviewed.contents().header();
    return new Receipt(
        receipts.newId(),
        "apply",
        header.site(),
        header.from(),
        header.into(),
        target.spec().place(),
        reviewed.contents().draft(),
        reviewed.file().getFileName().toString(),
        Optional.empty(),
        by,
        receipts.now(),
        tool,
        reviewed.contents().approvals(),
        header.tables(),
        Receipt.Outcome.UNKNOWN,
        0,
        0,
        0);
  }
}
