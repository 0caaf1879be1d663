package weftex.core.value;

/** A value is not written as it should be, or is larger than Weftex reads. Nothing was changed. */
public final class MalformedValue extends Exception {
  private static final long serialVersionUID = 1;

  private final int offset;

  /**
   * @param offset where in the bytes reading stopped
   * @param what what is wrong there, in a few words
   */
  public MalformedValue(int offset, String what) {
    // Thrown for every text that merely looks structured, so it must be cheap.
    super(what, null, false, false);
    this.offset = offset;
  }

  /** Where in the bytes reading stopped. */
  public int offset() {
    return offset;
  }
}
