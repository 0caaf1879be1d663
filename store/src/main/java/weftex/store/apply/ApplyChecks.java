package weftex.store.apply;

import java.util.ArrayList;
import java.util.List;
import weftex.core.change.ChangeSetHeader;
import weftex.core.change.Review;
import weftex.store.Refusal;
import weftex.store.changeset.ChangeSetFile;
import weftex.store.copy.Copy;
import weftex.store.receipt.Receipts;
import weftex.store.signature.ApprovalRule;

/** Whether a change set may be applied to a target. */
final class ApplyChecks {

  private final ApprovalRule approvals;
  private final Receipts receipts;

  ApplyChecks(ApprovalRule approvals, Receipts receipts) {
    this.approvals = approvals;
    this.receipts = receipts;
  }

  void checkFit(ChangeSetFile reviewed, String site, Copy target) throws Refusal {
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
  void checkDecided(ChangeSetFile reviewed) throws Refusal {
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

  Refusal tooFew(ApprovalRule.Counted counted) {
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

  static Refusal unfit(String what, String next) {
    return new Refusal(
        Refusal.Kind.PROTECTED,
        "This change set can't be applied here. " + what + " Nothing was changed.",
        next);
  }
}
