package weftex.store.capture;

import java.io.BufferedInputStream;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.stream.IntStream;
import org.apache.avro.AvroRuntimeException;
import org.apache.avro.file.DataFileStream;
import org.apache.avro.generic.GenericDatumReader;
import weftex.core.row.Row;
import weftex.core.row.RowPacking;
import weftex.core.row.RowStream;
import weftex.core.row.SortKey;
import weftex.core.row.Table;

/** Reads recorded rows block by block; a row is a slice of its block, not a copy. */
final class CaptureRowStream implements RowStream {
  private final Path file;
  private final DataFileStream<Object> blocks;
  private final List<Integer> positions;
  private final boolean asRecorded;
  private byte[] block = new byte[0];
  private int at;
  private long left;

  /**
   * @param positions for each wanted column, where it is recorded
   * @param recorded how many columns are recorded
   */
  CaptureRowStream(Path file, List<Integer> positions, int recorded) throws IOException {
    this.file = file;
    this.positions = positions;
    this.asRecorded = positions.equals(IntStream.range(0, recorded).boxed().toList());
    WholeFrameZstd.register();
    this.blocks =
        new DataFileStream<>(
            new BufferedInputStream(Files.newInputStream(file), 1 << 17),
            new GenericDatumReader<>());
  }

  @Override
  public Row next() throws IOException {
    try {
      while (left == 0) {
        if (!blocks.hasNext()) {
          return Row.ABSENT;
        }
        left = blocks.getBlockCount();
        ByteBuffer bytes = blocks.nextBlock();
        block = bytes.array();
        at = bytes.arrayOffset() + bytes.position();
      }
      left--;
      RowPacking.Cursor cursor = new RowPacking.Cursor(block, at);
      SortKey key = new SortKey(cursor.bytes());
      int size = (int) cursor.number();
      int start = cursor.position();
      at = start + size;
      Row row = new Row(key, block, start, size);
      return asRecorded ? row : Row.of(key, Table.pick(row.values(), positions));
    } catch (AvroRuntimeException | IllegalArgumentException | IndexOutOfBoundsException e) {
      throw damaged(file, e);
    } catch (IOException e) {
      throw damaged(file, e);
    }
  }

  static IOException damaged(Path file, Exception e) {
    return new IOException(
        "the base is damaged in " + file.getFileName() + ": " + e.getMessage(), e);
  }

  @Override
  public void close() throws IOException {
    blocks.close();
  }
}
