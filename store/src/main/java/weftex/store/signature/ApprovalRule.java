package weftex.store.signature;

import java.time.Duration;
import java.time.Instant;
import java.time.format.DateTimeParseException;
import java.util.ArrayList;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import weftex.core.changeset.ChangeSetContents;
import weftex.core.signoff.Approval;
import weftex.core.signoff.DraftSignature;
import weftex.store.Refusal;
import weftex.store.sshkey.KeyProblem;

/**
 * Which approvals of a change set count, and how many it takes.
 *
 * @param people how many different people must have approved what is applied
 * @param signers whose signatures count; any name counts if empty
 * @param notTheDrafter whether whoever drafted it does not count, which the draft's own signature
 *     tells
 */
public record ApprovalRule(int people, Optional<Signers> signers, boolean notTheDrafter) {
  /** One person, under any name. */
  public static final ApprovalRule USUAL = new ApprovalRule(1, Optional.empty(), false);

  /** Clocks of two machines differ by as much as this. */
  private static final Duration OFF = Duration.ofMinutes(5);

  /**
   * What the approvals of a change set come to.
   *
   * @param names of those who count, each once, in the order of the file
   * @param objections why others do not, a clause each
   */
  public record Counted(List<String> names, List<String> objections) {}

  /** Counts those that stand. */
  public Counted count(ChangeSetContents contents, Instant now) {
    if (signers.isEmpty()) {
      return new Counted(contents.approvers(), List.of());
    }
    Set<String> names = new LinkedHashSet<>();
    List<String> objections = new ArrayList<>();
    Optional<String> drafter = Optional.empty();
    if (notTheDrafter) {
      try {
        drafter = Optional.of(drafter(contents.drafter(), now));
      } catch (KeyProblem e) {
        return new Counted(List.of(), List.of(e.getMessage()));
      }
    }
    for (Approval approval : contents.standing()) {
      try {
        String name = signer(approval, now);
        if (drafter.filter(name::equals).isPresent()) {
          objections.add(name + " drafted it");
        } else {
          names.add(name);
        }
      } catch (KeyProblem e) {
        objections.add("the approval of " + approval.by() + " does not count: " + e.getMessage());
      }
    }
    return new Counted(List.copyOf(names), objections);
  }

  private String drafter(Optional<DraftSignature> drafter, Instant now) throws KeyProblem {
    if (drafter.isEmpty()) {
      throw new KeyProblem("nobody signed the draft, so that it can't be told who drafted it");
    }
    DraftSignature signed = drafter.get();
    try {
      return signers
          .orElseThrow()
          .signer(signed.statement().bytes(), signed.signature(), time(signed.at(), now), now);
    } catch (KeyProblem e) {
      throw new KeyProblem("the draft's signature does not count: " + e.getMessage(), e);
    }
  }

  /**
   * Whose an approval is.
   *
   * @throws KeyProblem if it does not count
   */
  private String signer(Approval approval, Instant now) throws KeyProblem {
    if (approval.signature().isEmpty()) {
      throw new KeyProblem("it is not signed");
    }
    return signers
        .orElseThrow()
        .signer(
            approval.statement().bytes(),
            approval.signature().get(),
            time(approval.at(), now),
            now);
  }

  private static Instant time(String text, Instant now) throws KeyProblem {
    Instant at;
    try {
      at = Instant.parse(text);
    } catch (DateTimeParseException e) {
      throw new KeyProblem("its time is damaged", e);
    }
    if (at.isAfter(now.plus(OFF))) {
      throw new KeyProblem(
          "it is dated " + text + ", and here it is " + now + "; one of the clocks is wrong");
    }
    return at;
  }

  /**
   * Makes sure that a signature that was just made will count.
   *
   * @throws Refusal if not; nothing was written then
   */
  public void check(Approval made, Instant now) throws Refusal {
    if (signers.isEmpty()) {
      return;
    }
    try {
      signer(made, now);
    } catch (KeyProblem e) {
      throw new Refusal(
          Refusal.Kind.WRONG_INPUT,
          "The approval would not count: " + e.getMessage() + ". The change set was not approved.",
          "Sign with the key that " + signers.get().file() + " lists for you.",
          e);
    }
  }
}
