package weftex.store.apply;

import java.io.IOException;
import java.sql.SQLException;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.function.Function;
import java.util.function.LongConsumer;
import java.util.stream.Collectors;
import weftex.core.change.Action;
import weftex.core.change.Alike;
import weftex.core.change.ChangeSetHeader;
import weftex.core.change.DecidedChange;
import weftex.core.change.KeptChange;
import weftex.core.change.SchemaChange;
import weftex.core.row.Table;
import weftex.core.row.Value;
import weftex.core.site.SiteMap;
import weftex.store.Refusal;
import weftex.store.changeset.ChangePass;
import weftex.store.changeset.ChangeSetFile;
import weftex.store.changeset.NumberedRow;
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
  private final ChangeSetFile reviewed;
  private final Copy found;
  private final Function<Copy, SiteMap> means;
  private final Manner manner;
  private final LongConsumer progress;
  private final List<SchemaChange> schema;
  private final Ending ending;
  private final Committing committing;

  /**
   * How it is applied.
   *
   * @param evenIfNoRollback whether tables are written whose engine can't roll back
   * @param spare how many IDs are left free for others before those of added rows
   */
  record Manner(boolean evenIfNoRollback, long spare) {}

  ApplyRun(
      Receipts receipts,
      CommitGate gate,
      Receipt receipt,
      ChangeSetFile reviewed,
      Copy found,
      Function<Copy, SiteMap> means,
      Manner manner,
      LongConsumer progress) {
    this.receipts = receipts;
    this.gate = gate;
    this.receipt = receipt;
    this.reviewed = reviewed;
    this.found = found;
    this.means = means;
    this.manner = manner;
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
    committing.check(unsafe, manner.evenIfNoRollback());
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

  /** Notes what stays as it is, so that the next comparison does not ask again. */
  private record Kept(TargetTables tables, Numbers numbers, ReceiptWriter writer)
      implements ChangePass.KeptSink {

    @Override
    public void kept(KeptChange change) throws IOException, Refusal {
      Table table = tables.table(change.table()).table();
      Map<String, Value> known = numbers.resolveKnown(table, change.own());
      writer.kept(
          change.id(),
          change.action(),
          change.table(),
          keyHere(change, known),
          known,
          change.fresh());
    }

    @Override
    public void alike(Alike row) throws IOException {
      Action action = row.isGone() ? Action.REMOVE : Action.UPDATE;
      writer.kept(0, action, row.table(), row.key(), row.values(), Optional.empty());
    }

    /**
     * The key on the target; a row that was to be added under no number of its own has the
     * source's.
     */
    private static Map<String, Value> keyHere(KeptChange change, Map<String, Value> known) {
      boolean isKeyed = change.action() == Action.ADD && change.fresh().isEmpty();
      if (!isKeyed || !known.keySet().containsAll(change.key().keySet())) {
        return change.key();
      }
      Map<String, Value> key = new LinkedHashMap<>();
      change.key().keySet().forEach(column -> key.put(column, known.get(column)));
      return key;
    }
  }

  private ApplyOutcome write(
      WriteTransaction transaction,
      TargetTables tables,
      SiteMap site,
      ReceiptWriter writer,
      Optional<Dependents> dependents)
      throws SQLException, Refusal, IOException {
    ChangePass pass = new ChangePass(reviewed);
    List<NumberedRow> added = reviewed.added();
    Numbers numbers =
        Numbers.settle(
            transaction,
            tables,
            added.stream().filter(row -> !row.comesBack()).map(NumberedRow::row).toList(),
            added.stream()
                .filter(row -> row.comesBack() || row.renumbered())
                .map(NumberedRow::row)
                .collect(Collectors.toSet()),
            manner.spare());
    Run run =
        new Run(
            transaction, tables, writer, new AfterEffects(transaction, tables, site), found.name());
    ApplyPolicy policy = new ApplyPolicy(run, numbers, dependents);
    Engine<DecidedChange> engine = new Engine<>(run, policy, progress);
    if (!engine.run(new ApplySteps(pass, tables, numbers))) {
      return policy.drifted();
    }
    pass.overKept(new Kept(tables, numbers, writer));
    List<Effect> followed = run.effects().settle();
    List<String> steps = run.effects().steps();
    writer.effects(followed);
    writer.steps(steps);
    committing.commit(transaction, writer, engine.adds(), engine.updates(), engine.removes());
    writer.committed(receipts.now());
    return new ApplyOutcome.Applied(
        receipt.id(),
        schema,
        engine.adds(),
        engine.updates(),
        engine.removes(),
        numbers.renumbered(),
        policy.altered(),
        followed,
        steps);
  }
}
