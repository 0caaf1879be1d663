package weftex.store.seal;

import java.io.IOException;
import java.io.OutputStream;

/** Gathers the content of a part, and seals it. */
final class SealedWriting extends OutputStream {
  private static final int PART = 1 << 20;

  private final OutputStream out;
  final Receivers receivers;
  private final byte[] pending = new byte[PART];
  private final boolean byFlush;
  private int length;

  SealedWriting(OutputStream out, Receivers receivers, boolean byFlush) {
    this.out = out;
    this.receivers = receivers;
    this.byFlush = byFlush;
  }

  @Override
  public void write(int each) throws IOException {
    write(new byte[] {(byte) each}, 0, 1);
  }

  @Override
  public void write(byte[] bytes, int from, int count) throws IOException {
    int done = 0;
    while (done < count) {
      int some = Math.min(count - done, PART - length);
      System.arraycopy(bytes, from + done, pending, length, some);
      length += some;
      done += some;
      if (length == PART) {
        seal();
      }
    }
  }

  private void seal() throws IOException {
    if (length > 0) {
      out.write(SealedFile.part(receivers, pending, length));
      length = 0;
    }
  }

  @Override
  public void flush() throws IOException {
    if (byFlush) {
      seal();
      out.flush();
    }
  }

  @Override
  public void close() throws IOException {
    seal();
    out.flush();
  }
}
