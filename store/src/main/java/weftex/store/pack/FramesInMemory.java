package weftex.store.pack;

import java.io.ByteArrayInputStream;
import java.io.InputStream;
import java.util.Arrays;

/** Frames that are in memory. */
record FramesInMemory(byte[] bytes) implements Frames.Source {
  @Override
  public InputStream open() {
    return new ByteArrayInputStream(bytes);
  }

  @Override
  public byte[] at(long offset, int length) {
    return Arrays.copyOfRange(bytes, (int) offset, (int) offset + length);
  }
}
