package weftex.core.signoff;

/**
 * Who drafted a change set, as its drafter has signed.
 *
 * @param by who, in words
 * @param at when, as an ISO 8601 instant
 * @param draft SHA-256 of the drafted part, in hexadecimal
 * @param signature as text, between its two lines
 */
public record DraftSignature(String by, String at, String draft, String signature) {

  /** What was signed. */
  public Statement statement() {
    return new Statement("draft", draft, at, by);
  }
}
