package weftex.cli.config;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.catchThrowableOfType;

import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Instant;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import weftex.core.select.Selection;
import weftex.store.Refusal;

class SelectionWordsTest {
  private static final Instant NOW = Instant.parse("2026-11-25T10:30:00Z");

  @TempDir Path folder;

  @ParameterizedTest(name = "{0}: {1}")
  @CsvSource({
    "2026-11-20, 2026-11-20",
    "2026-11-20 14:00, 2026-11-20T14:00",
    "2026-11-20T14:00:05, 2026-11-20T14:00:05",
    "3d, 2026-11-22T10:30",
    "12h, 2026-11-24T22:30",
    "2 weeks, 2026-11-11T10:30"
  })
  void timesAreDatesTimesOrSoLongAgo(String written, String meant) throws Refusal {
    SelectionWords words = new SelectionWords(Map.of("since", List.of(written)));
    assertThat(words.selection(NOW).things().since()).isEqualTo(meant);
    assertThat(words.settled(NOW).said().get("since")).containsExactly(meant);
  }

  @Test
  void everyWordFindsItsPlace() throws Refusal {
    Selection selection =
        new SelectionWords(
                Map.of(
                    "tables", List.of("page*"),
                    "without-item", List.of("account"),
                    "rows", List.of("pages:4-9,12"),
                    "without-path", List.of("/old/*"),
                    "without-new-tables", List.of("yes")))
            .selection(NOW);
    assertThat(selection.tables()).containsExactly("page*");
    assertThat(selection.things().withoutItems()).hasSize(1);
    assertThat(selection.rows()).hasSize(2);
    assertThat(selection.things().withoutPaths()).containsExactly("/old/*");
    assertThat(selection.newTables()).contains(false);
  }

  @Test
  void twoAreJoinedWordByWord() {
    SelectionWords both =
        new SelectionWords(Map.of("item", List.of("page"), "without", List.of("a")))
            .and(new SelectionWords(Map.of("item", List.of("page", "setting"))));
    assertThat(both.said())
        .isEqualTo(Map.of("item", List.of("page", "setting"), "without", List.of("a")));
  }

  private Path pair(String more) throws Exception {
    Path file = folder.resolve("weftex.yaml");
    Files.writeString(
        file,
        "site: skerrow   # our own\ncopies:\n  staging: {sqlite: a.db}\n  live: {sqlite: b.db}\n"
            + more);
    return file;
  }

  private static void save(Path file, String name, Map<String, List<String>> said)
      throws Exception {
    SelectionSaver.check(file, name, new SelectionWords(said), Map.of());
    SelectionSaver.save(file, name, new SelectionWords(said), Map.of());
  }

  @Test
  void whatIsSavedIsReadBackAndTheRestStaysAsItIs() throws Exception {
    Path file = pair("selections:  # of ours\n  old: {item: page}\n\napprovals: 2\n");
    String before = Files.readString(file);
    Map<String, List<String>> said =
        Map.of("item", List.of("page:\"Fares\" \\ cards", "setting"), "new-tables", List.of("yes"));
    save(file, "winter-2", said);
    assertThat(Files.readString(file).replaceFirst("  winter-2: .*\n", "")).isEqualTo(before);
    Pair pair = PairReader.read(file, Map.of());
    assertThat(pair.selections()).containsOnlyKeys("old", "winter-2");
    assertThat(pair.selections().get("winter-2").said().get("item"))
        .containsExactly("page:\"Fares\" \\ cards", "setting");
    assertThat(pair.selections().get("winter-2").selection(NOW).newTables()).contains(true);
  }

  @ParameterizedTest(name = "{0}")
  @CsvSource(
      delimiter = '|',
      value = {
        "two words | can't be the name",
        "old | has a selection 'old' already",
        "1st | can't be the name"
      })
  void aNameThatCannotBeIsRefusedAndNothingIsWritten(String name, String sentence)
      throws Exception {
    Path file = pair("selections:\n  old: {item: page}\n");
    String before = Files.readString(file);
    Refusal refusal =
        catchThrowableOfType(
            Refusal.class, () -> save(file, name, Map.of("item", List.of("page"))));
    assertThat(refusal.getMessage()).contains(sentence, "Nothing was changed");
    assertThat(Files.readString(file)).isEqualTo(before);
  }

  @Test
  void selectionsWrittenInOneLineAreLeftToTheirWriter() throws Exception {
    Path file = pair("selections: {old: {item: page}}\n");
    String before = Files.readString(file);
    Refusal refusal =
        catchThrowableOfType(
            Refusal.class, () -> save(file, "new", Map.of("item", List.of("page"))));
    assertThat(refusal.getMessage()).contains("was not saved");
    assertThat(Files.readString(file)).isEqualTo(before);
    assertThat(folder.resolve("weftex.yaml.partial")).doesNotExist();
  }

  @Test
  void anUnknownWordIsNamedWithTheNearest() throws Exception {
    Path file = pair("selections: {winter: {itm: page}}\n");
    Refusal refusal = catchThrowableOfType(Refusal.class, () -> PairReader.read(file, Map.of()));
    assertThat(refusal.getMessage())
        .contains("selection 'winter' says 'itm'", "did you mean 'item'?");
  }
}
