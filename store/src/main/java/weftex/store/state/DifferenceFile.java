package weftex.store.state;

import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.channels.FileChannel;
import java.nio.file.Path;
import java.nio.file.StandardOpenOption;
import java.util.Arrays;
import java.util.Optional;
import weftex.core.compare.Difference;
import weftex.core.compare.DifferenceLog;
import weftex.core.row.Row;
import weftex.core.row.SortKey;

/**
 * Keeps differences in a temporary file that is gone when it is closed. A record is a head of fixed
 * size (the table; for each of the three rows the lengths of its key and of its values), and then
 * the keys and values. Rows go to the file and come back without a copy of them in memory. Where
 * the content may not be on a disk, it is encrypted by a key that only this process knows, so that
 * nothing of it is left there, whatever becomes of the process.
 */
public final class DifferenceFile implements DifferenceLog {
  private static final int READ_AT_ONCE = 8192;
  private static final int SIDES = 3;
  private static final int HEAD = Integer.BYTES * (1 + 2 * SIDES);

  /** Stands for the length of the key of a row that is not there. */
  private static final int ABSENT = -1;

  private final FileChannel channel;
  private final Optional<ProcessCipher> cipher;
  private final ByteBuffer pending = ByteBuffer.allocate(1 << 16);
  private long written;

  /**
   * Creates the file.
   *
   * @param encrypted whether by a key of its own, which only this process has
   */
  public static DifferenceFile create(Path file, boolean encrypted) throws IOException {
    return new DifferenceFile(
        file, encrypted ? Optional.of(new ProcessCipher()) : Optional.empty());
  }

  private DifferenceFile(Path file, Optional<ProcessCipher> cipher) throws IOException {
    this.cipher = cipher;
    channel =
        Files0600.open(
            file,
            StandardOpenOption.CREATE_NEW,
            StandardOpenOption.READ,
            StandardOpenOption.WRITE,
            StandardOpenOption.DELETE_ON_CLOSE);
  }

  @Override
  public long append(Difference difference) throws IOException {
    long position = written + pending.position();
    Row[] rows = {difference.base(), difference.source(), difference.target()};
    ByteBuffer head = ByteBuffer.allocate(HEAD).putInt(difference.table());
    for (Row row : rows) {
      head.putInt(row.isPresent() ? row.key().bytes().length : ABSENT).putInt(row.length());
    }
    put(head.flip());
    for (Row row : rows) {
      put(ByteBuffer.wrap(row.key().bytes()));
      put(row.shared());
    }
    return position;
  }

  private void put(ByteBuffer bytes) throws IOException {
    if (bytes.remaining() > pending.remaining()) {
      flush();
    }
    if (bytes.remaining() > pending.capacity()) {
      writeAll(bytes);
    } else {
      pending.put(bytes);
    }
  }

  private void flush() throws IOException {
    writeAll(pending.flip());
    pending.clear();
  }

  private void writeAll(ByteBuffer bytes) throws IOException {
    while (bytes.hasRemaining()) {
      // A heap buffer is copied outside the heap on its way, as much as is offered at once.
      int end = bytes.limit();
      bytes.limit(Math.min(end, bytes.position() + pending.capacity()));
      ByteBuffer some = cipher.isPresent() ? cipher.get().crypt(bytes, written) : bytes;
      while (some.hasRemaining()) {
        written += channel.write(some, written);
      }
      bytes.limit(end);
    }
  }

  @Override
  public Difference read(long position) throws IOException {
    if (pending.position() > 0) {
      flush();
    }
    byte[] first = record(readAt(position, READ_AT_ONCE));
    ByteBuffer head = ByteBuffer.wrap(first);
    int table = head.getInt();
    Row[] rows = new Row[SIDES];
    int at = HEAD;
    long beyond = 0;
    for (int i = 0; i < SIDES; i++) {
      int keyLength = head.getInt();
      int length = head.getInt();
      if (keyLength == ABSENT) {
        rows[i] = Row.ABSENT;
      } else if (beyond == 0 && at + keyLength + length <= first.length) {
        rows[i] = row(first, at, keyLength, length);
        at += keyLength + length;
      } else {
        // A long row has an array of its own, and what follows it is read by itself, too.
        byte[] own = readAt(position + at + beyond, keyLength + length);
        rows[i] = row(own, 0, keyLength, length);
        beyond += keyLength + length;
      }
    }
    return new Difference(table, rows[0], rows[1], rows[2]);
  }

  /** What was read without what follows the record in it: rows hold on to all that they lie in. */
  private static byte[] record(byte[] read) {
    ByteBuffer head = ByteBuffer.wrap(read, Integer.BYTES, HEAD - Integer.BYTES);
    long length = HEAD;
    for (int i = 0; i < SIDES; i++) {
      int keyLength = head.getInt();
      int valuesLength = head.getInt();
      length += keyLength == ABSENT ? 0 : (long) keyLength + valuesLength;
    }
    return length < read.length ? Arrays.copyOf(read, (int) length) : read;
  }

  private static Row row(byte[] bytes, int at, int keyLength, int length) {
    SortKey key = new SortKey(Arrays.copyOfRange(bytes, at, at + keyLength));
    return new Row(key, bytes, at + keyLength, length);
  }

  private byte[] readAt(long position, int length) throws IOException {
    int there = (int) Math.min(length, written - position);
    if (cipher.isPresent()) {
      return cipher.get().read(channel, position, there, written);
    }
    ByteBuffer bytes = ByteBuffer.allocate(there);
    while (bytes.hasRemaining()) {
      bytes.limit(Math.min(there, bytes.position() + pending.capacity()));
      if (channel.read(bytes, position + bytes.position()) < 0) {
        throw new IOException("the file of differences was cut short");
      }
      bytes.limit(there);
    }
    return bytes.array();
  }

  @Override
  public void close() throws IOException {
    channel.close();
  }
}
