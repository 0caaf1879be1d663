package weftex.store.apply;

import java.io.IOException;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.function.Function;
import java.util.function.LongConsumer;
import weftex.core.change.ChangeSetHeader;
import weftex.core.site.SiteMap;
import weftex.store.Refusal;
import weftex.store.changeset.ChangeSetFile;
import weftex.store.copy.Copy;
import weftex.store.engine.CommitGate;
import weftex.store.placing.FileAccess;
import weftex.store.receipt.Receipt;
import weftex.store.receipt.Receipts;
import weftex.store.signature.ApprovalRule;

/**
 * Applies an approved change set: new tables and columns first, then the rows in one transaction.
 * Three passes over the file: lock every row and compare it with what the reviewer saw; write; read
 * every row again and compare it with what was meant. The receipt is on disk before the commit is
 * sent.
 */
public final class Applier {
  private final Receipts receipts;
  private final CommitGate gate;
  private final String tool;
  private final String by;
  private final Terms terms;
  private final ApplyChecks checks;

  /**
   * @param tool the version that applies
   * @param by who applies
   */
  public Applier(Receipts receipts, CommitGate gate, String tool, String by) {
    this(receipts, gate, tool, by, new Terms(ApprovalRule.USUAL, 0, Optional.empty()));
  }

  /**
   * What is asked for, and given.
   *
   * @param approvals how they count
   * @param spare how many IDs are left free before those of added rows
   * @param files what is needed to put files in place
   */
  private record Terms(ApprovalRule approvals, long spare, Optional<FileAccess> files) {}

  private Applier(Receipts receipts, CommitGate gate, String tool, String by, Terms terms) {
    this.receipts = receipts;
    this.gate = gate;
    this.tool = tool;
    this.by = by;
    this.terms = terms;
    this.checks = new ApplyChecks(terms.approvals(), receipts);
  }

  /** The same, but approvals count by a rule. */
  public Applier needing(ApprovalRule rule) {
    return new Applier(receipts, gate, tool, by, new Terms(rule, terms.spare(), terms.files()));
  }

  /** The same, but added rows leave so many IDs free, as others take some before they are there. */
  public Applier leaving(long ids) {
    return new Applier(receipts, gate, tool, by, new Terms(terms.approvals(), ids, terms.files()));
  }

  /** The same, but files are put in place, too. */
  public Applier with(FileAccess access) {
    Terms others = new Terms(terms.approvals(), terms.spare(), Optional.of(access));
    return new Applier(receipts, gate, tool, by, others);
  }

  /**
   * Applies.
   *
   * @param site the site that the change set must be for
   * @param means what a copy's tables mean: which counters and caches follow from the changes. It
   *     is asked once new tables and columns are made
   * @param evenIfNoRollback whether tables are written whose engine can't roll back
   * @param progress is told how many changes have been passed over, three times as many as there
   *     are in all
   * @throws Refusal if the change set is not fit to be applied here; nothing was changed
   */
  public ApplyOutcome apply(
      ChangeSetFile reviewed,
      String site,
      Copy target,
      Function<Copy, SiteMap> means,
      boolean evenIfNoRollback,
      LongConsumer progress)
      throws Refusal, IOException {
    checks.checkFit(reviewed, site, target);
    if (reviewed.isNothing()) {
      return new ApplyOutcome.Nothing();
    }
    return new ApplyRun(
            receipts,
            gate,
            receipt(reviewed, target),
            reviewed,
            new ApplyRun.Target(target, means),
            new ApplyRun.Manner(evenIfNoRollback, terms.spare(), terms.files(), progress))
        .run();
  }

  /** The tables that are written, and those of which rows may go along. */
  private static List<ChangeSetHeader.TableColumns> tables(ChangeSetFile reviewed, Copy target) {
    List<ChangeSetHeader.TableColumns> tables = new ArrayList<>(reviewed.tables());
    tables.addAll(Dependents.outside(target.catalog(), tables));
    return tables;
  }

  private Receipt receipt(ChangeSetFile reviewed, Copy target) {
    ChangeSetHeader header = reviewed.contents().header();
    return new Receipt(
        receipts.newId(),
        Receipt.Kind.APPLY,
        new Receipt.Way(header.site(), header.from(), header.into(), target.spec().place()),
        new Receipt.Changes(
            reviewed.contents().draft(),
            reviewed.file().getFileName().toString(),
            reviewed.contents().approvals()),
        new Receipt.Author(by, receipts.now(), tool),
        tables(reviewed, target),
        Receipt.Ending.NONE);
  }
}
