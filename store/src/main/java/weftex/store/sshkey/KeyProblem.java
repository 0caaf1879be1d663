package weftex.store.sshkey;

/** Why a key, or what was signed by it, does not count; the message is a clause about it. */
public final class KeyProblem extends Exception {
  private static final long serialVersionUID = 1;

  public KeyProblem(String message) {
    super(message);
  }

  public KeyProblem(String message, Exception cause) {
    super(message, cause);
  }
}
