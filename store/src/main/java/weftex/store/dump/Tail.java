package weftex.store.dump;

import java.io.FilterInputStream;
import java.io.IOException;
import java.io.InputStream;
import java.nio.charset.StandardCharsets;
import java.util.Arrays;

/** Remembers the end of what was read. */
final class Tail extends FilterInputStream {
  private static final int KEPT = 400;
  private byte[] last = new byte[0];

  Tail(InputStream in) {
    super(in);
  }

  @Override
  public int read(byte[] into, int from, int length) throws IOException {
    int read = in.read(into, from, length);
    if (read >= KEPT) {
      last = Arrays.copyOfRange(into, from + read - KEPT, from + read);
    } else if (read > 0) {
      byte[] all = Arrays.copyOf(last, last.length + read);
      System.arraycopy(into, from, all, last.length, read);
      last = Arrays.copyOfRange(all, Math.max(0, all.length - KEPT), all.length);
    }
    return read;
  }

  String text() {
    return new String(last, StandardCharsets.UTF_8);
  }
}
