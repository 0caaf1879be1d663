package weftex.store.capture;

import java.io.IOException;
import java.io.OutputStream;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardCopyOption;
import org.apache.avro.AvroRuntimeException;
import org.apache.avro.file.DataFileReader;
import org.apache.avro.file.DataFileWriter;
import org.apache.avro.generic.GenericData;
import org.apache.avro.generic.GenericDatumReader;
import org.apache.avro.generic.GenericDatumWriter;
import org.apache.avro.generic.GenericRecord;
import weftex.core.row.Row;
import weftex.core.row.RowStream;
import weftex.core.row.SortKey;
import weftex.store.rows.RowDigest;
import weftex.store.seal.AtRest;

/**
 * Brings ranges that an older version digested in another way up to date, from the rows that they
 * stand beside. Ranges and blocks stay as they are.
 */
final class RangeRenewal {
  /** The member that held the digest of old, in which equal edits of two rows cancelled. */
  private static final String OLDER = "digest";

  private RangeRenewal() {}

  /** Whether a file was written by an older version and can be renewed. */
  static boolean isDue(AtRest atRest, Path file) throws IOException {
    if (!Files.exists(file)) {
      return false;
    }
    WholeFrameZstd.register();
    try (DataFileReader<GenericRecord> reader =
        new DataFileReader<>(AvroInput.of(atRest, file), new GenericDatumReader<>())) {
      return reader.getSchema().getField(OLDER) != null
          && reader.getSchema().getField("block") != null;
    } catch (AvroRuntimeException e) {
      return false;
    }
  }

  /**
   * Renews a file.
   *
   * @param rows all rows that it stands beside, in all of their columns
   * @throws IOException if it can't be read or written; it is then as it was
   */
  static void renew(AtRest atRest, Path file, RowStream rows, RowDigest digest) throws IOException {
    Path renewed =
        file.resolveSibling(file.getFileName() + "." + ProcessHandle.current().pid() + ".partial");
    try {
      try (DataFileReader<GenericRecord> older =
              new DataFileReader<>(AvroInput.of(atRest, file), new GenericDatumReader<>());
          OutputStream out = atRest.create(renewed);
          DataFileWriter<GenericRecord> writer =
              new DataFileWriter<>(new GenericDatumWriter<>(RangeWriter.SCHEMA))) {
        writer.setCodec(WholeFrameZstd.register());
        writer.create(RangeWriter.SCHEMA, out);
        Row row = rows.next();
        while (older.hasNext()) {
          GenericRecord range = older.next();
          long end = (Long) range.get("first") + (Long) range.get("keys");
          long check = 0;
          for (; row.isPresent() && SortKey.toWhole(row.key()) < end; row = rows.next()) {
            check ^= digest.of(row);
          }
          writer.append(withCheck(range, check));
        }
      } catch (AvroRuntimeException e) {
        throw DamagedBase.of(file, e);
      }
      Files.move(renewed, file, StandardCopyOption.ATOMIC_MOVE);
    } finally {
      Files.deleteIfExists(renewed);
    }
  }

  private static GenericRecord withCheck(GenericRecord range, long check) {
    GenericRecord record = new GenericData.Record(RangeWriter.SCHEMA);
    for (String member : new String[] {"first", "keys", "rows", "block"}) {
      record.put(member, range.get(member));
    }
    record.put("check", check);
    return record;
  }
}
