package weftex.cli;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import weftex.demo.DemoSite;

/** Staging is made anew from live, and the pair goes on. */
class RemadeTest {
  private static final String PAGES = "SELECT id || title || body FROM skf_pages ORDER BY id";

  @TempDir Path folder;
  private SqliteFile live;
  private SqliteFile staging;

  @BeforeEach
  void makeTheSite() throws Exception {
    DemoSite site = DemoPair.marked(folder);
    site.week();
    live = new SqliteFile(folder.resolve("live.db"));
    staging = new SqliteFile(folder.resolve("staging.db"));
    staging.run(
        "INSERT INTO skf_accounts (id, login, full_name, email)"
            + " VALUES (4, 'builder', 'Web builder', 'builder@skerrow.example')");
  }

  private Program.Ran weftex(String... arguments) {
    return new Program(folder).run(arguments);
  }

  private Program.Ran done(String... arguments) {
    Program.Ran ran = weftex(arguments);
    assertThat(ran.status()).as(ran.err()).isZero();
    return ran;
  }

  @Test
  void theNextMergeBeginsWithoutWhatWasLeftOfTheOneBefore() throws Exception {
    Program.Ran unsaid = weftex("restore", "staging", "live");
    assertThat(unsaid.status()).isEqualTo(4);
    assertThat(unsaid.err())
        .contains("is made anew from live: 12 tables, 273 rows")
        .contains("staging keeps of its own: 1 row of settings and keys, 1 account")
        .contains(
            "What else is there goes: ",
            "skf_pages 2 only there 4 different",
            "Nobody confirmed it");

    Program.Ran remade = done("restore", "staging", "live", "--yes", "skerrow");
    assertThat(remade.out())
        .contains("Made staging anew from live", "Recorded it as the base: 272 rows");
    assertThat(staging.ask("SELECT value FROM skf_settings WHERE name = 'site_address'"))
        .containsExactly("https://staging.skerrow.example");
    assertThat(staging.ask("SELECT body FROM skf_pages WHERE body LIKE '%//skerrow.example%'"))
        .isEmpty();
    // The number of the account was live's in the meantime.
    assertThat(staging.ask("SELECT id FROM skf_accounts WHERE login = 'builder'"))
        .containsExactly("5");
    assertThat(weftex("draft").err()).contains("Nothing that was chosen differs");
    assertThat(weftex("draft", "--into", "staging", "--everything").err())
        .contains("Nothing that was chosen differs");

    staging.run("UPDATE skf_pages SET title = 'Timetables, summer' WHERE id = 2");
    live.run("UPDATE skf_settings SET value = 'Closed on Friday' WHERE name = 'notice'");
    done("draft");
    done("review", "--approve");
    done("apply");
    assertThat(live.ask("SELECT title FROM skf_pages WHERE id = 2"))
        .containsExactly("Timetables, summer");
    assertThat(weftex("draft").err()).contains("Nothing that was chosen differs");
    done("undo");
  }

  @Test
  void withTheTablesBeforeTheBaseBeforeComesBack() throws Exception {
    List<String> before = staging.ask(PAGES);
    String compared = weftex("compare").out();
    done("restore", "staging", "live", "--yes", "skerrow");
    assertThat(staging.ask(PAGES)).isNotEqualTo(before);
    Program.Ran back = done("restore", "staging", "--back", "--yes", "skerrow");
    assertThat(back.err()).contains("The base is again staging of ");
    assertThat(staging.ask(PAGES)).isEqualTo(before);
    assertThat(weftex("compare").out()).isEqualTo(compared);
  }

  @Test
  void theBaseStaysWhereTheTablesThatComeBackAreItsOwn() throws Exception {
    done("restore", "staging", "live", "--yes", "skerrow");
    done("restore", "staging", "--empty", "--yes", "skerrow");
    Program.Ran back = done("restore", "staging", "--back", "--yes", "skerrow");
    assertThat(back.err()).doesNotContain("The base is again");
    assertThat(weftex("draft").err()).contains("Nothing that was chosen differs");
  }

  @Test
  void aRunThatEndedBeforeItRecordedTheBaseIsNoticed() throws Exception {
    done("restore", "staging", "live", "--yes", "skerrow");
    // As it is in between.
    Path note = folder.resolve(".weftex/remade-staging.json");
    Files.writeString(note, "{\"copy\": \"staging\", \"base\": \"\"}");
    Program.Ran refused = weftex("draft");
    assertThat(refused.status()).isEqualTo(4);
    assertThat(refused.err())
        .contains("staging was being made anew from live when the run ended")
        .contains("'weftex restore staging live' once more");
    done("restore", "staging", "live", "--yes", "skerrow");
    assertThat(weftex("draft").err()).contains("Nothing that was chosen differs");

    // Before the switch nothing is set aside.
    done("restore", "staging", "--remove-aside", "--yes", "skerrow");
    Files.writeString(note, "{\"copy\": \"staging\", \"base\": \"\"}");
    assertThat(weftex("draft").err()).contains("Nothing that was chosen differs");
    assertThat(note).doesNotExist();
  }

