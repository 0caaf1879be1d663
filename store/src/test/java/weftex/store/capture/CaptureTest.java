package weftex.store.capture;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.catchThrowableOfType;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import org.apache.avro.Schema;
import org.apache.avro.file.DataFileReader;
import org.apache.avro.file.DataFileWriter;
import org.apache.avro.file.SeekableByteArrayInput;
import org.apache.avro.generic.GenericData;
import org.apache.avro.generic.GenericDatumReader;
import org.apache.avro.generic.GenericDatumWriter;
import org.apache.avro.generic.GenericRecord;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import weftex.core.compare.KeyRange;
import weftex.core.compare.RangeDigests;
import weftex.core.row.Column;
import weftex.core.row.Row;
import weftex.core.row.RowStream;
import weftex.core.row.SortKey;
import weftex.core.row.Table;
import weftex.core.row.Value;
import weftex.core.row.ValueKind;
import weftex.store.Refusal;
import weftex.store.database.KeyPart;
import weftex.store.database.Layout;
import weftex.store.rows.RowDigest;
import weftex.store.seal.AtRest;

class CaptureTest {
  private static final int ROWS = 20_000;
  private static final Table PAGES =
      new Table(
          "pages",
          List.of(
              Column.of("id", ValueKind.WHOLE),
              Column.of("odd name", ValueKind.TEXT),
              Column.of("price", ValueKind.DECIMAL)),
          List.of(0),
          0,
          List.of(),
          List.of());

  @TempDir Path temporary;
  private Path folder;

  private static Row row(long id) {
    Value text =
        id % 3 == 0 ? Value.NULL : Value.text("page " + id + " " + "x".repeat((int) (id % 90)));
    return Row.of(
        SortKey.ofWhole(id), List.of(Value.whole(id), text, new Value.Decimal(id + ".50")));
  }

  @BeforeEach
  void record() throws IOException {
    folder = temporary.resolve("base");
    Layout layout = new Layout(PAGES, "wp_pages", List.of(KeyPart.NUMBER));
    new CaptureWriter("skerrow", "live", "somewhere", "test", AtRest.CLEAR)
        .write(folder, List.of(layout), table -> rows(), "2026-11-25T10:00:00Z", rows -> {});
  }

  /** Every second number from 2. */
  private static RowStream rows() {
    long[] next = {0};
    return new RowStream() {
      @Override
      public Row next() {
        next[0] += 2;
        return next[0] <= 2L * ROWS ? row(next[0]) : Row.ABSENT;
      }

      @Override
      public void close() {}
    };
  }

  @Test
  void everyRowComesBackInOrder() throws Exception {
    try (RowStream rows = Capture.open(folder, "skerrow", AtRest.CLEAR).open(PAGES)) {
      for (long id = 2; id <= 2 * ROWS; id += 2) {
        Row read = rows.next();
        assertThat(read.key()).isEqualTo(SortKey.ofWhole(id));
        assertThat(read.sameValues(row(id))).isTrue();
      }
      assertThat(rows.next().isPresent()).isFalse();
    }
  }

  /** One row in each of the narrowest ranges, more than there are before they grow. */
  @Test
  void rangesGrowWithTheTableAndAreAllAsWideAsTheWidest() throws Exception {
    int count = 20_000;
    Layout layout = new Layout(PAGES, "wp_pages", List.of(KeyPart.NUMBER));
    long[] next = {0};
    Path sparse = temporary.resolve("sparse");
    new CaptureWriter("skerrow", "live", "somewhere", "test", AtRest.CLEAR)
        .write(
            sparse,
            List.of(layout),
            table ->
                new RowStream() {
                  @Override
                  public Row next() {
                    return next[0]++ < count ? row(next[0] * 8) : Row.ABSENT;
                  }

                  @Override
                  public void close() {}
                },
            "2026-11-25T10:00:00Z",
            rows -> {});
    Capture capture = Capture.open(sparse, "skerrow", AtRest.CLEAR);
    RangeDigests digests = capture.digests(PAGES, 0).orElseThrow();
    assertThat(digests.width()).isEqualTo(16);
    assertThat(digests.size()).isEqualTo(count / 2 + 1);
    RowDigest digest = new RowDigest(PAGES);
    for (int i = 0; i < digests.size(); i++) {
      long rows = 0;
      long expected = 0;
      for (long id = digests.range(i) * 16; id < digests.range(i) * 16 + 16; id += 8) {
        if (id > 0 && id <= 8L * count) {
          rows++;
          expected ^= digest.of(row(id));
        }
      }
      assertThat(List.of(digests.rows(i), digests.digest(i))).containsExactly(rows, expected);
    }
    long first = 16L * 8192;
    try (RowStream rows =
        capture.open(PAGES, List.of(new KeyRange(0, 31), new KeyRange(first - 16, first + 31)))) {
      for (long id :
          new long[] {8, 16, 24, first - 16, first - 8, first, first + 8, first + 16, first + 24}) {
        assertThat(rows.next().values()).isEqualTo(row(id).values());
      }
      assertThat(rows.next().isPresent()).isFalse();
    }
  }

