package weftex.cli;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.LinkedHashMap;
import java.util.Map;
import java.util.zip.ZipEntry;
import java.util.zip.ZipInputStream;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** What is kept of every run, and what is packed of it for whoever helps. */
class LogTest {
  @TempDir Path folder;

  @BeforeEach
  void aWeek() throws Exception {
    DemoPair.marked(folder).week();
    weftex("draft");
    weftex("review", "--set", "1.title=Secret fares", "--why", "nobody may read this");
    weftex("draft", "--item", "page:Nothing of this name", "-o", "other.jsonl");
  }

  private Program.Ran weftex(String... arguments) {
    return new Program(folder).run(arguments);
  }

  private String log() throws Exception {
    return Files.readString(folder.resolve(".weftex/log/weftex.0.log"));
  }

  private Map<String, String> unpacked(String name) throws Exception {
    Map<String, String> files = new LinkedHashMap<>();
    try (ZipInputStream zip = new ZipInputStream(Files.newInputStream(folder.resolve(name)))) {
      for (ZipEntry entry = zip.getNextEntry(); entry != null; entry = zip.getNextEntry()) {
        files.put(entry.getName(), new String(zip.readAllBytes(), StandardCharsets.UTF_8));
      }
    }
    return files;
  }

  @Test
  void everyRunSaysWhatItWasHowLongItTookAndWhatCameOut() throws Exception {
    assertThat(log())
        .containsPattern("begin mark \\(weftex .*, Java .*\\)")
        .containsPattern("pair sqlite .*staging.db prefix skf_; sqlite .*live.db prefix skf_")
        .containsPattern("step comparing, \\d+\\.\\d\\d s")
        .containsPattern("begin draft --item --out ")
        .containsPattern("end status 1, done, \\d+\\.\\d\\d s")
        .containsPattern("end status 2, refused, ");
  }

  @Test
  void whatSomebodyTypesOrTheSiteHoldsIsNotInIt() throws Exception {
    weftex("review", "--list", "--values");
    weftex("apply");
    assertThat(log())
        .doesNotContain("Secret fares", "nobody may read", "Nothing of this name", "Tangen")
        .doesNotContain("Winter timetable");
  }

  @Test
  void aBundleIsListedBeforeItIsWrittenAndHoldsNoRows() throws Exception {
    Files.createDirectories(folder.resolve(".weftex/failures"));
    Files.writeString(
        folder.resolve(".weftex/failures/2026-11-28.txt"),
        "weftex 0.1.0\njava.lang.IllegalStateException: Winter timetable\nof live\n\tat weftex.cli.Cli.run(Cli.java:7)\n");
    Program.Ran packed = weftex("check", "--bundle", "help.zip");
    assertThat(packed.status()).as(packed.err()).isZero();
    assertThat(packed.err()).contains("versions.json", "model.json", "log/weftex.0.log");
    Map<String, String> files = unpacked("help.zip");
    assertThat(files.keySet())
        .containsExactly(
            "versions.json",
            "settings.json",
            "model.json",
            "log/weftex.0.log",
            "failures/2026-11-28.txt");
    assertThat(files.get("failures/2026-11-28.txt"))
        .isEqualTo(
            "weftex 0.1.0\njava.lang.IllegalStateException\n\tat weftex.cli.Cli.run(Cli.java:7)\n");
    assertThat(files.get("versions.json")).contains("\"weftex\" : \"0.1.0\"", "SQLite");
    assertThat(files.get("settings.json")).contains("staging.skerrow.example", "\"pages\"");
    assertThat(files.values()).noneMatch(text -> text.contains("Winter timetable"));
    byte[] before = Files.readAllBytes(folder.resolve("help.zip"));
    assertThat(weftex("check", "--bundle", "help.zip").err()).contains("help.zip is there already");
    assertThat(folder.resolve("help.zip")).hasBinaryContent(before);
  }

  @Test
  void whereNoLogCanBeWrittenTheWorkGoesOn() throws Exception {
    Path log = folder.resolve(".weftex/log");
    for (Path file : Files.list(log).toList()) {
      Files.delete(file);
    }
    Files.delete(log);
    Files.writeString(log, "no folder");
    assertThat(weftex("compare").status()).isEqualTo(1);
  }
}
