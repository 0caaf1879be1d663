package weftex.cli.screen;

import weftex.core.signoff.Approval;
import weftex.store.Refusal;

/** What becomes of an approval before it is written. */
public interface ApprovalSigning {
  /** Leaves it as it is. */
  ApprovalSigning NONE = approval -> approval;

  /**
   * The approval as it is written, signed if that is asked for; a passphrase may be asked for on
   * the terminal.
   *
   * @throws Refusal if it would not count; nothing is written then
   */
  Approval signed(Approval approval) throws Refusal;
}