  @Test
  void aCopyGoesIntoADatabaseBesideItOrIsEmptied() throws Exception {
    List<String> before = live.ask(PAGES);
    done("save", "live", "-o", "l.sql");
    live.run("DELETE FROM skf_pages");
    Program.Ran beside = done("restore", "live", "l.sql", "--into-database", "new.db");
    assertThat(beside.out()).contains("Put it into the database new.db", "live is as it was");
    assertThat(new SqliteFile(folder.resolve("new.db")).ask(PAGES)).isEqualTo(before);
    assertThat(live.ask(PAGES)).isEmpty();
    assertThat(weftex("restore", "live", "l.sql", "--into-database", "new.db").err())
        .contains("new.db has tables already");

    assertThat(weftex("restore", "live", "--empty").err())
        .contains("All tables of live", "skf_routes 4 rows", "Nobody confirmed it");
    assertThat(done("restore", "live", "--empty", "--yes", "skerrow").out())
        .contains("Took all tables of live away");
    assertThat(live.ask("SELECT name FROM sqlite_master WHERE name LIKE 'skf%'")).isEmpty();
    done("restore", "live", "--back", "--yes", "skerrow");
    assertThat(live.ask("SELECT COUNT(*) FROM skf_routes")).containsExactly("4");
    assertThat(weftex("restore", "live", "--empty", "--back").err()).contains("exclude each other");
  }

  @Test
  void aFileOfSqlThatWeftexDidNotWriteIsToldByItsAddress() throws Exception {
    List<String> before = live.ask(PAGES);
    Files.copy(folder.resolve("live.db"), folder.resolve("night.db"));
    Files.copy(folder.resolve("staging.db"), folder.resolve("work.db"));
    Files.copy(folder.resolve("live.db"), folder.resolve("other.db"));
    new SqliteFile(folder.resolve("other.db"))
        .run(
            "UPDATE skf_settings SET value = 'https://elsewhere.example' WHERE name ="
                + " 'site_address'");
    live.run("DELETE FROM skf_pages");
    done("restore", "live", "night.db", "--yes", "skerrow");
    assertThat(live.ask(PAGES)).isEqualTo(before);

    assertThat(weftex("restore", "live", "work.db", "--yes", "skerrow").err())
        .contains("work.db is staging of the site 'skerrow'", "weftex save staging --for live");
    assertThat(weftex("restore", "live", "other.db", "--yes", "skerrow").err())
        .contains("other.db is of another site: it knows itself as https://elsewhere.example");
    assertThat(weftex("restore", "live", "live", "--yes", "skerrow").err())
        .contains("live can't be restored from itself");
    assertThat(live.ask(PAGES)).isEqualTo(before);

    Program.Ran remade = done("restore", "staging", "night.db", "--yes", "skerrow");
    assertThat(remade.out()).contains("Made staging anew from night.db", "--from-file night.db");
    done("mark", "--from-file", "night.db");
    assertThat(weftex("draft").err()).contains("Nothing that was chosen differs");
  }

  @Test
  void aFileForTheOtherPlaceReplacesIt() throws Exception {
    assertThat(weftex("save", "staging", "--for", "live").err()).contains("Say with -o");
    done("save", "staging", "--for", "live", "-o", "launch.sql.gz");
    done("restore", "live", "launch.sql.gz", "--yes", "skerrow");
    assertThat(live.ask("SELECT title FROM skf_pages ORDER BY id"))
        .isEqualTo(staging.ask("SELECT title FROM skf_pages ORDER BY id"));
    assertThat(live.ask("SELECT value FROM skf_settings WHERE name = 'site_address'"))
        .containsExactly("https://skerrow.example");
    done("mark");
  }

  @Test
  void anotherThingOfTheSameKindIsNoSignThatStagingWasMadeAnew() throws Exception {
    Path other = Files.createDirectory(folder.resolve("other"));
    SqliteFile here = new SqliteFile(other.resolve("staging.db"));
    SqliteFile there = new SqliteFile(other.resolve("live.db"));
    DemoPair.marked(
        other,
        () -> {
          for (SqliteFile copy : List.of(here, there)) {
            copy.run("ALTER TABLE skf_pages ADD COLUMN look TEXT DEFAULT 'wide'");
            copy.run("ALTER TABLE skf_pages ADD COLUMN replies TEXT DEFAULT 'closed'");
          }
        });
    String add =
        "INSERT INTO skf_pages (id, slug, title, body, status, parent_id, author_id)"
            + " VALUES (%d, '%2$s', '%2$s', 'Text', 'published', 3, 1)";
    here.run(String.format(add, 70, "Ice"));
    there.run(String.format(add, 70, "Snow"));
    Program program = new Program(other);
    program.run("draft");
    program.run("review", "--approve");
    assertThat(program.run("apply").status()).isZero();
    here.run("DELETE FROM skf_pages WHERE id = 70");
    here.run(String.format(add, 71, "Sleet"));
    Program.Ran drafted = program.run("draft");
    assertThat(drafted.status()).as(drafted.err()).isLessThan(2);
    assertThat(drafted.out()).contains("1 to add", "1 to remove");
  }
}
