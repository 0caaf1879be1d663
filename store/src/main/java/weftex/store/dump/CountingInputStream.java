package weftex.store.dump;

import java.io.FilterInputStream;
import java.io.IOException;
import java.io.InputStream;
import java.util.concurrent.atomic.AtomicLong;

/** Knows how far a file is read, whichever thread reads it. */
final class CountingInputStream extends FilterInputStream {
  private final AtomicLong count = new AtomicLong();

  CountingInputStream(InputStream in) {
    super(in);
  }

  @Override
  public int read() throws IOException {
    int read = in.read();
    count.addAndGet(read < 0 ? 0 : 1);
    return read;
  }

  @Override
  public int read(byte[] into, int from, int length) throws IOException {
    int read = in.read(into, from, length);
    count.addAndGet(Math.max(0, read));
    return read;
  }

  long count() {
    return count.get();
  }
}
