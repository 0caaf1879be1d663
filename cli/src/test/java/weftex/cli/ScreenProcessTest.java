package weftex.cli;

import static org.assertj.core.api.Assertions.assertThat;
import static org.junit.jupiter.api.Assumptions.assumeTrue;

import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardOpenOption;
import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.Statement;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import weftex.demo.DemoSite;

/** The review on the whole terminal, driven by keys through a pseudo-terminal. */
class ScreenProcessTest {
  private static final String DOWN = "\u001b[B";
  private static final String TAB = "\t";
  private static final String OLD =
      "<p>The first boat leaves Brae at 07:30 on every day but Sunday, and the last one comes back at"
          + " 21:15.</p><p>Tickets are sold on board, and at the desk.</p><p>Dogs travel free.</p>";

  @TempDir Path folder;

  @BeforeEach
  void draft() throws Exception {
    DemoSite site =
        DemoPair.marked(
            folder,
            () -> {
              edit("staging", OLD);
              edit("live", OLD);
            });
    site.week();
    edit("staging", OLD.replace("07:30", "06:45").replace("on board", "on the pier"));
    edit("live", OLD.replace("07:30", "07:10").replace("on board", "in the shop"));
    Program.Ran drafted = weftex("draft", "--without", "sailings", "-o", "set.jsonl");
    assertThat(drafted.status()).as(drafted.err()).isEqualTo(1);
  }

  /** The text of the page about bicycles. */
  private void edit(String copy, String text) throws Exception {
    try (Connection connection =
            DriverManager.getConnection("jdbc:sqlite:" + folder.resolve(copy + ".db"));
        Statement statement = connection.createStatement()) {
      statement.execute("UPDATE skf_harbours SET guide = '" + text + "' WHERE name = 'Norrey'");
    }
  }

  private Program.Ran weftex(String... arguments) {
    return new Program(folder).with("USER", "tester").with("HOME", "/nowhere").run(arguments);
  }

  private PtyTerminal review(int columns, int rows, Map<String, String> environment)
      throws Exception {
    return new PtyTerminal(
        folder, columns, rows, environment, "review", "set.jsonl", "--by", "Mira");
  }

  private List<String> decided() throws Exception {
    return Files.readAllLines(folder.resolve("set.jsonl")).stream()
        .dropWhile(line -> !line.startsWith("{\"drafted\""))
        .skip(1)
        .toList();
  }

  @ParameterizedTest(name = "{0} columns, {1} rows")
  @CsvSource({"80,24", "120,40", "200,60"})
  void isReadAndDecidedAtEverySize(int columns, int rows) throws Exception {
    try (PtyTerminal terminal = review(columns, rows, Map.of())) {
      terminal.sees("staging → live").sees("6 to decide").sees("q quit");
      assertThat(terminal.text().lines()).allMatch(line -> line.length() <= columns);
      terminal.keys("o").sees("gone-in-use").sees("live has 1 comment on page 'Summer festival");
      terminal.keys("k").sees("Keep live's side for change 5").sees("5 to decide");
      terminal.keys("o").sees("gone-edited").keys("x").sees("Leave it out").sees("1 left out");
      terminal.keys("u").sees("Taken back: leave it out for page 'Lost property'");
      terminal.keys("q");
      assertThat(terminal.status()).isEqualTo(1);
    }
    assertThat(decided()).hasSize(3);
    assertThat(decided().get(0)).contains("\"answer\":\"target\"", "\"by\":\"Mira\"");
    assertThat(decided().get(2)).startsWith("{\"withdrawn\":{\"decision\":2");
    assertThat(weftex("review", "set.jsonl", "--decisions").out())
        .contains("keep live's side: 5", "leave it out: 6 (taken back by Mira)");
  }

  @Test
  void oneTextIsPutTogetherOfPassagesOfBothSides() throws Exception {
    try (PtyTerminal terminal = review(120, 40, Map.of())) {
      terminal.sees("q quit").keys("/").sees("Find: ").keys("norrey\r").sees("found by 'norrey'");
      terminal.keys("o").sees("passage 1 of 2").sees("06:45").sees("07:10").sees("passage 2 of 2");
      terminal.keys("t").sees("passage 1.").keys(DOWN).rest().keys("k").sees("passage 2.");
      terminal.sees("5 to decide").keys("q");
      assertThat(terminal.status()).isEqualTo(1);
    }
    assertThat(decided().get(0)).contains("\"passage\":1,\"of\":2,\"answer\":\"source\"");
    assertThat(decided().get(1)).contains("\"passage\":2,\"of\":2,\"answer\":\"target\"");
    weftex("review", "set.jsonl", "--keep", "conflicts");
    weftex("review", "set.jsonl", "--approve");
    Program.Ran applied = weftex("apply", "set.jsonl");
    assertThat(applied.status()).as(applied.err()).isZero();
    try (Connection live = DriverManager.getConnection("jdbc:sqlite:" + folder.resolve("live.db"));
        Statement statement = live.createStatement();
        var row = statement.executeQuery("SELECT guide FROM skf_harbours WHERE name = 'Norrey'")) {
      assertThat(row.getString(1))
          .isEqualTo(OLD.replace("07:30", "06:45").replace("on board", "in the shop"));
    }
  }

