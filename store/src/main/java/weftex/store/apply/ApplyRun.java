package weftex.store.apply;

import java.io.IOException;
import java.sql.SQLException;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.function.Function;
import java.util.function.LongConsumer;
import java.util.stream.Collectors;
import weftex.core.change.Action;
import weftex.core.change.ChangeSetHeader;
import weftex.core.change.DecidedChange;
import weftex.core.change.Review;
import weftex.core.change.SchemaChange;
import weftex.core.file.FileChoice;
import weftex.core.file.FileRows;
import weftex.core.file.Sight;
import weftex.core.site.SiteMap;
import weftex.store.Refusal;
import weftex.store.changeset.ChangePass;
import weftex.store.changeset.ChangeSetFile;
import weftex.store.changeset.NumberedRow;
import weftex.store.copy.Claim;
import weftex.store.copy.Copy;
import weftex.store.engine.AfterEffects;
import weftex.store.engine.CommitGate;
import weftex.store.engine.Committing;
import weftex.store.engine.Drift;
import weftex.store.engine.Ending;
import weftex.store.engine.Engine;
import weftex.store.engine.Numbers;
import weftex.store.engine.Run;
import weftex.store.engine.SchemaStage;
import weftex.store.engine.TargetTables;
import weftex.store.file.Folder;
import weftex.store.placing.FileAccess;
import weftex.store.placing.FileSource;
import weftex.store.placing.FileStage;
import weftex.store.placing.FileStep;
import weftex.store.receipt.Effect;
import weftex.store.receipt.Receipt;
import weftex.store.receipt.ReceiptWriter;
import weftex.store.receipt.Receipts;
import weftex.store.rows.Ledger;
import weftex.store.rows.WriteTransaction;

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
  private final List<SchemaChange> schema;
  private final Ending ending;
  private final Committing committing;
  private final List<FileStep> fileSteps = new ArrayList<>();
  private Optional<FileStage> files = Optional.empty();
  private List<Drift> leftBefore = List.of();

  /**
   * How it is applied.
   *
   * @param evenIfNoRollback whether tables are written whose engine can't roll back
   * @param spare how many IDs are left free for others before those of added rows
   * @param files what is needed to put files in place; empty if that can't be
   * @param progress is told how many changes have been passed over
   */
  record Manner(
      boolean evenIfNoRollback, long spare, Optional<FileAccess> files, LongConsumer progress) {}

  /**
   * What is written.
   *
   * @param means what its tables mean, once new ones are made
   */
  record Target(Copy copy, Function<Copy, SiteMap> means) {}

  ApplyRun(
      Receipts receipts,
      CommitGate gate,
      Receipt receipt,
      ChangeSetFile reviewed,
      Target target,
      Manner manner)
      throws Refusal, IOException {
    this.receipts = receipts;
    this.gate = gate;
    this.receipt = receipt;
    this.reviewed = reviewed;
    this.found = target.copy();
    this.means = target.means();
    this.manner = manner;
    this.schema = reviewed.madeSchema();
    this.ending = new Ending("apply", found);
    this.committing = Committing.of(receipts, receipt, gate, ending);
  }

  ApplyOutcome run() throws Refusal, IOException {
    findFiles();
    try (Claim claim = found.claim()) {
      if (!schema.isEmpty() || !fileSteps.isEmpty()) {
        Optional<Ledger.Entry> before = before(claim);
        if (before.isPresent()) {
          return new ApplyOutcome.AlreadyApplied(before.get());
        }
      }
      try (ReceiptWriter writer = receipts.begin(receipt)) {
        ApplyOutcome outcome = made(claim, writer);
        if (ending.isOpen()) {
          takeFilesBack();
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

  private ApplyOutcome made(Claim claim, ReceiptWriter writer) throws Refusal, IOException {
    Copy target = made(writer);
    if (!fileSteps.isEmpty()) {
      Optional<ApplyOutcome> drifted = bringFiles(target, writer);
      if (drifted.isPresent()) {
        return drifted.get();
      }
    }
    return rows(claim, target, writer);
  }

  private void findFiles() throws Refusal, IOException {
    if (reviewed.outlines().stream().noneMatch(FileRows::isFile)) {
      return;
    }
    try {
      new ChangePass(reviewed)
          .overMade(
              changes ->
                  changes.stream()
                      .filter(FileRows::isFile)
                      .map(FileStep::of)
                      .forEach(fileSteps::add));
    } catch (SQLException e) {
      throw new IllegalStateException("no server is asked", e);
    }
    if (!fileSteps.isEmpty() && !manner.files().map(f -> f.folders().areOpen()).orElse(false)) {
      throw new Refusal(
          Refusal.Kind.PROTECTED,
          "The change set brings "
              + fileSteps.size()
              + (fileSteps.size() == 1 ? " file" : " files")
              + ", and "
              + manner.files().map(f -> f.folders().problem()).orElse("no folder is named")
              + ". Nothing was changed.",
          "See to 'folder' in weftex.yaml, or leave the files out: 'weftex draft --again"
              + " --without-files'.");
    }
  }

  /** Copies files beside their places, and puts new ones in place. */
  private Optional<ApplyOutcome> bringFiles(Copy target, ReceiptWriter writer) throws Refusal {
    FileAccess access = manner.files().orElseThrow();
    Folder source = access.folders().of(receipt.from()).folder();
    FileStage stage =
        new FileStage(
            access,
            receipt.id(),
            target,
            means.apply(target),
            FileSource.of(source, receipt.from()),
            fileSteps);
    try {
      List<Drift> drifts = stage.drifts();
      if (!drifts.isEmpty()) {
        return Optional.of(ApplyOutcome.Drifted.of(drifts));
      }
      if (stage.count(Action.REMOVE) > 0) {
        stage.findNamers();
        leftBefore = stage.leaveNamed(going());
      }
      gate.makes();
      files = Optional.of(stage);
      stage.prepare(writer);
      return Optional.empty();
    } catch (IOException e) {
      throw stage.refusal(e);
    }
  }

  /** The rows that are going to be gone or changed. */
  private Set<Sight.Namer> going() {
    return reviewed.outlines().stream()
        .filter(change -> change.action() != Action.ADD && !FileRows.isFile(change))
        .filter(change -> reviewed.review().standing(change.id()) == Review.Standing.MADE)
        .map(change -> Sight.Namer.of(change.table(), change.key()))
        .collect(Collectors.toSet());
  }

  private void takeFilesBack() throws IOException {
    if (files.isPresent()) {
      files.get().takeBack();
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
      takeFilesBack();
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
    gate.makes();
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

  private boolean filesTravel() {
    return manner.files().map(access -> access.folders().areOpen()).orElse(false)
        && !reviewed.header().selection().containsKey(FileChoice.WITHOUT);
  }

  private long countFiles(Action action) {
    return files.map(stage -> stage.count(action)).orElse(0);
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
    Engine<DecidedChange> engine = new Engine<>(run, policy, manner.progress());
    if (!engine.run(new ApplySteps(pass, tables, numbers))) {
      return policy.drifted();
    }
    pass.overKept(new KeptRows(tables, numbers, writer));
    List<Effect> followed = run.effects().settle();
    List<String> steps = run.effects().steps(filesTravel());
    writer.effects(followed);
    writer.steps(steps);
    return committed(run, numbers, policy, engine, followed, steps);
  }

  /** Commits, and says what was made. */
  private ApplyOutcome committed(
      Run run,
      Numbers numbers,
      ApplyPolicy policy,
      Engine<DecidedChange> engine,
      List<Effect> followed,
      List<String> steps)
      throws SQLException, Refusal, IOException {
    long newFiles = countFiles(Action.ADD);
    long replaced = countFiles(Action.UPDATE);
    long removed = countFiles(Action.REMOVE);
    committing.commit(
        run.transaction(),
        run.receipt(),
        engine.adds() + newFiles,
        engine.updates() + replaced,
        engine.removes() + removed);
    List<Drift> left = new ArrayList<>(leftBefore);
    if (files.isPresent()) {
      left.addAll(files.get().finish());
    }
    run.receipt().committed(receipts.now());
    return new ApplyOutcome.Applied(
        receipt.id(),
        schema,
        engine.adds(),
        engine.updates(),
        engine.removes(),
        new ApplyOutcome.FileCounts((int) newFiles, (int) replaced, (int) removed, left),
        numbers.renumbered(),
        policy.altered(),
        followed,
        steps);
  }
}
