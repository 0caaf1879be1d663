package weftex.store.apply;

import java.io.IOException;
import java.sql.SQLException;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.function.Function;
import java.util.function.LongConsumer;
import java.util.function.Predicate;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import weftex.core.changeset.Action;
import weftex.core.changeset.ChangeSetHeader;
import weftex.core.changeset.Review;
import weftex.core.changeset.RowChange;
import weftex.core.changeset.SchemaChange;
import weftex.core.row.RowName;
import weftex.core.row.Table;
import weftex.core.row.Value;
import weftex.core.site.SiteMap;
import weftex.store.Refusal;
import weftex.store.changeset.ChangePass;
import weftex.store.changeset.ReviewedFile;
import weftex.store.copy.Claim;
import weftex.store.copy.Copy;
import weftex.store.copy.Ledger;
import weftex.store.copy.WriteTransaction;
import weftex.store.receipt.Effect;
import weftex.store.receipt.Receipt;
import weftex.store.receipt.ReceiptWriter;
import weftex.store.receipt.Receipts;

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
  private final Ending ending;
  private final Committing committing;
  private long passed;

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
    this.ending = new Ending("apply", found);
    this.committing = new Committing(receipt, gate, ending);
  }

  ApplyOutcome run() throws Refusal, IOException {
    try (Claim claim = found.claim()) {
      if (!schema.isEmpty()) {
        Optional<Ledger.Entry> before = before(claim);
        if (before.isPresent()) {
          return new ApplyOutcome.AlreadyApplied(before.get());
        }
      }
      try (ReceiptWriter writer = receipts.begin(receipt)) {
        ApplyOutcome outcome = rows(claim, made(writer), writer);
        if (ending.isOpen()) {
          SchemaStage.takeAway(receipts.schema(receipt.id()), found);
          receipts.discard(receipt.id());
        }
        return outcome;
      } catch (Refusal e) {
        throw cleaned(ending.of(e));
      } catch (RuntimeException | Error e) {
        takeAway();
        throw e;
      }
    }
  }

  /** The refusal itself, and what it leaves behind. */
  private Refusal cleaned(Refusal first) {
    return takeAway() ? first : Ending.leaving(first);
  }

  /**
   * Takes away what was made for rows that are not coming, and the receipt with it. If that fails,
   * the receipt stays, and the next run takes it away; what failed first is what is told.
   */
  private boolean takeAway() {
    if (!ending.isOpen()) {
      return true;
    }
    try {
      List<SchemaChange> made = receipts.schema(receipt.id());
      SchemaStage.takeAway(made, found);
      receipts.discard(receipt.id());
      return true;
    } catch (Refusal | IOException e) {
      return false;
    }
  }

  /** Whether the change set was applied already: asked before any table is made. */
  private Optional<Ledger.Entry> before(Claim claim) throws Refusal {
    try (WriteTransaction transaction = claim.begin()) {
      return applied(transaction);
    } catch (SQLException e) {
      throw ending.of(e);
    }
  }

  private Optional<Ledger.Entry> applied(WriteTransaction transaction) throws SQLException {
    return transaction
        .ledger()
        .last(receipt.changeSet())
        .filter(last -> last.kind().equals("apply"));
  }

  /** The target with what was made, and with what another run changed before this one's turn. */
  private Copy made(ReceiptWriter writer) throws Refusal {
    gate.writing();
    if (schema.isEmpty()) {
      return found.again();
    }
    gate.schema();
    ending.makesSchema();
    try {
      SchemaStage.make(schema, found, writer);
    } catch (IOException e) {
      throw ending.of(e);
    }
    return found.again();
  }

  private ApplyOutcome rows(Claim claim, Copy target, ReceiptWriter writer) throws Refusal {
    List<ChangeSetHeader.TableColumns> drafted = reviewed.tables();
    List<String> unsafe = TargetTables.notTransactional(target.catalog(), drafted);
    committing.check(unsafe, evenIfNoRollback);
    TargetTables tables = TargetTables.check(target, drafted);
    boolean hanging = Dependents.isPossible(target.catalog(), drafted);
    try (WriteTransaction transaction = claim.begin(target)) {
      Optional<Ledger.Entry> last = applied(transaction);
      if (last.isPresent()) {
        return new ApplyOutcome.AlreadyApplied(last.get());
      }
      committing.writes(transaction, unsafe);
      return write(
          transaction,
          tables,
          means.apply(target),
          writer,
          hanging
              ? Optional.of(new Dependents(transaction, tables, target.catalog(), writer))
              : Optional.empty());
    } catch (SQLException e) {
      throw ending.of(e);
    } catch (IOException e) {
      throw ending.of(e);
    }
  }

  /**
   * The key on the target; a row that was to be added under no number of its own has the source's.
   */
  private static Map<String, Value> keyHere(RowChange change, Map<String, Value> known) {
    boolean isKeyed = change.action() == Action.ADD && change.fresh().isEmpty();
    if (!isKeyed || !known.keySet().containsAll(change.key().keySet())) {
      return change.key();
    }
    Map<String, Value> key = new LinkedHashMap<>();
    change.key().keySet().forEach(column -> key.put(column, known.get(column)));
    return key;
  }

  private ApplyOutcome write(
      WriteTransaction transaction,
      TargetTables tables,
      SiteMap site,
      ReceiptWriter writer,
      Optional<Dependents> dependents)
      throws SQLException, Refusal, IOException {
    String copy = found.name();
    ChangePass pass = ChangePass.ofMade(reviewed);
    Numbers numbers =
        Numbers.settle(
            transaction,
            tables,
            added(fresh -> !fresh.comesBack()).toList(),
            added(fresh -> fresh.comesBack() || fresh.renumbered()).collect(Collectors.toSet()));
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
    ChangePass.ofSettled(reviewed)
        .run(
            chunk -> {
              for (RowChange change : chunk) {
                Table table = tables.table(change.table()).table();
                Map<String, Value> own =
                    change.action() == Action.UPDATE ? change.own() : change.after();
                Map<String, Value> known = numbers.resolveKnown(table, own);
                writer.kept(
                    change.id(),
                    change.action(),
                    change.table(),
                    keyHere(change, known),
                    known,
                    change.fresh());
              }
            });
    ChangePass.overAlike(
        reviewed,
        row ->
            writer.kept(0, Action.UPDATE, row.table(), row.key(), row.values(), Optional.empty()));
    List<Effect> followed = effects.settle();
    List<String> steps = effects.steps();
    writer.effects(followed);
    writer.steps(steps);
    committing.commit(
        transaction, writer, verification.adds(), verification.updates(), verification.removes());
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

  private Stream<RowName> added(Predicate<ReviewedFile.Fresh> wanted) {
    return reviewed.fresh().stream()
        .filter(wanted)
        .filter(added -> reviewed.review().standing(added.change()) == Review.Standing.MADE)
        .map(ReviewedFile.Fresh::row);
  }
}