  @Test
  void bothSidesWordsStayInAPassageAndWhatBothAddedStaysTwoThings() throws Exception {
    for (String copy : List.of("staging", "live")) {
      new SqliteFile(folder.resolve(copy + ".db"))
          .run(
              "INSERT INTO skf_pages (id, slug, title, body, status, parent_id, author_id) VALUES"
                  + " (70, 'ice', 'Ice', 'Ice of "
                  + copy
                  + "', 'published', 3, 1)");
    }
    weftex("draft", "--without", "sailings", "-o", "set.jsonl", "--overwrite");
    try (PtyTerminal terminal = review(120, 40, Map.of())) {
      terminal.sees("q quit").keys("/").sees("Find: ").keys("norrey\r").sees("found by 'norrey'");
      terminal.keys("o").sees("passage 1 of 2").keys("t").sees("passage 1.").keys(DOWN).rest();
      terminal.keys("+").sees("Both for change").sees("passage 2.");
      terminal.keys("/").sees("Find: ").keys("\u007f\u007f\u007f\u007f\u007f\u007fice\r");
      terminal.sees("both-added").sees("they are two things").keys("+");
      terminal.sees("5 to decide").sees("Ice                         added").keys("q");
      assertThat(terminal.status()).isEqualTo(1);
    }
    weftex("review", "--keep", "conflicts");
    weftex("review", "--approve");
    Program.Ran applied = weftex("apply");
    assertThat(applied.status()).as(applied.err()).isZero();
    SqliteFile live = new SqliteFile(folder.resolve("live.db"));
    assertThat(live.ask("SELECT guide FROM skf_harbours WHERE name = 'Norrey'"))
        .containsExactly(
            OLD.replace("07:30", "06:45").replace("on board", "on the pier, in the shop"));
    assertThat(
            live.ask(
                "SELECT slug || ': ' || body FROM skf_pages WHERE slug LIKE 'ice%' ORDER BY 1"))
        .containsExactly("ice-2: Ice of staging", "ice: Ice of live");
  }

  @Test
  void aValueIsWrittenInTheReadersOwnEditor() throws Exception {
    Path editor = folder.resolve("editor.sh");
    Files.writeString(editor, "sed -i 's/06:45/06:50 ⛴️/' \"$1\"\n");
    try (PtyTerminal terminal = review(120, 40, Map.of("EDITOR", "sh " + editor))) {
      terminal.sees("q quit").keys("e").sees("Go to a column first");
      terminal.keys("/").sees("Find: ").keys("norrey\r").sees("found by").keys("o").sees("06:45");
      terminal.keys("e").sees("A value of the reviewer's own").sees("06:50").keys("q");
      terminal.status();
    }
    assertThat(decided()).singleElement().asString().contains("06:50 ⛴️", "\"answer\":\"value\"");
  }

  @ParameterizedTest(name = "{0}")
  @CsvSource(
      delimiter = '|',
      value = {
        "true | left as it is; nothing was decided",
        "false | ended with status 1; nothing was decided",
        "no-such-editor | ended with status 127; nothing was decided"
      })
  void anEditorThatFailsDecidesNothing(String editor, String sentence) throws Exception {
    try (PtyTerminal terminal = review(120, 40, Map.of("VISUAL", editor))) {
      terminal.sees("q quit").keys("/").sees("Find: ").keys("norrey\r").sees("found by");
      terminal.keys("o").sees("06:45").keys("e").sees(sentence).keys("q");
      terminal.status();
    }
    assertThat(decided()).isEmpty();
  }

  @Test
  void aSecondReviewOnlyReads() throws Exception {
    try (PtyTerminal first = review(120, 40, Map.of())) {
      first.sees("q quit");
      try (PtyTerminal second = review(100, 30, Map.of())) {
        second.sees("read only").sees("Mira, since ");
        second.keys("o").sees("gone-in-use").keys("k").sees("Nothing can be decided here");
        second.keys("q");
        second.status();
      }
      first.lives();
      Program.Ran refused = weftex("review", "set.jsonl", "--keep", "5");
      assertThat(refused.status()).isEqualTo(4);
      assertThat(refused.err()).contains("is being reviewed elsewhere (Mira, since ");
      first.keys("o").sees("gone-in-use").keys("k").sees("Keep live's side for change 5").keys("q");
      first.status();
    }
    assertThat(decided()).hasSize(1);
  }

  @Test
  void whatAnotherProgramAppendsIsReadAgainAndAlteringIsNoticed() throws Exception {
    Path file = folder.resolve("set.jsonl");
    try (PtyTerminal terminal = review(120, 40, Map.of())) {
      terminal.sees("6 to decide");
      append(
          file,
          "{\"decision\":{\"changes\":[5],\"answer\":\"target\",\"by\":\"Ola\",\"at\":\"2026-11-25T10:00:00Z\",\"why\":\"\"}}\n");
      terminal.sees("Somebody else wrote to the file").sees("5 to decide");
      append(file, "not a line\n");
      assertThat(terminal.status()).isEqualTo(2);
      terminal.sees("Draft again");
    }
  }

