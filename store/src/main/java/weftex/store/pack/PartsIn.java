package weftex.store.pack;

import java.io.IOException;
import java.io.InputStream;

/** Reads a content that is opened part by part. */
public abstract class PartsIn extends InputStream {
  private static final byte[] NOTHING = {};

  private byte[] opened = NOTHING;
  private int next;
  private boolean ended;

  /**
   * The next part, which may be empty.
   *
   * @return null behind the last one
   */
  protected abstract byte[] nextPart() throws IOException;

  @Override
  public final int read() throws IOException {
    byte[] one = new byte[1];
    return read(one, 0, 1) < 0 ? -1 : one[0] & 0xff;
  }

  @Override
  public final int read(byte[] into, int from, int count) throws IOException {
    while (next == opened.length && !ended) {
      byte[] part = nextPart();
      ended = part == null;
      opened = ended ? NOTHING : part;
      next = 0;
    }
    if (next == opened.length || count == 0) {
      return count == 0 ? 0 : -1;
    }
    int some = Math.min(count, opened.length - next);
    System.arraycopy(opened, next, into, from, some);
    next += some;
    return some;
  }
}
