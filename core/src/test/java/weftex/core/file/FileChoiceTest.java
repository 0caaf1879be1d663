package weftex.core.file;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.List;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class FileChoiceTest {
  @Test
  void whatRowsNameTravels() {
    assertThat(FileChoice.USUAL.refusal("media/pier.jpg", 1L << 40)).isEmpty();
  }

  @Test
  void aProgramTravelsOnlyByItsWholeName() {
    assertThat(FileChoice.USUAL.refusal("media/form.php", 1))
        .contains("a program of the site's kind travels only if it is asked for by its whole name");
    FileChoice byPattern = FileChoice.USUAL.and(false, List.of("media/*"));
    assertThat(byPattern.refusal("media/form.php", 1)).isPresent();
    FileChoice byName = FileChoice.USUAL.and(false, List.of("media/form.php"));
    assertThat(byName.refusal("media/form.php", 1)).isEmpty();
  }

  @ParameterizedTest
  @CsvSource({
    "cache/*, cache/a.jpg, true",
    "cache/*, media/cache/a.jpg, true",
    "cache/*, media/cached.jpg, false",
    "*.mov, media/pier.mov, true",
    "media/raw/*, raw/a.jpg, false"
  })
  void aPatternHoldsInAnyFolder(String pattern, String path, boolean stays) {
    FileChoice choice = new FileChoice(false, List.of(pattern), List.of(), 0);
    assertThat(choice.refusal(path, 1).isPresent()).isEqualTo(stays);
  }

  @Test
  void whatIsLargerThanTheLimitStays() {
    FileChoice choice = new FileChoice(false, List.of(), List.of(), 1_000);
    assertThat(choice.refusal("media/pier.mov", 1_000)).isEmpty();
    assertThat(choice.refusal("media/pier.mov", 1_001))
        .contains("it is larger than what may travel");
    assertThat(choice.and(false, List.of("media/pier.mov")).refusal("media/pier.mov", 1_001))
        .as("asked for by name")
        .isEmpty();
  }

  @Test
  void foldersAreLookedThroughUpToTheFirstStar() {
    FileChoice choice =
        FileChoice.USUAL.and(
            false, List.of("forms/2026/*.pdf", "forms/20??/a.pdf", "forms/2026/x*", "*.txt"));
    assertThat(choice.folders()).containsExactly("forms/2026", "forms", "");
    assertThat(choice.asksFor("forms/2026/a.pdf")).isTrue();
    assertThat(choice.asksFor("other/a.pdf")).isFalse();
  }

  @Test
  void aSelectionCanOnlyTakeFilesAway() {
    FileChoice none = new FileChoice(true, List.of(), List.of(), 0);
    assertThat(none.and(false, List.of()).none()).isTrue();
    assertThat(FileChoice.USUAL.and(true, List.of()).none()).isTrue();
    assertThat(FileChoice.USUAL.and(false, List.of()).none()).isFalse();
  }
}
