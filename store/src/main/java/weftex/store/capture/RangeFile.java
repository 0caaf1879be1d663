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
import weftex.store.seal.AtRest;

/** Reads what {@link RangeWriter} wrote. */
final class RangeFile {
  private RangeFile() {}

  private interface RangeSink {
    void accept(long first, long keys, long rows, long digest, long block);
  }

  /**
   * Hands out every range; false if the file is not there, was not ended, or is of an older kind.
   */
  private static boolean each(AtRest atRest, Path file, RangeSink sink) throws IOException {
    if (!Files.exists(file)) {
      return false;
    }
    WholeFrameZstd.register();
    try (DataFileReader<GenericRecord> reader =
        new DataFileReader<>(AvroInput.of(atRest, file), new GenericDatumReader<>())) {
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
    } catch (AvroRuntimeException | IOException e) {
      throw DamagedBase.of(file, e);
    }
  }

  /** All ranges, as wide as the widest. */
  static Optional<RangeDigests> read(AtRest atRest, Path file) throws IOException {
    RangeDigests[] digests = {new RangeDigests(RangeWriter.NARROWEST)};
    boolean whole =
        each(
            atRest,
            file,
            (first, keys, rows, digest, block) -> {
              digests[0] = digests[0].joined(keys);
              digests[0].add(first / keys, rows, digest);
            });
    return whole ? Optional.of(digests[0]) : Optional.empty();
  }

  /**
   * What the base has in a range of keys.
   *
   * @param block in which its first row is; -1 if it has no rows
   * @param check the digest of its rows
   */
  record Content(long block, long rows, long check) {
    private static final Content NONE = new Content(-1, 0, 0);

    private Content and(long nextBlock, long nextRows, long nextCheck) {
      return new Content(block < 0 ? nextBlock : block, rows + nextRows, check ^ nextCheck);
    }
  }

  /** What the base has in each of some ranges, which begin and end where recorded ones do. */
  static List<Content> contents(AtRest atRest, Path file, List<KeyRange> ranges)
      throws IOException {
    Content[] contents = new Content[ranges.size()];
    java.util.Arrays.fill(contents, Content.NONE);
    int[] at = {0};
    each(
        atRest,
        file,
        (first, keys, rows, digest, block) -> {
          while (at[0] < contents.length && ranges.get(at[0]).last() < first) {
            at[0]++;
          }
          if (at[0] < contents.length && ranges.get(at[0]).first() <= first) {
            contents[at[0]] = contents[at[0]].and(block, rows, digest);
          }
        });
    return List.of(contents);
  }
}
