package weftex.cli;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardOpenOption;
import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.ResultSet;
import java.sql.Statement;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import weftex.demo.DemoSite;

/**
 * Choosing and deciding by options: selections, rules, values, drafts brought up to date or joined.
 */
class DecideProcessTest {
  private static final String GUIDE =
      "<p>The first boat leaves at 07:30 on every day but Sunday, and the last one comes at 21:15.</p>"
          + "<p>Tickets are sold on board, and at the desk by the gate.</p>";

  @TempDir Path folder;

  @BeforeEach
  void aWeekOfWork() throws Exception {
    DemoSite site =
        DemoPair.marked(
            folder,
            () -> {
              guide("staging", GUIDE);
              guide("live", GUIDE);
            });
    site.week();
    guide("staging", GUIDE.replace("07:30", "06:45").replace("on board", "on the pier"));
    guide("live", GUIDE.replace("07:30", "07:10").replace("on board", "in the shop"));
  }

  private void guide(String copy, String text) throws Exception {
    execute(copy, "UPDATE skf_harbours SET guide = '" + text + "' WHERE name = 'Norrey'");
  }

  private void execute(String copy, String sql) throws Exception {
    try (Connection connection = connect(copy);
        Statement statement = connection.createStatement()) {
      statement.execute(sql);
    }
  }

  private String read(String copy, String sql) throws Exception {
    try (Connection connection = connect(copy);
        Statement statement = connection.createStatement();
        ResultSet row = statement.executeQuery(sql)) {
      return row.next() ? row.getString(1) : "nothing";
    }
  }

  private Connection connect(String copy) throws Exception {
    return DriverManager.getConnection("jdbc:sqlite:" + folder.resolve(copy + ".db"));
  }

  private Program.Ran weftex(String... arguments) {
    return new Program(folder).with("USER", "tester").with("HOME", "/nowhere").run(arguments);
  }

  private void configure(String lines) throws Exception {
    Files.writeString(folder.resolve("weftex.yaml"), lines, StandardOpenOption.APPEND);
  }

  @Test
  void aSelectionIsSavedUnderANameAndUsedAgain() throws Exception {
    String before = Files.readString(folder.resolve("weftex.yaml"));
    Program.Ran saved =
        weftex(
            "draft",
            "--path",
            "/fares",
            "--path",
            "bicycles",
            "--without-author",
            "nobody",
            "--save-selection",
            "texts",
            "-o",
            "one.jsonl");
    assertThat(saved.err()).isEmpty();
    assertThat(saved.out()).contains("0 to add, 2 to update, 0 to remove");
    String after = Files.readString(folder.resolve("weftex.yaml"));
    assertThat(after)
        .startsWith(before)
        .contains("texts: {path: [\"/fares\", \"bicycles\"], without-author: [\"nobody\"]}");
    assertThat(
            weftex("draft", "--selection", "texts", "--without", "settings", "-o", "two.jsonl")
                .out())
        .contains("0 to add, 2 to update, 0 to remove");
    assertThat(weftex("draft", "--item", "offer", "--save-selection", "texts").err())
        .contains("has a selection 'texts' already");
    assertThat(weftex("draft", "--item", "offer", "--save-selection", "offers").status()).isZero();
    assertThat(weftex("compare", "--selection", "offers").out()).contains("offer 'Winter return");
    assertThat(weftex("review", "one.jsonl", "--selection", "texts").out())
        .contains("page 'Fares and cards'")
        .doesNotContain("setting");
  }

  @Test
  void whatMeansNothingIsSaidWithTheNearestName() throws Exception {
    String[][] cases = {
      {
        "draft --item page:Fares*and*cords",
        "is called 'page:Fares*and*cords'",
        "Did you mean 'page:"
      },
      {
        "draft --item pag:Fares --save-selection w", "is called 'pag:Fares'", "Did you mean 'page'?"
      },
      {"draft --selection winter", "no selection 'winter'", "--save-selection"},
      {"draft --since soon", "--since 'soon' is no time", "3d or 12h"},
      {"draft --since 2026-13-01", "'2026-13-01' is no time", "See 'weftex draft --help'"},
      {"draft --new-tables --without-new-tables", "no new tables are asked for", "--help"},
      {"draft --without-rows pages", "names no rows", "--help"},
      {"draft --again --item page", "takes the selection", "Leave the other options out"},
      {"draft --again", "no change set yet", "weftex draft"},
      {"draft some.jsonl", "is named, and a draft reads no file", "--again"},
      {"draft --author nobody", "Nothing that was chosen differs", "weftex compare"}
    };
    for (String[] each : cases) {
      Program.Ran ran = weftex(each[0].split(" "));
      assertThat(ran.status()).as(each[0]).isEqualTo(2);
      assertThat(ran.err()).as(each[0]).contains(each[1], each[2]);
    }
    assertThat(folder.resolve(".weftex/change-sets")).doesNotExist();
    assertThat(Files.readString(folder.resolve("weftex.yaml"))).doesNotContain("selections:");
  }

