package weftex.store.capture;

import java.io.IOException;
import java.io.OutputStream;
import java.nio.file.Path;
import org.apache.avro.Schema;
import org.apache.avro.SchemaBuilder;
import org.apache.avro.file.DataFileWriter;
import org.apache.avro.generic.GenericData;
import org.apache.avro.generic.GenericDatumWriter;
import org.apache.avro.generic.GenericRecord;
import weftex.core.row.Row;
import weftex.core.row.SortKey;
import weftex.store.database.Layout;
import weftex.store.rows.RowDigest;
import weftex.store.seal.AtRest;

/**
 * Writes, beside a table's file, the digest of each range of its rows and the block in which the
 * range begins. Tables whose rows can't be digested get no such file.
 */
final class RangeWriter implements AutoCloseable {
  static final Schema SCHEMA =
      SchemaBuilder.record("KeyRange")
          .namespace("weftex")
          .fields()
          .requiredLong("first")
          .requiredLong("keys")
          .requiredLong("rows")
          .requiredLong("check")
          .requiredLong("block")
          .endRecord();

  /**
   * A new block begins at the first range after this many bytes, so that few rows are read for one
   * range.
   */
  private static final long BLOCK_BYTES = 16 * 1024;

  /**
   * A small table has narrow ranges, since scattered edits would touch most of the wide ones; the
   * width doubles after so many.
   */
  private static final int RANGES_OF_A_WIDTH = 16_384;

  static final long NARROWEST = 8;
  private static final long WIDEST = 64;

  private final DataFileWriter<GenericRecord> out;
  private final OutputStream file;
  private final DataFileWriter<Object> rows;
  private final RowDigest digest;
  private boolean possible;
  private long width = NARROWEST;
  private int rangesOfWidth;
  private long range = -1;
  private long rowsInRange;
  private long digestOfRange;
  private long block = -1;
  private long bytes;

  private RangeWriter(
      DataFileWriter<GenericRecord> out,
      OutputStream file,
      DataFileWriter<Object> rows,
      RowDigest digest) {
    this.out = out;
    this.file = file;
    this.rows = rows;
    this.digest = digest;
    this.possible = digest != null;
  }

  static RangeWriter beside(AtRest atRest, Path table, Layout layout, DataFileWriter<Object> rows)
      throws IOException {
    if (!RowDigest.isPossible(layout)) {
      return new RangeWriter(null, null, rows, null);
    }
    OutputStream file = atRest.create(of(table));
    DataFileWriter<GenericRecord> out = new DataFileWriter<>(new GenericDatumWriter<>(SCHEMA));
    out.setCodec(WholeFrameZstd.register());
    out.create(SCHEMA, file);
    return new RangeWriter(out, file, rows, new RowDigest(layout.table()));
  }

  static Path of(Path table) {
    return table.resolveSibling(table.getFileName().toString().replace(".avro", ".ranges.avro"));
  }

  /** Takes in a row before it is written. */
  void before(Row row) throws IOException {
    if (!possible) {
      return;
    }
    long key = SortKey.toWhole(row.key());
    if (key < 0) {
      possible = false;
      return;
    }
    if (key / width != range) {
      endRange();
      if (rangesOfWidth == RANGES_OF_A_WIDTH && width < WIDEST) {
        width *= 2;
        rangesOfWidth = 0;
      }
      range = key / width;
      if (block < 0 || bytes > BLOCK_BYTES) {
        block = rows.sync();
        bytes = 0;
      }
    }
    rowsInRange++;
    digestOfRange ^= digest.of(row);
    bytes += row.length();
  }

  private void endRange() throws IOException {
    if (rowsInRange > 0) {
      append(range * width, width);
      rangesOfWidth++;
    }
    rowsInRange = 0;
    digestOfRange = 0;
  }

  private void append(long first, long keys) throws IOException {
    GenericRecord record = new GenericData.Record(SCHEMA);
    record.put("first", first);
    record.put("keys", keys);
    record.put("rows", rowsInRange);
    record.put("check", digestOfRange);
    record.put("block", block);
    out.append(record);
  }

  /**
   * Writes the last range. If a key had no place in a range, an end mark is missing and the file
   * says nothing.
   */
  void finish() throws IOException {
    if (possible) {
      endRange();
      append(-1, 0);
    }
  }

  @Override
  public void close() throws IOException {
    if (out != null) {
      try (file) {
        out.close();
      }
    }
  }
}
