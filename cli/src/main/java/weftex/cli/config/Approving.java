package weftex.cli.config;

import java.nio.file.Path;
import java.util.Optional;
import weftex.store.Refusal;
import weftex.store.signature.ApprovalRule;
import weftex.store.signature.Signers;

/**
 * What weftex.yaml says of approvals.
 *
 * @param people how many different people it takes
 * @param signers the file that names whose keys count
 * @param notTheDrafter whether whoever drafted it does not count
 */
public record Approving(int people, Optional<Path> signers, boolean notTheDrafter) {

  /**
   * Reads it.
   *
   * @param folder of weftex.yaml
   * @throws IllegalArgumentException with what is wrong, as a sentence without its end
   */
  static Approving of(PairFile said, Path folder) {
    PairFile.ApprovalsEntry entry =
        said.applying().approvals() == null
            ? new PairFile.ApprovalsEntry(null, null, null)
            : said.applying().approvals();
    int people = entry.people() == null ? 1 : entry.people();
    if (people < 1) {
      throw new IllegalArgumentException("'approvals' must be 1 or more");
    }
    boolean notTheDrafter = entry.notTheDrafter() != null && entry.notTheDrafter();
    if (notTheDrafter && entry.signers() == null) {
      throw new IllegalArgumentException(
          "'not-the-drafter' of 'approvals' needs 'signers', since any other name is anybody's");
    }
    return new Approving(
        people, Optional.ofNullable(entry.signers()).map(folder::resolve), notTheDrafter);
  }

  /**
   * The rule, with the signers as they stand in their file now.
   *
   * @param others a file to be read in place of the one that weftex.yaml names
   */
  public ApprovalRule rule(Optional<Path> others) throws Refusal {
    Optional<Path> file = others.or(() -> signers);
    return new ApprovalRule(
        people,
        file.isPresent() ? Optional.of(Signers.read(file.get())) : Optional.empty(),
        notTheDrafter);
  }
}
