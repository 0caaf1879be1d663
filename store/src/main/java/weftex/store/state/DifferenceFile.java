package weftex.store.state;

import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.channels.FileChannel;
import java.nio.file.Path;
import java.nio.file.StandardOpenOption;
import java.util.Arrays;
import java.util.LinkedHashMap;
import java.util.Map;
import java.util.Optional;
import weftex.core.compare.Difference;
import weftex.core.compare.DifferenceLog;
import weftex.core.row.Row;
import weftex.core.row.SortKey;

/**
 * Keeps differences in a temporary file that is gone when it is closed. A record is a head of fixed
 * size (the table; for each of the three rows the lengths of its key and of its values), and then
 * the keys and values. Rows are mostly read in the order in which they were written, so the pages
 * that were read last are held. Where the content may not be on a disk, it is encrypted by a key
 * that only this process knows, so that nothing of it is left there, whatever becomes of the
 * process.
 */
public final class DifferenceFile implements DifferenceLog {
  private static final int PAGE = 1 << 14;

  /** How many pages are held. */
  private static final int HELD = 128;

  private static final int SIDES = 3;
  private static final int HEAD = Integer.BYTES * (1 + 2 * SIDES);

  /** Stands for the length of the key of a row that is not there. */
  private static final int ABSENT = -1;

  private final FileChannel channel;
  private final Optional<ProcessCipher> cipher;
  private final ByteBuffer pending = ByteBuffer.allocate(1 << 16);
  private long written;

  /** By their number. One that was not full when it was read is shorter. */
  private final Map<Long, byte[]> pages =
      new LinkedHashMap<>(HELD, 0.75f, true) {
        private static final long serialVersionUID = 1;

        @Override
        protected boolean removeEldestEntry(Map.Entry<Long, byte[]> eldest) {
          return size() > HELD;
        }
      };

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
    ByteBuffer head = ByteBuffer.wrap(readAt(position, HEAD));
    int table = head.getInt();
    int[] keys = new int[SIDES];
    int[] values = new int[SIDES];
    long length = 0;
    for (int i = 0; i < SIDES; i++) {
      keys[i] = head.getInt();
      values[i] = head.getInt();
      length += keys[i] == ABSENT ? 0 : (long) keys[i] + values[i];
    }
    // Rows hold on to all that they lie in: nothing else, and a long one by itself.
    byte[] all = length <= PAGE ? readAt(position + HEAD, (int) length) : new byte[0];
    Row[] rows = new Row[SIDES];
    long at = 0;
    for (int i = 0; i < SIDES; i++) {
      if (keys[i] == ABSENT) {
        rows[i] = Row.ABSENT;
        continue;
      }
      rows[i] =
          length <= PAGE
              ? row(all, (int) at, keys[i], values[i])
              : row(readAt(position + HEAD + at, keys[i] + values[i]), 0, keys[i], values[i]);
      at += keys[i] + values[i];
    }
    return new Difference(table, rows[0], rows[1], rows[2]);
  }

  private static Row row(byte[] bytes, int at, int keyLength, int length) {
    SortKey key = new SortKey(Arrays.copyOfRange(bytes, at, at + keyLength));
    return new Row(key, bytes, at + keyLength, length);
  }

  private byte[] readAt(long position, int length) throws IOException {
    if (position + length > written) {
      flush();
    }
    if (length > PAGE) {
      return readFile(position, length);
    }
    byte[] bytes = new byte[length];
    int done = 0;
    while (done < length) {
      int from = (int) ((position + done) % PAGE);
      int count = Math.min(length - done, PAGE - from);
      byte[] page = page((position + done) / PAGE, from + count);
      System.arraycopy(page, from, bytes, done, count);
      done += count;
    }
    return bytes;
  }

  /** A page, at least as far as that: what was written stays as it is. */
  private byte[] page(long number, int least) throws IOException {
    byte[] page = pages.get(number);
    if (page == null || page.length < least) {
      page = readFile(number * PAGE, (int) Math.min(PAGE, written - number * PAGE));
      pages.put(number, page);
    }
    return page;
  }

  private byte[] readFile(long position, int length) throws IOException {
    ByteBuffer bytes = ByteBuffer.allocate(length);
    while (bytes.hasRemaining()) {
      bytes.limit(Math.min(length, bytes.position() + pending.capacity()));
      if (channel.read(bytes, position + bytes.position()) < 0) {
        throw new IOException("the file of differences was cut short");
      }
      bytes.limit(length);
    }
    return cipher.isPresent() ? cipher.get().crypt(bytes.flip(), position).array() : bytes.array();
  }

  @Override
  public void close() throws IOException {
    channel.close();
  }
}
