package weftex.cli;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Path;
import java.util.List;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import weftex.demo.DemoSite;

/** Members of one setting that go their own ways from merge to merge. */
class MembersOverWeeksTest {
  private static final String VALUE =
      "SELECT value FROM skf_settings WHERE name = 'home_highlights'";

  @TempDir Path folder;
  private DemoSite site;
  private SqliteFile staging;
  private SqliteFile live;

  @BeforeEach
  void makeTheSite() throws Exception {
    site = DemoPair.marked(folder);
    staging = new SqliteFile(folder.resolve("staging.db"));
    live = new SqliteFile(folder.resolve("live.db"));
  }

  private Program.Ran weftex(String... arguments) {
    return new Program(folder).run(arguments);
  }

  private void merge(String... draft) {
    weftex(draft);
    Program.Ran approved = weftex("review", "--approve");
    assertThat(approved.status()).as(approved.out() + approved.err()).isZero();
    Program.Ran applied = weftex("apply");
    assertThat(applied.status()).as(applied.err()).isZero();
  }

  private void set(SqliteFile copy, String title, String button) throws Exception {
    copy.run(
        "UPDATE skf_settings SET value = '{\"title\":\""
            + title
            + "\",\"button\":\""
            + button
            + "\"}' WHERE name = 'home_highlights'");
  }

  private static List<String> value(String title, String button) {
    return List.of("{\"title\":\"" + title + "\",\"button\":\"" + button + "\"}");
  }

  @Test
  void oneMemberGoesAheadAndTheOthersFollowLaterWithoutAQuestion() throws Exception {
    site.week();
    weftex("draft", "--item", "setting:home_highlights", "--member", "pages");
    Program.Ran listed = weftex("review", "--list");
    assertThat(listed.out()).contains("home_highlights").doesNotContain("both-edited");
    assertThat(weftex("review", "--approve").status()).isZero();
    assertThat(weftex("apply").status()).isZero();
    assertThat(live.ask(VALUE).get(0))
        .contains("Find your crossing", "https://skerrow.example/media/mv-selkie.jpg")
        .doesNotContain("i:0;i:3;");
    assertThat(live.ask("SELECT title FROM skf_pages WHERE slug = 'winter-timetable'"))
        .containsExactly("Winter timetable");
    Program.Ran left = weftex("compare", "--table", "settings");
    assertThat(left.out()).contains("media/winter-timet");
    merge("draft", "--item", "setting:home_highlights");
    assertThat(live.ask(VALUE).get(0))
        .contains("Find your crossing", "https://skerrow.example/media/winter-timetable.jpg");
    assertThat(weftex("compare", "--item", "setting:home_highlights").err())
        .contains("Nothing that differs and is chosen is called 'setting:home_highlights'");
  }

  @Test
  void aMemberThatIsLeftOutStaysOutUntilItIsAskedFor() throws Exception {
    set(staging, "Sail", "Go");
    assertThat(weftex("mark", "--although-different").status()).isZero();
    set(live, "Sail", "Go");
    set(staging, "Cross", "Book");
    merge("draft", "--without-member", "button");
    assertThat(live.ask(VALUE)).isEqualTo(value("Cross", "Go"));
    merge("draft");
    assertThat(live.ask(VALUE)).isEqualTo(value("Cross", "Book"));
  }

  @Test
  void nothingIsDraftedOfAMemberThatNobodyHas() throws Exception {
    site.week();
    Program.Ran drafted = weftex("draft", "--member", "no_such_member");
    assertThat(drafted.status()).isEqualTo(2);
    assertThat(drafted.err()).contains("Nothing that was chosen differs between staging and live");
    assertThat(weftex("draft", "--item", "setting:home_highlights", "--member", "page").err())
        .contains("'setting:home_highlights' differs, but not in the member page. Nothing was")
        .contains("without --member");
    assertThat(weftex("review", "--member", "pages").status()).isEqualTo(2);
  }

  @Test
  void anEditBackToWhatItWasTravelsAgain() throws Exception {
    set(staging, "Sail", "Go");
    set(live, "Sail", "Go");
    assertThat(weftex("mark").status()).isZero();
    set(live, "Cross", "Call");
    set(staging, "Cross", "Go");
    // Nothing is to do for this setting, but the merge has seen that both say "Cross" now.
    staging.run("UPDATE skf_pages SET title = 'Fares and cards' WHERE slug = 'fares'");
    merge("draft");
    set(staging, "Sail", "Go");
    merge("draft");
    assertThat(live.ask(VALUE)).isEqualTo(value("Sail", "Call"));
  }
}