  @Test
  void rulesDecideWhenDraftedAndLaterAndSayWhy() throws Exception {
    configure(
        """
        rules:
          - {item: "setting:tagline", keep: live, why: the office writes it}
          - {tables: sailings, leave-out: true}
        """);
    assertThat(weftex("draft", "-o", "set.jsonl").out())
        .contains("Rules of weftex.yaml decided 5 changes", "5 changes need a decision");
    assertThat(weftex("review", "set.jsonl", "--decisions").out())
        .contains("weftex.yaml, rule 1", "the office writes it", "always left out: sailings");
    configure("  - {item: page, keep: staging}\n");
    Program.Ran ruled = weftex("review", "set.jsonl", "--by-rules");
    assertThat(ruled.out()).contains("2 to decide");
    assertThat(weftex("review", "set.jsonl", "--decisions").out())
        .contains("in conflicts, staging's side of page");
  }

  @Test
  void aRuleThatCannotBeIsRefused() throws Exception {
    String before = Files.readString(folder.resolve("weftex.yaml"));
    String[][] cases = {
      {"{item: page}", "needs either 'keep' (live, staging or both) or 'leave-out: true'"},
      {"{item: page, keep: production}", "keeps 'production'; say live, staging or both"},
      {"{keep: live}", "says nothing of what it is about"},
      {"{rows: pages, keep: live}", "names no rows"},
      {"{item: page, leave-out: true, column: title}", "only whole changes can be left out"},
      {"{itm: page, keep: live}", "unknown key 'itm'"}
    };
    for (String[] each : cases) {
      Files.writeString(folder.resolve("weftex.yaml"), before + "rules:\n  - " + each[0] + "\n");
      Program.Ran ran = weftex("compare");
      assertThat(ran.status()).as(each[0]).isEqualTo(2);
      assertThat(ran.err()).as(each[0]).contains(each[1], "Nothing was changed");
    }
  }

  @Test
  void passagesValuesNotesAndWithdrawalsGoByNumber() throws Exception {
    weftex("draft", "--item", "harbour", "--item", "setting", "-o", "set.jsonl");
    String shown = weftex("review", "set.jsonl", "--open").out();
    String norrey = shown.replaceAll("(?s).*?(\\d+) decide update harbour 'Norrey'.*", "$1");
    assertThat(weftex("review", "set.jsonl", "--change", norrey).out())
        .contains("#1 staging", "06:45", "#2 live", "in the shop", "take staging's side: ");
    assertThat(weftex("review", "set.jsonl", "--take", norrey + ".guide#3").err())
        .contains("has 2 passages to take or keep", "No decision was written");
    weftex("review", "set.jsonl", "--take", norrey + ".guide#1", "--keep", norrey + ".guide#2");
    weftex("review", "set.jsonl", "--keep", "conflicts");
    weftex("review", "set.jsonl", "--note", norrey, "--why", "asked the harbour master");
    assertThat(weftex("review", "set.jsonl", "--note", norrey).err())
        .contains("A note needs words");
    String season =
        weftex("review", "set.jsonl", "--values")
            .out()
            .replaceAll("(?s).*?(\\d+) apply  add setting 'season'.*", "$1");
    weftex("review", "set.jsonl", "--set", season + ".value=spring=summer");
    weftex("review", "set.jsonl", "--skip", season);
    assertThat(weftex("review", "set.jsonl", "--withdraw", "9").err())
        .contains("There is no decision '9' that holds");
    assertThat(weftex("review", "set.jsonl", "--withdraw", "6").status()).isZero();
    assertThat(weftex("review", "set.jsonl", "--set", season + ".nowhere=x").err())
        .contains("does not write nowhere");
    assertThat(weftex("review", "set.jsonl", "--set", "99.value=x").err())
        .contains("sets no value");
    Program.Ran approved = weftex("review", "set.jsonl", "--approve", "--by", "Mira");
    assertThat(approved.out())
        .contains("updated", "harbour", "settings", "season", "accounts", "none")
        .contains("Approved by Mira");
    assertThat(weftex("apply", "set.jsonl").status()).isZero();
    assertThat(read("live", "SELECT guide FROM skf_harbours WHERE name = 'Norrey'"))
        .isEqualTo(GUIDE.replace("07:30", "06:45").replace("on board", "in the shop"));
    assertThat(read("live", "SELECT value FROM skf_settings WHERE name = 'season'"))
        .isEqualTo("spring=summer");
  }

