package weftex.cli;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardOpenOption;
import java.nio.file.attribute.FileTime;
import java.time.Duration;
import java.time.Instant;
import java.util.Arrays;
import java.util.List;
import java.util.stream.Stream;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import weftex.store.testing.ReceiptText;

/** Months of drafts and restore points, and what is left of them. */
class TidyTest {
  @TempDir Path folder;

  @BeforeEach
  void someWeeks() throws Exception {
    DemoPair.marked(folder).week();
    for (int i = 0; i < 3; i++) {
      weftex("draft", "--even-if-nothing");
      weftex("review", "--keep", "conflicts");
    }
    weftex("review", "--approve");
    assertThat(weftex("apply").status()).isZero();
    weftex("save", "live");
    weftex("save", "live");
    for (Path draft : drafts()) {
      Files.setLastModifiedTime(draft, FileTime.from(Instant.now().minus(Duration.ofDays(9))));
    }
  }

  private Program.Ran weftex(String... arguments) {
    return new Program(folder).run(arguments);
  }

  private List<Path> drafts() throws Exception {
    try (Stream<Path> files = Files.list(folder.resolve(".weftex/change-sets"))) {
      return files.filter(file -> file.toString().endsWith(".jsonl")).sorted().toList();
    }
  }

  private void configure(String lines) throws Exception {
    Files.writeString(folder.resolve("weftex.yaml"), lines, StandardOpenOption.APPEND);
  }

  @Test
  void whatCanGoIsListedAndGoesOnlyIfToldTo() throws Exception {
    Program.Ran nothing = weftex("tidy");
    assertThat(nothing.status()).isZero();
    assertThat(nothing.out())
        .containsIgnoringWhitespaces("Can be compressed: 2 files", "compresses what is old")
        .doesNotContain("Can go");
    configure("tidy: {days: 7, keep: 1}\nrestore-points: {keep: 1}\n");
    String listed = weftex("tidy").out();
    assertThat(listed).contains("Can go: 3 files", "2 drafts:", "0001-", "1 restore point:");
    assertThat(drafts()).hasSize(3);
    assertThat(weftex("tidy", "--yes").out()).contains("Removed 3 files");
    assertThat(drafts()).hasSize(1).allMatch(file -> file.toString().contains("0003-"));
    assertThat(weftex("tidy", "--json").out()).contains("\"things\" : [ ]");
    // What is left is enough for all that may come.
    assertThat(weftex("undo").status()).isZero();
    assertThat(weftex("restore", "live", "--yes", "skerrow").status()).isZero();
    assertThat(weftex("tidy").out())
        .containsIgnoringWhitespaces("'weftex restore live --remove-aside' removes it");
  }

  @Test
  void whatIsOldIsCompressedAndStillTakesPart() throws Exception {
    Path applied = drafts().get(2);
    weftex("draft", "--even-if-nothing");
    long before = Files.size(applied);
    String lines = Files.readString(applied);
    assertThat(weftex("tidy", "--yes").out()).containsIgnoringWhitespaces("Compressed 3 files");
    assertThat(drafts()).hasSize(1);
    Path packed = applied.resolveSibling(applied.getFileName() + ".zst");
    assertThat(packed).isNotEmptyFile();
    assertThat(Files.size(packed)).isLessThan(before / 2);
    assertThat(ReceiptText.of(packed)).isEqualTo(lines);
    assertThat(weftex("tidy").out()).containsIgnoringWhitespaces("Nothing can go");
    // By its old name and by its new one; what is decided stands behind it.
    String named = ".weftex/change-sets/" + drafted(1);
    assertThat(weftex("review", named, "--list").out()).contains("page 'Winter timetable'");
    assertThat(weftex("review", named, "--skip", "page:Winter*").status()).isZero();
    assertThat(weftex("review", named + ".zst", "--list", "--open").status()).isZero();
    assertThat(ReceiptText.of(folder.resolve(named + ".zst"))).contains("\"decision\"");
    assertThat(weftex("history").out()).containsIgnoringWhitespaces("page 'Winter timetable'");
    Program.Ran again = weftex("draft", named, "--again", "--even-if-nothing", "-o", "again");
    assertThat(again.status()).as(again.err()).isZero();
    // A decision that was cut off is taken away.
    Path file = folder.resolve(named + ".zst");
    byte[] whole = Files.readAllBytes(file);
    Files.write(file, Arrays.copyOf(whole, whole.length - 3));
    assertThat(weftex("review", named, "--list").err()).contains("had been cut off");
    Program.Ran back = weftex("undo", "--item", "page:Winter*");
    assertThat(back.status()).as(back.err()).isZero();
  }

  @Test
  void aReceiptOfAnOlderVersionIsCompressedToo() throws Exception {
    Path receipt;
    try (Stream<Path> files = Files.list(folder.resolve(".weftex/receipts"))) {
      receipt = files.findFirst().orElseThrow();
    }
    String lines = ReceiptText.of(receipt);
    Path older = receipt.resolveSibling(receipt.getFileName().toString().replace(".zst", ""));
    Files.writeString(older, lines);
    Files.delete(receipt);
    assertThat(weftex("tidy").out()).containsIgnoringWhitespaces("Can be compressed: 3 files");
    assertThat(weftex("tidy", "--yes").out()).containsIgnoringWhitespaces("Compressed 3 files");
    assertThat(older).doesNotExist();
    assertThat(ReceiptText.of(receipt)).isEqualTo(lines);
    assertThat(weftex("undo").status()).isZero();
  }

  private String drafted(int number) throws Exception {
    try (Stream<Path> files = Files.list(folder.resolve(".weftex/change-sets"))) {
      return files
          .map(file -> file.getFileName().toString())
          .filter(name -> name.startsWith("000" + number + "-"))
          .findFirst()
          .orElseThrow()
          .replace(".zst", "");
    }
  }

  @Test
  void wrongWordsAreRefused() throws Exception {
    configure("tidy: {days: 0}\n");
    Program.Ran refused = weftex("tidy", "--yes");
    assertThat(refused.status()).isEqualTo(2);
    assertThat(refused.err()).contains("'days' and 'keep' of 'tidy' must be 1 or more");
    assertThat(drafts()).hasSize(3);
  }
}
