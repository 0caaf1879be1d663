package weftex.store.signature;

/** Why a signature does not count; the message is a clause about it. */
public final class SignatureProblem extends Exception {
  private static final long serialVersionUID = 1;

  SignatureProblem(String message) {
    super(message);
  }

  SignatureProblem(String message, Exception cause) {
    super(message, cause);
  }
}
