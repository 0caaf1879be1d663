package weftex.store.state;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Random;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.condition.EnabledOnOs;
import org.junit.jupiter.api.condition.OS;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;
import weftex.core.compare.Difference;
import weftex.core.row.Row;
import weftex.core.row.SortKey;
import weftex.core.row.Value;

class DifferenceFileTest {
  @TempDir Path folder;

  private static Row row(long key, String text) {
    return Row.of(SortKey.ofWhole(key), List.of(Value.whole(key), Value.text(text), Value.NULL));
  }

  @Test
  @EnabledOnOs(OS.LINUX)
  void whatIsEncryptedIsNotOnTheDisk() throws IOException {
    String text = "Ferry to Brae ".repeat(10_000);
    for (boolean encrypted : new boolean[] {false, true}) {
      Path file = folder.resolve("log");
      try (DifferenceFile log = DifferenceFile.create(file, encrypted)) {
        long at = log.append(new Difference(0, Row.ABSENT, row(1, text), Row.ABSENT));
        assertThat(log.read(at).source().sameValues(row(1, text))).isTrue();
        assertThat(onDisk(file).contains("Ferry")).isNotEqualTo(encrypted);
      }
    }
  }

  /** A file that goes when it is closed has no name any more, but an open one is in reach. */
  private static String onDisk(Path file) throws IOException {
    try (Stream<Path> open = Files.list(Path.of("/proc/self/fd"))) {
      for (Path each : open.toList()) {
        if (Files.isSymbolicLink(each)
            && Files.readSymbolicLink(each).toString().startsWith(file.toString())) {
          return Files.readString(each, StandardCharsets.ISO_8859_1);
        }
      }
    }
    throw new IOException("nothing holds " + file);
  }

  @ParameterizedTest
  @ValueSource(booleans = {false, true})
  void whatIsAppendedCanBeReadInAnyOrderWhileMoreIsAppended(boolean encrypted) throws IOException {
    Random random = new Random(7);
    List<Long> positions = new ArrayList<>();
    Path place = folder.resolve("log");
    try (DifferenceFile file = DifferenceFile.create(place, encrypted)) {
      for (int i = 0; i < 2000; i++) {
        String text = "x".repeat(random.nextInt(i % 100 == 0 ? 100_000 : 200));
        positions.add(file.append(new Difference(i % 5, row(i, "base"), row(i, text), Row.ABSENT)));
        int back = random.nextInt(positions.size());
        Difference read = file.read(positions.get(back));
        assertThat(read.table()).isEqualTo(back % 5);
        assertThat(read.base().sameValues(row(back, "base"))).isTrue();
        assertThat(read.source().key()).isEqualTo(SortKey.ofWhole(back));
        assertThat(read.target().isPresent()).isFalse();
      }
      assertThat(positions).isSorted().doesNotHaveDuplicates();
    }
  }

  /** Thousands of rows are kept by a plan, in what it counts for them by their length. */
  @ParameterizedTest
  @ValueSource(booleans = {false, true})
  void aRowHoldsOnToItsOwnRecordAlone(boolean encrypted) throws IOException {
    try (DifferenceFile file = DifferenceFile.create(folder.resolve("log"), encrypted)) {
      List<Long> positions = new ArrayList<>();
      for (int i = 0; i < 1000; i++) {
        positions.add(file.append(new Difference(0, row(i, "base"), row(i, "s"), Row.ABSENT)));
      }
      for (long at : positions) {
        assertThat(file.read(at).source().holds((bytes, from, to) -> bytes.length < 100)).isTrue();
      }
    }
  }

  @Test
  void theFileIsGoneWhenItIsClosed() throws IOException {
    Path file = folder.resolve("log");
    try (DifferenceFile log = DifferenceFile.create(file, false)) {
      log.append(new Difference(0, Row.ABSENT, row(1, "a"), Row.ABSENT));
    }
    assertThat(file).doesNotExist();
  }

  @Test
  void deletingTakesAFolderWithAllThatIsInIt() throws IOException {
    Path deep = folder.resolve("a/b/c");
    Files0600.createFolder(deep);
    Files.writeString(deep.resolve("file"), "x");
    Files0600.delete(folder.resolve("a"));
    Files0600.delete(folder.resolve("never there"));
    try (Stream<Path> left = Files.list(folder)) {
      assertThat(left).isEmpty();
    }
  }
}
