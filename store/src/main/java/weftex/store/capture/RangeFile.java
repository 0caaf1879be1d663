package weftex.store.capture;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Optional;
import org.apache.avro.AvroRuntimeException;
import org.apache.avro.file.DataFileReader;
import org.apache.avro.generic.GenericDatumReader;
import org.apache.avro.generic.GenericRecord;
import weftex.core.compare.KeyRange;
import weftex.core.compare.RangeDigests;
import weftex.store.copy.RowDigest;

/** Reads what {@link RangeWriter} wrote. */
final class RangeFile {
  private RangeFile() {}

  private interface RangeSink {
    void accept(long range, long rows, long digest, long block);
  }

  /** Hands out every range; false if the file is not there or was not ended. */
  private static boolean each(Path file, RangeSink sink) throws IOException {
    if (!Files.exists(file)) {
      return false;
    }
    WholeFrameZstd.register();
    try (DataFileReader<GenericRecord> reader =
        new DataFileReader<>(file.toFile(), new GenericDatumReader<>())) {
      GenericRecord record = null;
      while (reader.hasNext()) {
        record = reader.next(record);
        long range = (Long) record.get("range");
        if (range < 0) {
          return true;
        }
        sink.accept(
            range,
            (Long) record.get("rows"),
            (Long) record.get("digest"),
            (Long) record.get("block"));
      }
      return false;
    } catch (AvroRuntimeException e) {
      throw new IOException(
          "the base is damaged in " + file.getFileName() + ": " + e.getMessage(), e);
    }
  }

  static Optional<RangeDigests> read(Path file) throws IOException {
    RangeDigests digests = new RangeDigests(RowDigest.WIDTH);
    boolean whole = each(file, (range, rows, digest, block) -> digests.add(range, rows, digest));
    return whole ? Optional.of(digests) : Optional.empty();
  }

  /** For each range of keys, the block in which its first row is; -1 if it has no rows. */
  static long[] blocks(Path file, List<KeyRange> ranges) throws IOException {
    long[] blocks = new long[ranges.size()];
    java.util.Arrays.fill(blocks, -1);
    int[] at = {0};
    each(
        file,
        (range, rows, digest, block) -> {
          long first = range * RowDigest.WIDTH;
          while (at[0] < blocks.length && ranges.get(at[0]).last() < first) {
            at[0]++;
          }
          if (at[0] < blocks.length && ranges.get(at[0]).first() <= first && blocks[at[0]] < 0) {
            blocks[at[0]] = block;
          }
        });
    return blocks;
  }
}
