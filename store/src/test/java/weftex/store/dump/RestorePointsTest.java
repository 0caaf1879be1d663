package weftex.store.dump;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Clock;
import java.time.Instant;
import java.time.ZoneOffset;
import java.util.ArrayList;
import java.util.List;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import weftex.store.database.CopySpec;
import weftex.store.seal.AtRest;

/** Which restore points go, and that the last one of a copy never does. */
class RestorePointsTest {
  private static final Instant TODAY = Instant.parse("2026-11-28T10:00:00Z");

  @TempDir Path folder;

  private RestorePoints points(int daysAgo) {
    Clock clock = Clock.fixed(TODAY.minusSeconds(daysAgo * 86400L), ZoneOffset.UTC);
    return new RestorePoints(folder.resolve("points"), "skerrow", "weftex", clock, AtRest.CLEAR);
  }

  /** A point of each of some days, oldest first. */
  private List<Path> saved(String copy, int... daysAgo) throws Exception {
    Path file = Files.write(folder.resolve(copy + ".db"), new byte[0]);
    List<Path> files = new ArrayList<>();
    for (int days : daysAgo) {
      RestorePoints then = points(days);
      Path point = then.newFile(copy);
      then.save(new CopySpec.SqliteFile(copy, "", file), point, rows -> {});
      files.add(point);
    }
    return files;
  }

  private List<Path> left(String copy) throws Exception {
    return points(0).all().stream()
        .filter(point -> point.copy().equals(copy))
        .map(RestorePoints.Point::file)
        .toList();
  }

  @Test
  void whatIsOlderThanItsDaysGoes() throws Exception {
    List<Path> files = saved("live", 40, 8, 7, 0);
    saved("staging", 40);
    assertThat(points(0).tidy("live", new RestorePoints.Limits(9, 7, 0)))
        .extracting(RestorePoints.Point::file)
        .containsExactly(files.get(1), files.get(0));
    assertThat(left("live")).containsExactly(files.get(3), files.get(2));
    assertThat(left("staging")).hasSize(1);
  }

  @Test
  void theLastOneStaysHoweverOldOrLarge() throws Exception {
    List<Path> files = saved("live", 400, 300);
    points(0).tidy("live", new RestorePoints.Limits(1, 7, 1));
    assertThat(left("live")).containsExactly(files.get(1));
  }

  @Test
  void theNewestStayAndTheirSizesAreAddedUp() throws Exception {
    List<Path> files = saved("live", 4, 3, 2, 1);
    long two = Files.size(files.get(3)) + Files.size(files.get(2));
    points(0).tidy("live", new RestorePoints.Limits(3, 0, 0));
    assertThat(left("live")).containsExactly(files.get(3), files.get(2), files.get(1));
    points(0).tidy("live", new RestorePoints.Limits(3, 0, two));
    assertThat(left("live")).containsExactly(files.get(3), files.get(2));
  }
}
