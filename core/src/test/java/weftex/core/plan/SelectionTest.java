package weftex.core.plan;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.io.IOException;
import java.util.List;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import weftex.core.model.SiteModel;
import weftex.core.row.Glob;
import weftex.core.select.MemberFilter;
import weftex.core.select.Selection;
import weftex.core.select.ThingFilter;
import weftex.core.yaml.YamlProblem;

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
        new Selection(
            List.of(),
            List.of(),
            List.of(),
            Selection.RowFilter.parse(rows),
            List.of(),
            ThingFilter.ALL,
            MemberFilter.ALL,
            java.util.Optional.empty());
    assertThat(site.plan(selection).stream().map(change -> change.keyText()))
        .containsExactly(keys.isEmpty() ? new String[0] : keys.split(" "));
  }

  @Test
  void tablesAreLeftOutByPattern() throws IOException {
    Sketch site = new Sketch(Sketch.PAGES, Sketch.NOTES).everywhere("pages", "9, nine, Nine, NULL");
    site.source.row("pages", "1, one, One, NULL").row("notes", "1, snow, 9");
    assertThat(
            site
                .plan(
                    new Selection(
                        List.of(),
                        List.of("not*"),
                        List.of(),
                        List.of(),
                        List.of(),
                        ThingFilter.ALL,
                        MemberFilter.ALL,
                        java.util.Optional.empty()))
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

  private static Selection things(
      List<String> paths, List<String> authors, List<String> without, String since, String until) {
    return new Selection(
        List.of(),
        List.of(),
        List.of(),
        List.of(),
        List.of(),
        new ThingFilter(List.of(), List.of(), paths, List.of(), authors, without, since, until),
        MemberFilter.ALL,
        java.util.Optional.empty());
  }

  /** Articles under articles, by people, with a time. */
  private static Sketch traced() throws IOException {
    try {
      return new Sketch(
          SiteModel.read(
              """
              model: test
              tables:
                articles:
                  item: {kind: article, name: [slug], path: [slug], under: parent, author: page}
                  references: {parent: {to: articles}, page: {to: people}}
                  columns: {changed: newer}
                people: {item: {kind: person, name: [login]}}
              """),
          Sketch.table(
              "articles", List.of("id", "slug", "parent", "page", "changed"), 0, List.of()),
          Sketch.table("people", List.of("id", "login"), 0, List.of()));
    } catch (YamlProblem e) {
      throw new IOException(e);
    }
  }

  @ParameterizedTest(name = "path {0}, author {1}, not {2}, since {3}, until {4}: {5}")
  @CsvSource({
    "/harbours/*, '', '', '', '', 3",
    "harbours, '', '', '', '', 2",
    "'', ola, '', '', '', 2 3",
    "'', '', ol*, '', '', 1",
    "'', '', '', 2026-11-20, '', 2 3",
    "'', '', '', '', 2026-11-20, 1",
    "'', '', '', 2026-11-20, 2026-11-21T12:00, 2",
    "'', nobody, '', '', '', ''"
  })
  void thingsAreChosenByWhereTheyAreSeenWhoMadeThemAndWhen(
      String path, String author, String without, String since, String until, String keys)
      throws IOException {
    Sketch site = traced();
    site.source
        .row("people", "7, ola")
        .row("people", "8, mira")
        .row("articles", "1, news, NULL, 8, 2026-11-18 09:00:00")
        .row("articles", "2, harbours, NULL, 7, 2026-11-21 09:00:00")
        .row("articles", "3, brae, 2, 7, 2026-11-23 09:00:00");
    List<String> none = List.of();
    Selection selection =
        things(
            path.isEmpty() ? none : List.of(path),
            author.isEmpty() ? none : List.of(author),
            without.isEmpty() ? none : List.of(without),
            since,
            until);
    assertThat(
            site.plan(selection).stream()
                .filter(change -> change.table().equals("articles") && !change.offered())
                .filter(change -> change.alongWith().isEmpty())
                .map(change -> change.keyText()))
        .containsExactly(keys.isEmpty() ? new String[0] : keys.split(" "));
    assertThat(
            site.plan(Selection.CONTENT).stream()
                .filter(change -> change.keyText().equals("3"))
                .map(change -> change.trace().toString()))
        .containsExactly(
            "Trace[path=/harbours/brae, source=Touch[by=ola, at=2026-11-23T09:00:00], target=Touch[by=, at=], evidence=]");
  }
}
