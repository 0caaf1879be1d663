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
import weftex.store.seal.AtRest;
import weftex.store.seal.SealedFile;
import weftex.store.state.Files0600;

/** The lines of a receipt, in the clear or sealed, up to one that a killed process left torn. */
abstract class ReceiptFile implements Closeable {
  /** What the file is called in its first line if it is sealed. */
  static final String WHAT = "receipt";

  private static final int BLOCK = 1 << 16;

  static ReceiptFile open(Path file, AtRest atRest) throws IOException {
    return AtRest.isSealed(file) && !SealedFile.isHardlyBegun(file)
        ? new Sealed(file, atRest.parts(file, WHAT))
        : new Clear(file);
  }

  /** All lines. */
  abstract InputStream lines() throws IOException;

  /** Some bytes of what was read before. */
  abstract byte[] at(long offset, int length) throws IOException;

  /** At least so many of the last bytes, if there are so many. */
  abstract byte[] tail(int least) throws IOException;

  /** Writes lines behind the last whole one; they survive a loss of power. */
  abstract void append(byte[] lines) throws IOException;

  private static final class Clear extends ReceiptFile {
    private final Path file;
    private final FileChannel channel;

    private Clear(Path file) throws IOException {
      this.file = file;
      this.channel = FileChannel.open(file, StandardOpenOption.READ);
    }

    @Override
    InputStream lines() throws IOException {
      return new BufferedInputStream(Files.newInputStream(file), 1 << 16);
    }

    @Override
    byte[] at(long offset, int length) throws IOException {
      ByteBuffer bytes = ByteBuffer.allocate(length);
      while (bytes.hasRemaining() && channel.read(bytes, offset + bytes.position()) > 0) {
        // Reads on until all of it is there.
        continue;
      }
      return bytes.array();
    }

    @Override
    byte[] tail(int least) throws IOException {
      long from = Math.max(0, channel.size() - least);
      return at(from, (int) (channel.size() - from));
    }

    @Override
    void append(byte[] lines) throws IOException {
      writeAt(file, wholeLength(), lines);
    }

    private long wholeLength() throws IOException {
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
    public void close() throws IOException {
      channel.close();
    }
  }

  private static final class Sealed extends ReceiptFile {
    private final Path file;
    private final SealedFile sealed;

    private Sealed(Path file, SealedFile sealed) {
      this.file = file;
      this.sealed = sealed;
    }

    @Override
    InputStream lines() throws IOException {
      return sealed.wholeContent();
    }

    @Override
    byte[] at(long offset, int length) throws IOException {
      return sealed.at(offset, length);
    }

    @Override
    byte[] tail(int least) throws IOException {
      return sealed.tail(least);
    }

    @Override
    void append(byte[] lines) throws IOException {
      writeAt(file, sealed.wholeLength(), sealed.part(lines));
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
