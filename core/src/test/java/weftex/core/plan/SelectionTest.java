package weftex.core.plan;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.io.IOException;
import java.util.List;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import weftex.core.site.Glob;

class SelectionTest {

  @ParameterizedTest
  @CsvSource({
    "pages, pages, true",
    "page*, pages, true",
    "page?, pages, true",
    "p.ges, pages, false",
    "*, pages, true",
    "page, pages, false",
    "posts_[1], posts_[1], true"
  })
  void patternsHaveStarAndQuestionMarkOnly(String pattern, String name, boolean matches) {
    assertThat(Glob.matches(pattern, name)).isEqualTo(matches);
  }

  @ParameterizedTest(name = "{0}: {1}")
  @CsvSource(
      delimiter = '|',
      value = {
        "pages:1 | 1",
        "pages:1-2 | 1 2",
        "pages:3,1 | 1 3",
        "pages.title=Two | 2",
        "pages.slug=nowhere | ''"
      })
  void rowsAreChosenByKeyRangeOrValue(String rows, String keys) throws IOException {
    Sketch site = new Sketch(Sketch.PAGES, Sketch.NOTES).everywhere("pages", "9, nine, Nine, NULL");
    site.source
        .row("pages", "1, one, One, NULL")
        .row("pages", "2, two, Two, NULL")
        .row("pages", "3, three, Three, NULL")
        .row("notes", "1, snow, 9");
    Selection selection =
        new Selection(List.of(), List.of(), List.of(), Selection.RowFilter.parse(rows), List.of());
    assertThat(site.plan(selection).stream().map(change -> change.keyText()))
        .containsExactly(keys.isEmpty() ? new String[0] : keys.split(" "));
  }

  @Test
  void tablesAreLeftOutByPattern() throws IOException {
    Sketch site = new Sketch(Sketch.PAGES, Sketch.NOTES).everywhere("pages", "9, nine, Nine, NULL");
    site.source.row("pages", "1, one, One, NULL").row("notes", "1, snow, 9");
    assertThat(
            site
                .plan(new Selection(List.of(), List.of("not*"), List.of(), List.of(), List.of()))
                .stream()
                .map(c -> c.table()))
        .containsExactly("pages");
  }

  @Test
  void aFilterThatNamesNoRowsSaysHowToWriteOne() {
    assertThatThrownBy(() -> Selection.RowFilter.parse("pages"))
        .isInstanceOf(IllegalArgumentException.class)
        .hasMessageContaining("table:first-last");
  }
}
