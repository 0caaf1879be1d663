package weftex.store.pack;

import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.io.OutputStream;
import java.nio.ByteBuffer;
import java.nio.ByteOrder;

/**
 * Compresses frame by frame. Each time that it is flushed, and each time that a frame is full, what
 * was written so far is whole frames in the stream behind it, which is flushed then, too.
 *
 * <p>Before each frame stands a skippable frame with two numbers of 32 bits, the length of the
 * frame and of its content, so that any place is found without reading what is before it. Other
 * programs pass over it, as RFC 8878 says.
 */
public final class FrameWriter extends OutputStream {
  /** Room for what is gathered; to read a place costs as much as to read so many bytes. */
  static final int FRAME = 1 << 18;

  /** Of the sixteen numbers that mark a skippable frame. */
  static final int SKIPPABLE = 0x184D2A57;

  /** The skippable frame: its mark, its length, and the two numbers. */
  static final int HEAD = 16;

  static final int NUMBERS = 8;

  private static final int LEVEL = 3;

  private final OutputStream out;
  private final byte[] pending = new byte[FRAME];
  private int length;

  /**
   * @param out is closed with this one
   */
  public FrameWriter(OutputStream out) {
    this.out = out;
  }

  /** Whole frames that can be appended to a file. */
  static byte[] frames(byte[] content) throws IOException {
    ByteArrayOutputStream frames = new ByteArrayOutputStream();
    try (FrameWriter writer = new FrameWriter(frames)) {
      writer.write(content);
    }
    return frames.toByteArray();
  }

  @Override
  public void write(int each) throws IOException {
    write(new byte[] {(byte) each}, 0, 1);
  }

  @Override
  public void write(byte[] bytes, int from, int count) throws IOException {
    int done = 0;
    while (done < count) {
      int some = Math.min(count - done, FRAME - length);
      System.arraycopy(bytes, from + done, pending, length, some);
      length += some;
      done += some;
      if (length == FRAME) {
        flush();
      }
    }
  }

  @Override
  public void flush() throws IOException {
    if (length > 0) {
      byte[] frame = Frame.of(pending, 0, length, LEVEL);
      ByteBuffer head = ByteBuffer.allocate(HEAD).order(ByteOrder.LITTLE_ENDIAN);
      head.putInt(SKIPPABLE).putInt(NUMBERS).putInt(frame.length).putInt(length);
      length = 0;
      out.write(head.array());
      out.write(frame);
    }
    out.flush();
  }

  @Override
  public void close() throws IOException {
    flush();
    out.close();
  }
}
