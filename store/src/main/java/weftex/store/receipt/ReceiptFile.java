package weftex.store.receipt;

import java.io.BufferedInputStream;
import java.io.Closeable;
import java.io.IOException;
import java.io.InputStream;
import java.io.OutputStream;
import java.nio.ByteBuffer;
import java.nio.channels.Channels;
import java.nio.channels.FileChannel;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardOpenOption;
import java.util.Optional;
import weftex.store.pack.FrameWriter;
import weftex.store.pack.Frames;
import weftex.store.seal.AtRest;
import weftex.store.seal.SealedFile;
import weftex.store.state.Files0600;

/**
 * The lines of a receipt, up to one that a killed process left torn: compressed, as an older
 * version wrote them if they are not, and sealed or in the clear.
 */
final class ReceiptFile implements Closeable {
  /** What the file is called in its first line if it is sealed. */
  private static final String WHAT = "receipt";

  private static final String AGAIN = "Bring it back from a backup of the state folder.";

  private static final int BLOCK = 1 << 16;

  private final Bytes bytes;
  private final Optional<Frames> frames;

  private ReceiptFile(Bytes bytes, Optional<Frames> frames) {
    this.bytes = bytes;
    this.frames = frames;
  }

  /**
   * @param held what is held of receipts that are open at once
   */
  static ReceiptFile open(Path file, AtRest atRest, Frames.Held held) throws IOException {
    Bytes bytes =
        AtRest.isSealed(file) && !SealedFile.isHardlyBegun(file)
            ? new Sealed(file, atRest.parts(file, WHAT))
            : new Clear(file, FileChannel.open(file, StandardOpenOption.READ));
    try (InputStream in = bytes.open()) {
      boolean packed = Frames.isOne(in);
      return new ReceiptFile(
          bytes, packed ? Optional.of(new Frames(file, AGAIN, bytes, held)) : Optional.empty());
    } catch (IOException | RuntimeException e) {
      bytes.close();
      throw e;
    }
  }

  /** What is written is kept as it is said; each time that it is flushed, all of it can be read. */
  static OutputStream writing(OutputStream out, AtRest atRest) throws IOException {
    return new FrameWriter(atRest.sealingParts(out, WHAT));
  }

  /** All lines. */
  InputStream lines() throws IOException {
    return frames.isPresent() ? frames.get().content() : bytes.open();
  }

  /** Some bytes of what was read before. */
  byte[] at(long offset, int length) throws IOException {
    return frames.isPresent() ? frames.get().at(offset, length) : bytes.at(offset, length);
  }

  /** At least so many of the last bytes, if there are so many. */
  byte[] tail(int least) throws IOException {
    return frames.isPresent()
        ? frames.get().tail(bytes.endOfFrames(least))
        : bytes.endOfLines(least);
  }

  /** Writes lines behind the last whole one; they survive a loss of power. */
  void append(byte[] lines) throws IOException {
    if (frames.isPresent()) {
      bytes.append(bytes.whole(frames.get()), Frames.appended(lines));
    } else {
      bytes.append(bytes.wholeLines(), lines);
    }
  }

  @Override
  public void close() throws IOException {
    bytes.close();
  }

  /** What stands in the file, sealed or in the clear. */
  private interface Bytes extends Frames.Source, Closeable {
    byte[] endOfLines(int least) throws IOException;

    /** From the beginning of a frame on. */
    byte[] endOfFrames(int least) throws IOException;

    /** Where in the file the last whole line ends. */
    long wholeLines() throws IOException;

    /** Where in the file the last whole frame ends. */
    long whole(Frames frames) throws IOException;

    void append(long whole, byte[] more) throws IOException;
  }

  private record Clear(Path file, FileChannel channel) implements Bytes {
    @Override
    public InputStream open() throws IOException {
      return new BufferedInputStream(Files.newInputStream(file), BLOCK);
    }

    @Override
    public byte[] at(long offset, int length) throws IOException {
      ByteBuffer bytes = ByteBuffer.allocate(length);
      while (bytes.hasRemaining() && channel.read(bytes, offset + bytes.position()) > 0) {
        // Reads on until all of it is there.
        continue;
      }
      return bytes.array();
    }

    @Override
    public byte[] endOfLines(int least) throws IOException {
      long from = Math.max(0, channel.size() - least);
      return at(from, (int) (channel.size() - from));
    }

    @Override
    public byte[] endOfFrames(int least) throws IOException {
      return Frames.end(channel, least);
    }

    @Override
    public long wholeLines() throws IOException {
      long end = channel.size();
      while (end > 0) {
        int count = (int) Math.min(BLOCK, end);
        byte[] last = at(end - count, count);
        for (int i = count; i > 0; i--) {
          if (last[i - 1] == '\n') {
            return end - count + i;
          }
        }
        end -= count;
      }
      return 0;
    }

    @Override
    public long whole(Frames frames) throws IOException {
      return frames.wholeLength();
    }

    @Override
    public void append(long whole, byte[] more) throws IOException {
      writeAt(file, whole, more);
    }

    @Override
    public void close() throws IOException {
      channel.close();
    }
  }

  /** Each of its parts was written at once, and so holds whole lines, or whole frames. */
  private record Sealed(Path file, SealedFile sealed) implements Bytes {
    @Override
    public InputStream open() throws IOException {
      return sealed.wholeContent();
    }

    @Override
    public byte[] at(long offset, int length) throws IOException {
      return sealed.at(offset, length);
    }

    @Override
    public byte[] endOfLines(int least) throws IOException {
      return sealed.tail(least);
    }

    @Override
    public byte[] endOfFrames(int least) throws IOException {
      return sealed.tail(least);
    }

    @Override
    public long wholeLines() throws IOException {
      return sealed.wholeLength();
    }

    @Override
    public long whole(Frames frames) throws IOException {
      return sealed.wholeLength();
    }

    @Override
    public void append(long whole, byte[] more) throws IOException {
      writeAt(file, whole, sealed.part(more));
    }

    @Override
    public void close() {
      // Its file is not held open.
    }
  }

  private static void writeAt(Path file, long length, byte[] bytes) throws IOException {
    try (FileChannel channel = Files0600.open(file, StandardOpenOption.WRITE);
        OutputStream out = Channels.newOutputStream(channel)) {
      channel.truncate(length);
      channel.position(length);
      out.write(bytes);
      channel.force(true);
    }
  }
}