  /** The digests of an older version let equal edits of two rows cancel. */
  @Test
  void rangesOfAnOlderBaseAreDigestedAgainFromItsRows() throws Exception {
    Path file = folder.resolve("0001.ranges.avro");
    RangeDigests expected =
        Capture.open(folder, "skerrow", AtRest.CLEAR).digests(PAGES, 0).orElseThrow();
    makeOfTheFirstFormat();
    byte[] now = Files.readAllBytes(file);
    Schema older =
        new Schema.Parser().parse(RangeWriter.SCHEMA.toString().replace("\"check\"", "\"digest\""));
    try (DataFileReader<GenericRecord> reader =
            new DataFileReader<>(new SeekableByteArrayInput(now), new GenericDatumReader<>());
        DataFileWriter<GenericRecord> writer =
            new DataFileWriter<>(new GenericDatumWriter<>(older))) {
      writer.create(older, file.toFile());
      while (reader.hasNext()) {
        GenericRecord range = reader.next();
        GenericRecord record = new GenericData.Record(older);
        for (String member : List.of("first", "keys", "rows", "block")) {
          record.put(member, range.get(member));
        }
        record.put("digest", 7L);
        writer.append(record);
      }
    }
    for (int round = 0; round < 2; round++) {
      RangeDigests renewed =
          Capture.open(folder, "skerrow", AtRest.CLEAR).digests(PAGES, 0).orElseThrow();
      assertThat(renewed.size()).isEqualTo(expected.size());
      for (int i = 0; i < renewed.size(); i++) {
        assertThat(List.of(renewed.range(i), renewed.rows(i), renewed.digest(i)))
            .containsExactly(expected.range(i), expected.rows(i), expected.digest(i));
      }
    }
    assertThat(RangeRenewal.isDue(AtRest.CLEAR, file)).isFalse();
    rangesAreReadAlone();
  }

  @Test
  void rangesAreReadAlone() throws Exception {
    List<KeyRange> ranges =
        List.of(
            new KeyRange(0, 63),
            new KeyRange(64 * 100, 64 * 102 - 1),
            new KeyRange(64 * 620, 64 * 630 - 1),
            new KeyRange(640_000, 640_063));
    List<Long> read = new ArrayList<>();
    try (RowStream rows = Capture.open(folder, "skerrow", AtRest.CLEAR).open(PAGES, ranges)) {
      for (Row row = rows.next(); row.isPresent(); row = rows.next()) {
        read.add(((Value.Whole) row.values().get(0)).number().longValue());
      }
    }
    List<Long> expected = new ArrayList<>();
    for (KeyRange range : ranges) {
      for (long id = Math.max(2, range.first()); id <= Math.min(range.last(), 2L * ROWS); id += 2) {
        expected.add(id);
      }
    }
    assertThat(read).isEqualTo(expected);
  }

  @Test
  void fewerColumnsAreReadInAnotherOrder() throws Exception {
    Table fewer =
        new Table(
            "pages",
            List.of(PAGES.columns().get(2), PAGES.columns().get(0)),
            List.of(1),
            -1,
            List.of(),
            List.of());
    Capture capture = Capture.open(folder, "skerrow", AtRest.CLEAR);
    assertThat(capture.digests(fewer, 0)).isEmpty();
    try (RowStream rows = capture.open(fewer)) {
      assertThat(rows.next().values()).containsExactly(new Value.Decimal("2.50"), Value.whole(2));
    }
  }

  @Test
  void anyAvroReaderUnderstandsIt() throws IOException {
    try (DataFileReader<GenericRecord> reader =
        new DataFileReader<>(folder.resolve("0001.avro").toFile(), new GenericDatumReader<>())) {
      assertThat(reader.getSchema().getFields().get(3).getProp("column")).isEqualTo("odd name");
      GenericRecord first = reader.next();
      assertThat(first.get("id")).isEqualTo(2L);
      assertThat(first.get(3)).hasToString("page 2 xx");
      assertThat(((GenericRecord) first.get("price")).get("digits")).hasToString("2.50");
    }
  }

  @Test
  void aTableThatWasNotRecordedIsEmpty() throws Exception {
    Table other = new Table("other", PAGES.columns(), List.of(0), 0, List.of(), List.of());
    Capture capture = Capture.open(folder, "skerrow", AtRest.CLEAR);
    assertThat(capture.columns("other")).isEmpty();
    try (RowStream rows = capture.open(other)) {
      assertThat(rows.next().isPresent()).isFalse();
    }
  }

  @Test
  void anOrderThatChangedIsRefused() throws Exception {
    Layout now = new Layout(PAGES, "wp_pages", List.of(KeyPart.BYTES));
    Refusal refusal =
        catchThrowableOfType(
            Refusal.class,
            () -> Capture.open(folder, "skerrow", AtRest.CLEAR).checkOrder(List.of(now)));
    assertThat(refusal.getMessage()).contains("pages", "[number]", "[bytes]");
  }