  @Test
  void aDecisionThatTheDiskHasNoRoomForLeavesTheFileAsItWas() throws Exception {
    assertThat(weftex("draft", "-o", "set.jsonl").status()).isEqualTo(1);
    byte[] before = Files.readAllBytes(folder.resolve("set.jsonl"));
    Program.Ran ran =
        new Program(folder)
            .through("ulimit -f " + (before.length / 1024 + 2))
            .run("review", "set.jsonl", "--note", "1", "--why", "long ".repeat(2000));
    assertThat(ran.status()).isEqualTo(4);
    assertThat(ran.err())
        .contains("The decision could not be written to", "The file is as it was before.");
    assertThat(folder.resolve("set.jsonl")).hasBinaryContent(before);
  }

  @Test
  void whatALossOfPowerLeftOfADecisionIsTakenAway() throws Exception {
    weftex("draft", "-o", "set.jsonl");
    weftex("review", "set.jsonl", "--skip", "1", "--by", "Mira");
    byte[] before = Files.readAllBytes(folder.resolve("set.jsonl"));
    Files.writeString(
        folder.resolve("set.jsonl"), "{\"decision\":{\"chan", StandardOpenOption.APPEND);
    Program.Ran apply = weftex("apply", "set.jsonl");
    assertThat(apply.status()).isEqualTo(2);
    assertThat(apply.err()).contains("was cut off while it was written", "Nothing was changed");
    Program.Ran review = weftex("review", "set.jsonl", "--decisions");
    assertThat(review.err()).contains("The last line of set.jsonl had been cut off");
    assertThat(review.out()).contains("Mira");
    assertThat(folder.resolve("set.jsonl")).hasBinaryContent(before);
  }

  @Test
  void aDraftIsBroughtUpToDateAndSaysWhatFellAway() throws Exception {
    weftex("draft", "--without", "sailings", "-o", "old.jsonl");
    weftex("review", "old.jsonl", "--keep", "page:Summer*,setting:tagline", "--by", "Ola");
    weftex("review", "old.jsonl", "--take", "page:Lost*", "--skip", "harbour:Brae", "--by", "Mira");
    execute("live", "UPDATE skf_pages SET title = 'Lost and found' WHERE slug = 'lost-property'");
    Program.Ran again = weftex("draft", "old.jsonl", "--again", "-o", "new.jsonl");
    assertThat(again.out())
        .contains("decisions of the earlier draft still hold")
        .contains(
            "Fell away: take staging's side for page 'Lost property', said by Mira,",
            "since a copy says something else");
    assertThat(weftex("review", "new.jsonl", "--decisions").out())
        .contains("Ola", "Mira")
        .doesNotContain("take staging's side");
    assertThat(weftex("review", "new.jsonl", "--list").out())
        .contains("skip   harbour 'Brae'")
        .doesNotContain("2026-12-01");
  }

  @Test
  void twoChangeSetsArePutTogetherUnlessTheySpeakAgainstEachOther() throws Exception {
    weftex("draft", "--item", "harbour", "-o", "a.jsonl");
    weftex("draft", "--item", "setting", "--item", "harbour:Norrey", "-o", "b.jsonl");
    weftex("review", "a.jsonl", "--keep", "conflicts", "--by", "Mira");
    Program.Ran joined = weftex("draft", "a.jsonl", "--join", "b.jsonl", "-o", "both.jsonl");
    assertThat(joined.err()).isEmpty();
    assertThat(joined.out()).contains("with 1 decision");
    assertThat(weftex("review", "both.jsonl", "--keep", "conflicts").out())
        .doesNotContain("to decide");
    assertThat(weftex("review", "both.jsonl", "--approve").status()).isZero();
    weftex("review", "b.jsonl", "--take", "conflicts", "--by", "Ola");
    Program.Ran clash = weftex("draft", "a.jsonl", "--join", "b.jsonl", "-o", "clash.jsonl");
    assertThat(clash.status()).isEqualTo(2);
    assertThat(clash.err())
        .contains("The two change sets conflict", "is decided in two ways: by Mira");
    assertThat(folder.resolve("clash.jsonl")).doesNotExist();
    assertThat(weftex("draft", "both.jsonl", "--again").err()).contains("put together from two");
    assertThat(weftex("draft", "a.jsonl", "--join", "a.jsonl").err())
        .contains("the same change set");
    assertThat(weftex("apply", "both.jsonl").status()).isZero();
    assertThat(read("live", "SELECT value FROM skf_settings WHERE name = 'season'"))
        .isNotEqualTo("nothing");
  }
}
