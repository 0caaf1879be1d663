package weftex.core.changeset;

import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.SortedMap;
import java.util.TreeMap;
import weftex.core.change.ChangeSetHeader;
import weftex.core.signoff.Approval;
import weftex.core.signoff.Decision;
import weftex.core.signoff.DraftSignature;
import weftex.core.signoff.Withdrawal;

/**
 * What a whole change set is, its changes aside.
 *
 * @param draft SHA-256 of the drafted part: what the change set is known by, whatever is decided
 * @param alike how many rows both copies have alike
 * @param decisions all of them, in the order of the file
 * @param withdrawn those that were taken back, by number, from 1
 * @param sha256 of the whole file: what a further approval would sign
 * @param standing the approvals after which nothing was decided; none if the last line is something
 *     else
 * @param drafter who drafted it, if that was signed
 */
public record ChangeSetContents(
    ChangeSetHeader header,
    int changes,
    int alike,
    List<Decision> decisions,
    Map<Integer, Withdrawal> withdrawn,
    List<Approval> approvals,
    List<Approval> standing,
    Optional<DraftSignature> drafter,
    String draft,
    String sha256) {

  /** The decisions that hold, by number, in the order of the file. */
  public SortedMap<Integer, Decision> held() {
    SortedMap<Integer, Decision> held = new TreeMap<>();
    for (int i = 0; i < decisions.size(); i++) {
      if (!withdrawn.containsKey(i + 1)) {
        held.put(i + 1, decisions.get(i));
      }
    }
    return held;
  }

  /** Whether somebody approved what stands there now. */
  public boolean isApproved() {
    return !standing.isEmpty();
  }

  /** Who approved what stands there now, each once. */
  public List<String> approvers() {
    return standing.stream().map(Approval::by).distinct().toList();
  }
}
