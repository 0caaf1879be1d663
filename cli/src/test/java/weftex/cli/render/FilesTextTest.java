package weftex.cli.render;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import org.junit.jupiter.api.Test;
import weftex.cli.result.FilesReport;
import weftex.store.apply.ApplyOutcome;
import weftex.store.engine.Drift;

class FilesTextTest {
  private static String printed(FilesReport files) {
    return Printed.of(page -> FilesText.print(page, files, "staging"));
  }

  @Test
  void noFilesAreNoLine() {
    assertThat(printed(new FilesReport(0, 0, 0, 0, 0, Map.of(), List.of(), Map.of(), "")))
        .isEmpty();
  }

  @Test
  void filesAreCountedByWhatBecomesOfThem() {
    assertThat(printed(new FilesReport(2, 0, 1, 3_400, 1, Map.of(), List.of(), Map.of(), "")))
        .isEqualTo("Files: 2 new, 1 to remove; 3.4 kB; 1 conflict.\n");
  }

  @Test
  void onlyTheFirstOfManyAreNamed() {
    Map<String, String> renamed = new TreeMap<>();
    for (int i = 0; i < 5; i++) {
      renamed.put("media/" + i + ".jpg", "media/" + i + "-2.jpg");
    }
    assertThat(
            printed(
                new FilesReport(0, 0, 0, 0, 0, renamed, List.of("a", "b", "c", "d"), Map.of(), "")))
        .isEqualTo(
            """
              media/0.jpg becomes media/0-2.jpg, since another file has that name.
              media/1.jpg becomes media/1-2.jpg, since another file has that name.
              media/2.jpg becomes media/2-2.jpg, since another file has that name.
              … and 2 more that get another name.
            Rows name 4 files that staging does not have: a, b, c and 1 more.
            """);
  }

  @Test
  void filesThatStayAreListedByTheReason() {
    Map<String, String> left = new TreeMap<>();
    left.put("a.mov", "it is larger than 10 MB");
    left.put("b.mov", "it is larger than 10 MB");
    left.put("c.php", "it could be run");
    assertThat(
            printed(
                new FilesReport(0, 0, 0, 0, 0, Map.of(), List.of(), left, "no folder is named")))
        .isEqualTo(
            """
            Stays where it is: c.php; it could be run.
            Stays where it is: a.mov, b.mov; it is larger than 10 MB.
            Files are not looked at: no folder is named.
            """);
  }

  @Test
  void anApplySaysWhatItBroughtAndWhatItLeft() {
    ApplyOutcome.FileCounts counts =
        new ApplyOutcome.FileCounts(
            1, 0, 2, List.of(new Drift(3, "files", "media/a.jpg", "was replaced meanwhile")));
    assertThat(Printed.of(page -> FilesText.print(page, counts)))
        .isEqualTo(
            """
            Files: 1 brought, 2 removed; each was read back and verified.
            Left alone: media/a.jpg was replaced meanwhile.
            """);
    assertThat(Printed.of(page -> FilesText.printBack(page, counts)))
        .isEqualTo("Files: 2 removed, 1 brought back.\n");
  }
}
