package weftex.store.apply;

import java.io.IOException;
import java.sql.SQLException;
import java.util.HashSet;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.function.LongConsumer;
import weftex.core.change.SchemaChange;
import weftex.core.file.Sight;
import weftex.core.site.SiteMap;
import weftex.store.Refusal;
import weftex.store.copy.Claim;
import weftex.store.copy.Copy;
import weftex.store.engine.AfterEffects;
import weftex.store.engine.CommitGate;
import weftex.store.engine.Committing;
import weftex.store.engine.Ending;
import weftex.store.engine.Engine;
import weftex.store.engine.Run;
import weftex.store.engine.SchemaStage;
import weftex.store.engine.TargetTables;
import weftex.store.placing.FileAccess;
import weftex.store.receipt.Receipt;
import weftex.store.receipt.ReceiptRows;
import weftex.store.receipt.ReceiptWriter;
import weftex.store.receipt.Receipts;
import weftex.store.rows.Ledger;
import weftex.store.rows.WriteTransaction;

/** Takes an applied change set back, row by row, in one transaction. */
public final class Undoer {
  private final Receipts receipts;
  private final CommitGate gate;
  private final String tool;
  private final String by;
  private final Optional<FileAccess.Opening> files;
  private final UndoneFiles undoneFiles;

  /**
   * @param tool the version that undoes
   * @param by who undoes
   */
  public Undoer(Receipts receipts, CommitGate gate, String tool, String by) {
    this.receipts = receipts;
    this.gate = gate;
    this.tool = tool;
    this.by = by;
    this.files = Optional.empty();
    this.undoneFiles = new UndoneFiles(receipts, files);
  }

  private Undoer(Undoer other, FileAccess.Opening access) {
    this.receipts = other.receipts;
    this.gate = other.gate;
    this.tool = other.tool;
    this.by = other.by;
    this.files = Optional.of(access);
    this.undoneFiles = new UndoneFiles(receipts, files);
  }

  /** The same, but files are taken back, too. */
  public Undoer with(FileAccess.Opening access) {
    return new Undoer(this, access);
  }

  /**
   * Undoes.
   *
   * @param applied the receipt of the apply
   * @param site what the target's tables mean: rows that came to hang on an added one keep it from
   *     being removed
   * @param terms what is taken back in spite of what speaks against it
   * @param progress is told how many rows have been passed over, three times as many as there are
   */
  public UndoOutcome undo(
      Receipt applied, Copy found, SiteMap site, Terms terms, LongConsumer progress)
      throws Refusal, IOException {
    checkPlace(applied, found);
    Ending ending = new Ending("undo", found);
    List<String> unsafe = TargetTables.notTransactional(found.catalog(), applied.tables());
    Receipt receipt = receipt(applied, found, terms.changes().isPresent());
    Committing committing = Committing.of(receipts, receipt, gate, ending);
    committing.check(unsafe, terms.evenIfNoRollback());
    UndoFiles filesBack = undoneFiles.filesBack(applied, receipt, found, site, terms);
    try (Claim claim = found.claim();
        WriteTransaction transaction = claim.begin()) {
      // Another run may have changed the tables before it was this one's turn.
      Copy target = found.again();
      boolean vouchedFor = check(applied, target, transaction.ledger());
      return new Writing(applied, receipt, target, site, terms, progress)
          .run(transaction, committing, unsafe, filesBack)
          .vouchedFor(vouchedFor);
    } catch (SQLException e) {
      throw ending.of(e);
    } catch (IOException e) {
      throw ending.of(e);
    } catch (Refusal e) {
      throw ending.of(e);
    } finally {
      if (ending.isOpen()) {
        filesBack.takeBack();
        receipts.discard(receipt.id());
      }
    }
  }

  private static void checkPlace(Receipt applied, Copy found) throws Refusal {
    if (!applied.target().equals(found.spec().place())) {
      throw new Refusal(
          Refusal.Kind.PROTECTED,
          "It was applied to "
              + applied.target()
              + ", and "
              + found.name()
              + " is now "
              + found.spec().place()
              + ". Nothing was changed.",
          "Point weftex.yaml at the copy that it was applied to.");
    }
  }

  /** An undo under the claim on its target. */
  private final class Writing {
    private final Receipt applied;
    private final Receipt receipt;
    private final Copy target;
    private final SiteMap site;
    private final Terms terms;
    private final LongConsumer progress;

    Writing(
        Receipt applied,
        Receipt receipt,
        Copy target,
        SiteMap site,
        Terms terms,
        LongConsumer progress) {
      this.applied = applied;
      this.receipt = receipt;
      this.target = target;
      this.site = site;
      this.terms = terms;
      this.progress = progress;
    }

