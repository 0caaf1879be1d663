package weftex.store.capture;

import java.io.BufferedInputStream;
import java.io.IOException;
import java.io.InputStream;
import java.io.OutputStream;
import java.nio.ByteBuffer;
import java.nio.file.NoSuchFileException;
import java.nio.file.Path;
import java.security.DigestInputStream;
import java.security.MessageDigest;
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
import weftex.store.seal.AtRest;

/**
 * Reads recorded rows block by block; a row is a slice of its block, not a copy. At the end it is
 * known whether the file is as it was recorded.
 */
final class CaptureRowStream implements RowStream {
  private final Path file;
  private final Manifest.Entry entry;
  private final MessageDigest digest = Hashes.sha256();
  private final InputStream in;
  private final DataFileStream<Object> blocks;
  private final List<Integer> positions;
  private final boolean asRecorded;
  private byte[] block = new byte[0];
  private int at;
  private long left;
  private long rows;

  /**
   * @param positions for each wanted column, where it is recorded
   */
  CaptureRowStream(AtRest atRest, Path folder, Manifest.Entry entry, List<Integer> positions)
      throws IOException {
    this.file = folder.resolve(entry.file());
    this.entry = entry;
    this.positions = positions;
    this.asRecorded = positions.equals(IntStream.range(0, entry.columns().size()).boxed().toList());
    WholeFrameZstd.register();
    InputStream raw = null;
    try {
      raw = atRest.open(file);
      this.in =
          new BufferedInputStream(
              entry.sha256() == null ? raw : new DigestInputStream(raw, digest), 1 << 17);
      this.blocks = new DataFileStream<>(in, new GenericDatumReader<>());
    } catch (NoSuchFileException e) {
      throw DamagedBase.of(file, "it is missing");
    } catch (IOException | AvroRuntimeException e) {
      if (raw != null) {
        raw.close();
      }
      throw DamagedBase.of(file, e);
    }
  }

  @Override
  public Row next() throws IOException {
    try {
      while (left == 0) {
        if (!blocks.hasNext()) {
          checkEnd();
          return Row.ABSENT;
        }
        left = blocks.getBlockCount();
        ByteBuffer bytes = blocks.nextBlock();
        block = bytes.array();
        at = bytes.arrayOffset() + bytes.position();
      }
      left--;
      rows++;
      RowPacking.Cursor cursor = new RowPacking.Cursor(block, at);
      SortKey key = new SortKey(cursor.bytes());
      int size = (int) cursor.number();
      int start = cursor.position();
      at = start + size;
      Row row = new Row(key, block, start, size);
      return asRecorded ? row : Row.of(key, Table.pick(row.values(), positions));
    } catch (AvroRuntimeException | IllegalArgumentException | IndexOutOfBoundsException e) {
      throw DamagedBase.of(file, e);
    } catch (IOException e) {
      throw DamagedBase.of(file, e);
    }
  }

  private void checkEnd() throws IOException {
    if (rows != entry.rows()) {
      throw DamagedBase.of(
          file, "it has " + rows + " rows, and " + entry.rows() + " were recorded");
    }
    if (entry.sha256() != null) {
      in.transferTo(OutputStream.nullOutputStream());
      if (!entry.sha256().equals(Hashes.hex((MessageDigest) cloned()))) {
        throw DamagedBase.of(file, "it is not as it was recorded");
      }
    }
  }

  private Object cloned() {
    try {
      return digest.clone();
    } catch (CloneNotSupportedException e) {
      throw new IllegalStateException("SHA-256 can be cloned", e);
    }
  }

  @Override
  public void close() throws IOException {
    blocks.close();
  }
}