  private static void append(Path file, String line) throws Exception {
    Files.write(file, line.getBytes(StandardCharsets.UTF_8), StandardOpenOption.APPEND);
  }

  @Test
  void aTerminalThatIsTooSmallSaysSoAndGrows() throws Exception {
    try (PtyTerminal terminal = review(40, 10, Map.of())) {
      terminal.sees("the review needs").resize(90, 30).sees("6 to decide").sees("q quit");
      terminal.resize(130, 40).sees("Tab changes").keys("?").sees("go to the next open conflict");
      terminal.keys("q").seesNo("go to the next open conflict").sees("staging → live");
      terminal.keys("\u0003");
      assertThat(terminal.status()).isEqualTo(1);
    }
  }

  @Test
  void aTerminalThatGoesAwayLosesNoDecision() throws Exception {
    try (PtyTerminal terminal = review(120, 40, Map.of("NO_COLOR", "1"))) {
      terminal.sees("q quit").keys("o").sees("gone-in-use").keys("k").sees("5 to decide");
    }
    assertThat(decided()).hasSize(1);
    PtyTerminal again = review(120, 40, Map.of());
    again.sees("5 to decide").seesNo("read only").keys("q");
    again.status();
    again.close();
  }

  @Test
  void aWholeKindIsDecidedFromItsHeadingAndApprovedAfterTheSummary() throws Exception {
    weftex("review", "set.jsonl", "--keep", "conflicts");
    try (PtyTerminal terminal = review(120, 40, Map.of())) {
      terminal.sees("q quit").keys("/").sees("Find: ").keys("offer w\r").sees("found by 'offer w'");
      terminal.keys("\u001b[H").rest().keys("x").sees("Leave it out for ").sees("left out");
      terminal.keys("n").sees("Note: ").keys("after Christmas\r").sees("Noted");
      terminal
          .keys("/")
          .sees("Find: offer")
          .keys("\u007f\u007f\u007f\u007f\u007f\r")
          .sees("Listed: all");
      terminal.keys("a").sees("Approving staging → live would mean").sees("left out");
      assertThat(terminal.text()).contains("offer 'Winter return to Hesk'", "accounts", "none");
      terminal.keys("n").sees("Nothing was approved").keys("a").sees("y approves as Mira");
      terminal.keys("y").sees("Approved by Mira").sees("approved").keys("q");
      assertThat(terminal.status()).isZero();
    }
    assertThat(weftex("review", "set.jsonl").out()).contains("Approved by Mira");
    assertThat(decided().get(decided().size() - 1)).startsWith("{\"approval\"");
  }

  @Test
  void anApprovalIsSignedWithoutLeavingTheReview() throws Exception {
    assumeTrue(Files.isExecutable(Path.of("/usr/bin/ssh-keygen")), "there is no ssh-keygen");
    Process keygen =
        new ProcessBuilder("ssh-keygen", "-q", "-t", "ed25519", "-N", "", "-C", "", "-f", "mira")
            .directory(folder.toFile())
            .start();
    assertThat(keygen.waitFor()).isZero();
    Files.writeString(
        folder.resolve("signers"),
        "mira@skerrow.example " + Files.readString(folder.resolve("mira.pub")));
    Files.writeString(
        folder.resolve("weftex.yaml"),
        "approvals: {signers: signers}\n",
        StandardOpenOption.APPEND);
    weftex("review", "set.jsonl", "--keep", "conflicts");
    try (PtyTerminal terminal = review(120, 40, Map.of())) {
      terminal.sees("q quit").keys("a").sees("y approves as Mira").keys("y");
      terminal.sees("asks for signed approvals").sees("Add --sign and your key").keys("q");
    }
    assertThat(weftex("review", "set.jsonl").out()).doesNotContain("Approved by");
    try (PtyTerminal terminal =
        new PtyTerminal(
            folder, 120, 40, Map.of(), "review", "set.jsonl", "--by", "Mira", "--sign", "mira")) {
      terminal.sees("q quit").keys("a").sees("SHA-256").sees("y approves as Mira").keys("y");
      terminal.sees("Approved by Mira, signed.").keys("q");
      assertThat(terminal.status()).isZero();
    }
    assertThat(weftex("apply", "set.jsonl").status()).isZero();
  }

  @Test
  void filtersNarrowTheListAndUnknownLocalesGetPlainSigns() throws Exception {
    try (PtyTerminal terminal =
        new PtyTerminal(
            folder, 120, 40, Map.of("LC_ALL", "C"), "review", "set.jsonl", "--by", "Mira")) {
      terminal.sees("staging").keys("f").sees("Listed: to decide").seesNo("booking_offers");
      assertThat(terminal.text()).contains("Lost property", "tagline");
      terminal.keys("ff").sees("Listed: left out").sees("Nothing is listed");
      terminal.keys("q");
      terminal.status();
    }
  }
}
