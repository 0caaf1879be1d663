package weftex.store.state;

import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.channels.FileChannel;
import java.nio.file.Path;
import java.nio.file.StandardOpenOption;
import weftex.core.compare.Difference;
import weftex.core.compare.DifferenceLog;
import weftex.core.row.Row;
import weftex.core.row.RowPacking;
import weftex.core.row.SortKey;
import weftex.core.row.Value;

/** Keeps differences in a temporary file that is gone when it is closed. */
public final class DifferenceFile implements DifferenceLog {
  private static final int READ_AT_ONCE = 8192;

  /** The bytes of a record's length, before the record. */
  private static final int HEAD = 4;

  private final FileChannel channel;
  private final RowPacking.Sink pending = new RowPacking.Sink(1 << 16);
  private long written;

  /** Creates the file. */
  public DifferenceFile(Path file) throws IOException {
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
    RowPacking.Sink body = new RowPacking.Sink(1024);
    body.putWhole(difference.table());
    put(body, difference.base());
    put(body, difference.source());
    put(body, difference.target());
    long position = written + pending.size();
    byte[] bytes = body.toByteArray();
    pending.putFlat(ByteBuffer.allocate(HEAD).putInt(bytes.length).array(), 0, HEAD);
    pending.putFlat(bytes, 0, bytes.length);
    if (pending.size() > 1 << 16) {
      flush();
    }
    return position;
  }

  private static void put(RowPacking.Sink sink, Row row) {
    if (row.isPresent()) {
      sink.putBytes(RowPacking.BINARY, row.key().bytes());
      sink.putBytes(RowPacking.BINARY, row.packed());
    } else {
      sink.putNull();
    }
  }

  private void flush() throws IOException {
    ByteBuffer bytes = ByteBuffer.wrap(pending.toByteArray());
    while (bytes.hasRemaining()) {
      written += channel.write(bytes, written);
    }
    pending.clear();
  }

  @Override
  public Difference read(long position) throws IOException {
    if (position >= written || pending.size() > 0) {
      flush();
    }
    byte[] first = readAt(position, READ_AT_ONCE);
    int length = ByteBuffer.wrap(first).getInt();
    byte[] bytes = first.length >= HEAD + length ? first : readAt(position, HEAD + length);
    RowPacking.Cursor cursor = new RowPacking.Cursor(bytes, HEAD);
    int table = ((Value.Whole) cursor.next()).number().intValue();
    return new Difference(table, row(cursor), row(cursor), row(cursor));
  }

  private byte[] readAt(long position, int length) throws IOException {
    ByteBuffer bytes = ByteBuffer.allocate(length);
    while (bytes.hasRemaining() && channel.read(bytes, position + bytes.position()) > 0) {
      // Reads on until the buffer is full or the file ends.
    }
    return java.util.Arrays.copyOf(bytes.array(), bytes.position());
  }

  private static Row row(RowPacking.Cursor cursor) {
    if (!(cursor.next() instanceof Value.Binary key)) {
      return Row.ABSENT;
    }
    byte[] packed = ((Value.Binary) cursor.next()).bytes();
    return new Row(new SortKey(key.bytes()), packed, 0, packed.length);
  }

  @Override
  public void close() throws IOException {
    channel.close();
  }
}
