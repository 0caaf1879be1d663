package weftex.store.apply;

import java.io.IOException;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.function.Function;
import java.util.function.LongConsumer;
import weftex.core.change.ChangeSetHeader;
import weftex.core.change.Review;
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
  private final ApprovalRule approvals;
  private final long spare;
  private final Optional<FileAccess> files;

  /**
   * @param tool the version that applies
   * @param by who applies
   */
  public Applier(Receipts receipts, CommitGate gate, String tool, String by) {
    this(receipts, gate, tool, by, ApprovalRule.USUAL, 0, Optional.empty());
  }

  private Applier(
      Receipts receipts,
      CommitGate gate,
      String tool,
      String by,
      ApprovalRule approvals,
      long spare,
      Optional<FileAccess> files) {
    this.receipts = receipts;
    this.gate = gate;
    this.tool = tool;
    this.by = by;
    this.approvals = approvals;
    this.spare = spare;
    this.files = files;
  }

  /** The same, but approvals count by a rule. */
  public Applier needing(ApprovalRule rule) {
    return new Applier(receipts, gate, tool, by, rule, spare, files);
  }

  /** The same, but added rows leave so many IDs free, as others take some before they are there. */
  public Applier leaving(long ids) {
    return new Applier(receipts, gate, tool, by, approvals, ids, files);
  }

  /** The same, but files are put in place, too. */
  public Applier with(FileAccess access) {
    return new Applier(receipts, gate, tool, by, approvals, spare, Optional.of(access));
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
    checkFit(reviewed, site, target);
    if (reviewed.isNothing()) {
      return new ApplyOutcome.Nothing();
    }
    return new ApplyRun(
            receipts,
            gate,
            receipt(reviewed, target),
            reviewed,
            target,
            means,
            new ApplyRun.Manner(evenIfNoRollback, spare, files),
            progress)
        .run();
  }

  private void checkFit(ChangeSetFile reviewed, String site, Copy target) throws Refusal {
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
    checkDecided(reviewed);
  }

  /** Nothing is open, and enough people approved it. */
  private void checkDecided(ChangeSetFile reviewed) throws Refusal {
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
    ApprovalRule.Counted counted = approvals.count(reviewed.contents(), receipts.time());
    if (counted.names().size() < approvals.people()) {
      throw tooFew(counted);
    }
  }

  private Refusal tooFew(ApprovalRule.Counted counted) {
    boolean signed = approvals.signers().isPresent();
    int people = approvals.people();
    String who =
        counted.names().isEmpty() ? "nobody who counts" : String.join(", ", counted.names());
    String why =
        counted.objections().isEmpty() ? "" : " (" + String.join("; ", counted.objections()) + ")";
    String asked =
        signed
            ? ", and it takes " + people + " of the signers in " + approvals.signers().get().file()
            : ", and weftex.yaml asks for " + people + " people";
    return new Refusal(
        Refusal.Kind.UNDECIDED,
        "The change set is approved by " + who + why + asked + ". Nothing was changed.",
        signed
            ? "Let whoever is missing look at it, and approve it with 'weftex review --approve --sign KEY'."
            : "Let somebody else look at it, and approve it with 'weftex review --approve --by NAME'.");
  }

  private static Refusal unfit(String what, String next) {
    return new Refusal(
        Refusal.Kind.PROTECTED,
        "This change set can't be applied here. " + what + " Nothing was changed.",
        next);
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
