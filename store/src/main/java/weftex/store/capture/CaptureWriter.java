package weftex.store.capture;

import com.fasterxml.jackson.databind.SerializationFeature;
import com.fasterxml.jackson.databind.json.JsonMapper;
import java.io.IOException;
import java.io.OutputStream;
import java.nio.ByteBuffer;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardCopyOption;
import java.security.DigestOutputStream;
import java.security.MessageDigest;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.function.LongConsumer;
import org.apache.avro.file.DataFileWriter;
import org.apache.avro.generic.GenericDatumWriter;
import weftex.core.compare.Side;
import weftex.core.row.Row;
import weftex.core.row.RowPacking;
import weftex.core.row.RowStream;
import weftex.store.database.Layout;
import weftex.store.file.FileRecord;
import weftex.store.file.FileRecorder;
import weftex.store.seal.AtRest;
import weftex.store.state.Files0600;

/** Records a base. Nothing is in place until everything is written. */
public final class CaptureWriter {
  private static final int BLOCK_BYTES = 256 * 1024;

  private final String site;
  private final String copy;
  private final String place;
  private final String tool;
  private final AtRest atRest;

  /**
   * @param site the site's name
   * @param copy the name of the copy that is recorded
   * @param place where it is
   * @param tool the version that records it
   * @param atRest how it is kept
   */
  public CaptureWriter(String site, String copy, String place, String tool, AtRest atRest) {
    this.site = site;
    this.copy = copy;
    this.place = place;
    this.tool = tool;
    this.atRest = atRest;
  }

  /**
   * Records some tables into a folder, replacing what was recorded there before.
   *
   * @param marked the time to write down, as an ISO 8601 instant
   * @param rows is told how many rows have been recorded so far
   * @return how many rows were recorded
   */
  public long write(Path folder, List<Layout> layouts, Side side, String marked, LongConsumer rows)
      throws IOException {
    return write(folder, layouts, side, marked, Extras.NONE, rows);
  }

  /**
   * What a base has besides its rows.
   *
   * @param evidence what the rows of a worked-out one stand on where the copies differ
   * @param files records the files that rows name
   */
  public record Extras(Optional<Evidence> evidence, Optional<FileRecorder> files) {
    public static final Extras NONE = new Extras(Optional.empty(), Optional.empty());

    private int format() {
      if (files.isPresent()) {
        return Manifest.FORMAT;
      }
      return evidence.isPresent() ? Manifest.WORKED_OUT : Manifest.RECORDED;
    }
  }

  /** The same, with what the base has besides. */
  public long write(
      Path folder, List<Layout> layouts, Side side, String marked, Extras extras, LongConsumer rows)
      throws IOException {
    Path partial = folder.resolveSibling(folder.getFileName() + ".partial");
    Files0600.delete(partial);
    Files0600.createFolder(partial);
    List<Manifest.Entry> entries = new ArrayList<>();
    long total = 0;
    for (int i = 0; i < layouts.size(); i++) {
      Layout layout = layouts.get(i);
      String file = String.format("%04d.avro", i + 1);
      Path path = partial.resolve(file);
      MessageDigest digest = Hashes.sha256();
      long count = writeTable(path, digest, layout, side, rows, total);
      total += count;
      Path ranges = RangeWriter.of(path);
      entries.add(
          new Manifest.Entry(
              layout.table().name(),
              file,
              count,
              layout.table().columns().stream().map(c -> c.name()).toList(),
              layout.keyParts().stream().map(Object::toString).toList(),
              Hashes.hex(digest),
              Files.exists(ranges) ? Hashes.of(atRest, ranges) : null));
    }
    Manifest manifest = manifest(marked, extras, partial, entries);
    byte[] json = asJson(manifest);
    try (OutputStream out = Files0600.create(partial.resolve(Capture.MANIFEST))) {
      out.write(json);
    }
    Files0600.delete(folder);
    Files.move(partial, folder, StandardCopyOption.ATOMIC_MOVE);
    return total;
  }

  private Manifest manifest(
      String marked, Extras extras, Path partial, List<Manifest.Entry> entries) throws IOException {
    if (extras.files().isPresent()) {
      extras.files().get().write(partial, atRest);
    }
    return new Manifest(
            extras.format(),
            site,
            copy,
            place,
            marked,
            tool,
            entries,
            extras.evidence().isPresent() ? extras.evidence().get().write(partial, atRest) : null,
            extras.files().isPresent() ? Hashes.of(atRest, partial.resolve(FileRecord.FILE)) : null,
            null)
        .sealed();
  }

  private byte[] asJson(Manifest manifest) throws IOException {
    byte[] json =
        JsonMapper.builder()
            .enable(SerializationFeature.INDENT_OUTPUT)
            .build()
            .writeValueAsBytes(manifest);
    return json;
  }

  private long writeTable(
      Path file, MessageDigest digest, Layout layout, Side side, LongConsumer progress, long before)
      throws IOException {
    long count = 0;
    try (OutputStream out = new DigestOutputStream(atRest.create(file), digest);
        DataFileWriter<Object> writer = new DataFileWriter<>(new GenericDatumWriter<>());
        RangeWriter ranges = RangeWriter.beside(atRest, file, layout, writer);
        RowStream rows = side.open(layout.table())) {
      writer.setCodec(WholeFrameZstd.register());
      writer.setSyncInterval(BLOCK_BYTES);
      writer.create(RowSchema.of(layout.table()), out);
      RowPacking.Sink sink = new RowPacking.Sink(4096);
      for (Row row = rows.next(); row.isPresent(); row = rows.next()) {
        ranges.before(row);
        sink.clear();
        sink.putRaw(row.key().bytes());
        sink.putLong(row.length());
        row.appendTo(sink);
        writer.appendEncoded(ByteBuffer.wrap(sink.toByteArray()));
        if ((++count & 0x3FFF) == 0) {
          progress.accept(before + count);
        }
      }
      ranges.finish();
    }
    progress.accept(before + count);
    return count;
  }
}