  private void makeOfTheFirstFormat() throws IOException {
    Path manifest = folder.resolve("manifest.json");
    Files.writeString(
        manifest,
        Files.readString(manifest)
            .replaceFirst("\"format\" : 2", "\"format\" : 1")
            .replaceAll(",\\s*\"(sha256|ranges)\" : \"[0-9a-f]*\"", ""));
  }

  private static void readAll(Capture capture) throws IOException {
    try (RowStream rows = capture.open(PAGES)) {
      while (rows.next().isPresent()) {
        // Reads on to the damage.
      }
    }
  }

  @Test
  void whereverAFileIsCutItIsSaid() throws Exception {
    Path file = folder.resolve("0001.avro");
    byte[] whole = Files.readAllBytes(file);
    Capture capture = Capture.open(folder, "skerrow", AtRest.CLEAR);
    readAll(capture);
    for (int length = 0; length < whole.length; length += 1 + whole.length / 40) {
      Files.write(file, java.util.Arrays.copyOf(whole, length));
      assertThatThrownBy(() -> readAll(capture))
          .as("cut to " + length)
          .isInstanceOf(DamagedBase.class)
          .hasMessageContaining("The base is damaged in " + file + ": ");
    }
    Files.delete(file);
    assertThatThrownBy(() -> readAll(capture)).hasMessageEndingWith("it is missing");
  }

  @Test
  void aRowThatWasAlteredIsFoundWhereverItIsRead() throws Exception {
    Path other = temporary.resolve("other");
    long[] next = {0};
    new CaptureWriter("skerrow", "live", "somewhere", "test", AtRest.CLEAR)
        .write(
            other,
            List.of(new Layout(PAGES, "wp_pages", List.of(KeyPart.NUMBER))),
            table ->
                new RowStream() {
                  @Override
                  public Row next() {
                    return ++next[0] <= ROWS ? row(next[0] == 50 ? 4 : 2 * next[0]) : Row.ABSENT;
                  }

                  @Override
                  public void close() {}
                },
            "2026-11-25T10:00:00Z",
            rows -> {});
    // Files that are whole in themselves, and not those that were recorded.
    Files.copy(
        other.resolve("0001.avro"),
        folder.resolve("0001.avro"),
        java.nio.file.StandardCopyOption.REPLACE_EXISTING);
    Capture capture = Capture.open(folder, "skerrow", AtRest.CLEAR);
    assertThatThrownBy(() -> readAll(capture)).hasMessageEndingWith("it is not as it was recorded");
    assertThatThrownBy(
            () -> {
              try (RowStream rows = capture.open(PAGES, List.of(new KeyRange(0, 511)))) {
                while (rows.next().isPresent()) {
                  // Reads on to the end of the range.
                }
              }
            })
        .isInstanceOf(DamagedBase.class);
    Files.copy(
        other.resolve("0001.ranges.avro"),
        folder.resolve("0001.ranges.avro"),
        java.nio.file.StandardCopyOption.REPLACE_EXISTING);
    assertThatThrownBy(() -> capture.digests(PAGES, 0))
        .hasMessageEndingWith("it is not as it was recorded");
  }

  @Test
  void aManifestThatWasAlteredOrCutIsRefused() throws Exception {
    Path manifest = folder.resolve("manifest.json");
    String whole = Files.readString(manifest);
    Files.writeString(manifest, whole.replace("\"live\"", "\"staging\""));
    assertThat(
            catchThrowableOfType(
                Refusal.class, () -> Capture.open(folder, "skerrow", AtRest.CLEAR)))
        .hasMessageContaining("manifest.json was altered");
    for (String cut : List.of("", "{}", "{\"format\":2}", whole.substring(0, whole.length() / 2))) {
      Files.writeString(manifest, cut);
      assertThat(
              catchThrowableOfType(
                  Refusal.class, () -> Capture.open(folder, "skerrow", AtRest.CLEAR)))
          .as(cut)
          .hasMessageContaining("The base in " + folder);
    }
  }

  @Test
  void aBaseOfTheFirstFormatIsReadAndNotSealed() throws Exception {
    makeOfTheFirstFormat();
    Capture capture = Capture.open(folder, "skerrow", AtRest.CLEAR);
    assertThat(capture.isSealed()).isFalse();
    readAll(capture);
    assertThat(capture.digests(PAGES, 0)).isPresent();
  }

  @Test
  void aDamagedFileIsNamed() throws Exception {
    Path file = folder.resolve("0001.avro");
    byte[] bytes = Files.readAllBytes(file);
    for (int i = bytes.length / 2; i < bytes.length / 2 + 2000; i++) {
      bytes[i] ^= 0x55;
    }
    Files.write(file, bytes);
    assertThatThrownBy(() -> readAll(Capture.open(folder, "skerrow", AtRest.CLEAR)))
        .isInstanceOf(DamagedBase.class)
        .hasMessageContaining("0001.avro");
  }
}
