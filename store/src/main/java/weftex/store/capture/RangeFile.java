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

/** Reads what {@link RangeWriter} wrote. */
final class RangeFile {
  private RangeFile() {}

  private interface RangeSink {
    void accept(long first, long keys, long rows, long digest, long block);
  }

  /**
   * Hands out every range; false if the file is not there, was not ended, or is of an older kind.
   */
  private static boolean each(Path file, RangeSink sink) throws IOException {
    if (!Files.exists(file)) {
      return false;
    }
    WholeFrameZstd.register();
    try (DataFileReader<GenericRecord> reader =
        new DataFileReader<>(file.toFile(), new GenericDatumReader<>())) {
      if (!reader.getSchema().equals(RangeWriter.SCHEMA)) {
        return false;
      }
      GenericRecord record = null;
      while (reader.hasNext()) {
        record = reader.next(record);
        long first = (Long) record.get("first");
        if (first < 0) {
          return true;
        }
        sink.accept(
            first,
            (Long) record.get("keys"),
            (Long) record.get("rows"),
            (Long) record.get("check"),
            (Long) record.get("block"));
      }
      return false;
    } catch (AvroRuntimeException e) {
      throw new IOException(
          "the base is damaged in " + file.getFileName() + ": " + e.getMessage(), e);
    }
  }

  /** All ranges, as wide as the widest. */
  static Optional<RangeDigests> read(Path file) throws IOException {
    RangeDigests[] digests = {new RangeDigests(RangeWriter.NARROWEST)};
    boolean whole =
        each(
            file,
            (first, keys, rows, digest, block) -> {
              digests[0] = digests[0].joined(keys);
              digests[0].add(first / keys, rows, digest);
            });
    return whole ? Optional.of(digests[0]) : Optional.empty();
  }

  /** For each range of keys, the block in which its first row is; -1 if it has no rows. */
  static long[] blocks(Path file, List<KeyRange> ranges) throws IOException {
    long[] blocks = new long[ranges.size()];
    java.util.Arrays.fill(blocks, -1);
    int[] at = {0};
    each(
        file,
        (first, keys, rows, digest, block) -> {
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
