package weftex.store.capture;

import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.file.Path;
import java.util.List;
import org.apache.avro.AvroRuntimeException;
import org.apache.avro.file.DataFileReader;
import org.apache.avro.generic.GenericDatumReader;
import weftex.core.compare.KeyRange;
import weftex.core.row.Row;
import weftex.core.row.RowPacking;
import weftex.core.row.RowStream;
import weftex.core.row.SortKey;

/** Reads recorded rows of some ranges of keys, jumping from block to block. */
final class CaptureRangeStream implements RowStream {
  private final Path file;
  private final DataFileReader<Object> blocks;
  private final long[] blockOfRange;
  private final List<KeyRange> ranges;
  private int range = -1;
  private long openBlock = -1;
  private byte[] block = new byte[0];
  private int start;
  private int at;
  private long rowsInBlock;
  private long left;

  CaptureRangeStream(Path file, long[] blockOfRange, List<KeyRange> ranges) throws IOException {
    WholeFrameZstd.register();
    this.file = file;
    this.blockOfRange = blockOfRange;
    this.ranges = ranges;
    this.blocks = new DataFileReader<>(file.toFile(), new GenericDatumReader<>());
  }

  @Override
  public Row next() throws IOException {
    try {
      while (true) {
        if (range >= 0) {
          Row row = nextInRange();
          if (row.isPresent()) {
            return row;
          }
        }
        do {
          range++;
        } while (range < ranges.size() && blockOfRange[range] < 0);
        if (range >= ranges.size()) {
          range = ranges.size() - 1;
          left = 0;
          blockOfRange[range] = -1;
          return Row.ABSENT;
        }
        seek(blockOfRange[range]);
      }
    } catch (AvroRuntimeException | IllegalArgumentException | IndexOutOfBoundsException e) {
      throw CaptureRowStream.damaged(file, e);
    }
  }

  private Row nextInRange() throws IOException {
    if (blockOfRange[range] < 0) {
      return Row.ABSENT;
    }
    while (left > 0 || nextBlock()) {
      left--;
      RowPacking.Cursor cursor = new RowPacking.Cursor(block, at);
      SortKey key = new SortKey(cursor.bytes());
      int size = (int) cursor.number();
      int begin = cursor.position();
      long number = SortKey.toWhole(key);
      if (number > ranges.get(range).last()) {
        // The row belongs to a later range, which may begin in this very block.
        left++;
        return Row.ABSENT;
      }
      at = begin + size;
      if (number >= ranges.get(range).first()) {
        return new Row(key, block, begin, size);
      }
    }
    return Row.ABSENT;
  }

  private void seek(long position) throws IOException {
    if (position == openBlock) {
      at = start;
      left = rowsInBlock;
      return;
    }
    blocks.seek(position);
    nextBlock();
    openBlock = position;
  }

  private boolean nextBlock() throws IOException {
    if (!blocks.hasNext()) {
      left = 0;
      return false;
    }
    rowsInBlock = blocks.getBlockCount();
    ByteBuffer bytes = blocks.nextBlock();
    block = bytes.array();
    start = bytes.arrayOffset() + bytes.position();
    at = start;
    left = rowsInBlock;
    openBlock = -1;
    return true;
  }

  @Override
  public void close() throws IOException {
    blocks.close();
  }
}