    UndoOutcome run(
        WriteTransaction transaction,
        Committing committing,
        List<String> unsafe,
        UndoFiles filesBack)
        throws SQLException, IOException, Refusal {
      List<SchemaChange> schema = receipt.part() ? List.of() : receipts.schema(applied.id());
      boolean schemaLeft = SchemaStage.isAnyLeft(schema, target);
      committing.writes(transaction, unsafe);
      filesBack.checkDrifts();
      try (ReceiptRows touched = receipts.rows(applied.id());
          ReceiptWriter writer = receipts.begin(receipt)) {
        gate.writing();
        for (SchemaChange change : schema) {
          writer.schema(change);
        }
        Run run = run(transaction, writer);
        UndoSteps steps = new UndoSteps(touched, run.tables(), site, terms::includes);
        UndoPolicy policy = policy(run, steps, touched);
        Engine<UndoneRow> engine = new Engine<>(run, policy, progress);
        engine.run(steps);
        filesBack.leaveNamed(() -> undone(touched, policy.changes().keySet()));
        if (!filesBack.isNothing()) {
          gate.makes();
          filesBack.prepare(writer);
        }
        if (engine.touched() == 0 && !schemaLeft && filesBack.isNothing()) {
          return outcome("", engine, policy).with(filesBack.outcome());
        }
        if (engine.touched() > 0) {
          if (steps.areAll()) {
            run.effects().takeBack(touched.effects());
          }
          writer.effects(run.effects().settle());
        }
        return committed(run, committing, filesBack, schema, policy, engine);
      }
    }

    private UndoOutcome committed(
        Run run,
        Committing committing,
        UndoFiles filesBack,
        List<SchemaChange> schema,
        UndoPolicy policy,
        Engine<UndoneRow> engine)
        throws SQLException, IOException, Refusal {
      ApplyOutcome.FileCounts counts = filesBack.counts();
      committing.commit(
          run.transaction(),
          run.receipt(),
          engine.adds() + counts.added(),
          engine.updates() + counts.replaced(),
          engine.removes() + counts.removed());
      filesBack.finish();
      // Until the receipt says that it is closed, the next run takes away what is left.
      SchemaStage.TakenAway away = SchemaStage.takeAway(schema, target);
      run.receipt().committed(receipts.now());
      return outcome(receipt.id(), engine, policy)
          .with(away, target.name())
          .with(filesBack.outcome());
    }

    private Run run(WriteTransaction transaction, ReceiptWriter writer)
        throws IOException, Refusal {
      TargetTables tables =
          TargetTables.forUndo(target, applied.tables(), receipts.schema(applied.id()));
      return new Run(
          transaction, tables, writer, new AfterEffects(transaction, tables, site), target.name());
    }

    private UndoPolicy policy(Run run, UndoSteps steps, ReceiptRows touched)
        throws IOException, Refusal {
      InUse inUse =
          new InUse(
              run.transaction(),
              run.tables(),
              site,
              steps::row,
              touched.adds(),
              terms.alsoChanged());
      return new UndoPolicy(run, steps, inUse, terms.alsoChanged());
    }
  }

  /** The rows of some changes. */
  private static Set<Sight.Namer> undone(ReceiptRows touched, Set<Integer> changes)
      throws IOException {
    Set<Sight.Namer> undone = new HashSet<>();
    for (int i = 0; i < touched.size(); i++) {
      ReceiptRows.Touched row = touched.get(i);
      if (changes.contains(row.change())) {
        undone.add(Sight.Namer.of(row.table(), row.key()));
      }
    }
    return undone;
  }

  /**
   * What is taken back in spite of what speaks against it.
   *
   * @param alsoChanged rows that changed after the apply
   * @param evenIfNoRollback rows of tables whose engine can't roll back
   * @param changes the numbers of the changes that are taken back; empty for all, and then new
   *     tables and columns go, too
   */
  public record Terms(
      boolean alsoChanged, boolean evenIfNoRollback, Optional<Set<Integer>> changes) {

    /** Whether a change is taken back. */
    boolean includes(int change) {
      return changes.isEmpty() || changes.get().contains(change);
    }

    /** All changes. */
    public static Terms all(boolean alsoChanged, boolean evenIfNoRollback) {
      return new Terms(alsoChanged, evenIfNoRollback, Optional.empty());
    }
  }

  /** Whether the target's ledger vouches for the receipt. */
  private boolean check(Receipt applied, Copy target, Ledger ledger)
      throws SQLException, Refusal, IOException {
    Optional<Ledger.Entry> entry = ledger.find(applied.id());
    if (entry.isEmpty()) {
      throw new Refusal(
          Refusal.Kind.PROTECTED,
          target.name()
              + " does not know of the apply "
              + applied.id()
              + ": its ledger has no entry of it, as if an older state had been restored. Nothing was changed.",
          "See what 'weftex compare' says of " + target.name() + ".");
    }
    return receipts.check(applied.id(), entry.get());
  }

  private static UndoOutcome outcome(String receipt, Engine<UndoneRow> engine, UndoPolicy policy) {
    return new UndoOutcome(
        receipt,
        engine.removes(),
        engine.updates(),
        engine.adds(),
        policy.leftAlone(),
        ApplyOutcome.FileCounts.NONE,
        List.of(),
        policy.changes(),
        true);
  }

  private Receipt receipt(Receipt applied, Copy target, boolean part) {
    return new Receipt(
        receipts.newId(),
        Receipt.Kind.undo(applied.id(), part),
        new Receipt.Way(applied.site(), applied.from(), applied.into(), target.spec().place()),
        applied.changes(),
        new Receipt.Author(by, receipts.now(), tool),
        applied.tables(),
        Receipt.Ending.NONE);
  }
}
