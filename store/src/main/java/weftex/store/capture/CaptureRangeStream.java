package weftex.store.capture;

import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.file.NoSuchFileException;
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
import weftex.store.rows.RowDigest;
import weftex.store.seal.AtRest;

/**
 * Reads recorded rows of some ranges of keys, jumping from block to block. At the end of each range
 * its rows must have the digest that was recorded for them.
 */
final class CaptureRangeStream implements RowStream {
  private final Path file;
  private final DataFileReader<Object> blocks;
  private final List<RangeFile.Content> contents;
  private final List<KeyRange> ranges;
  private final RowDigest digest;
  private int range = -1;
  private long openBlock = -1;
  private byte[] block = new byte[0];
  private int start;
  private int at;
  private long rowsInBlock;
  private long left;
  private long rowsInRange;
  private long checkOfRange;

  CaptureRangeStream(
      AtRest atRest,
      Path file,
      List<RangeFile.Content> contents,
      List<KeyRange> ranges,
      RowDigest digest)
      throws IOException {
    WholeFrameZstd.register();
    this.file = file;
    this.contents = contents;
    this.ranges = ranges;
    this.digest = digest;
    try {
      this.blocks = new DataFileReader<>(AvroInput.of(atRest, file), new GenericDatumReader<>());
    } catch (NoSuchFileException e) {
      throw DamagedBase.of(file, "it is missing");
    } catch (IOException | AvroRuntimeException e) {
      throw DamagedBase.of(file, e);
    }
  }

  @Override
  public Row next() throws IOException {
    try {
      while (range < ranges.size()) {
        Row row = range < 0 ? Row.ABSENT : nextInRange();
        if (row.isPresent()) {
          rowsInRange++;
          checkOfRange ^= digest.of(row);
          return row;
        }
        checkRange();
        do {
          range++;
        } while (range < ranges.size() && contents.get(range).block() < 0);
        if (range < ranges.size()) {
          seek(contents.get(range).block());
        }
      }
      return Row.ABSENT;
    } catch (AvroRuntimeException
        | IllegalArgumentException
        | IndexOutOfBoundsException
        | IOException e) {
      throw DamagedBase.of(file, e);
    }
  }

  private void checkRange() throws IOException {
    if (range >= 0
        && (rowsInRange != contents.get(range).rows()
            || checkOfRange != contents.get(range).check())) {
      throw DamagedBase.of(
          file, "rows from key " + ranges.get(range).first() + " on are not as they were recorded");
    }
    rowsInRange = 0;
    checkOfRange = 0;
  }

  private Row nextInRange() throws IOException {
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
