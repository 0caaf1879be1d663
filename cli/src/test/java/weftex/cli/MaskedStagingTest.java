package weftex.cli;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import weftex.demo.DemoSite;

/** Staging has no passenger's name, over weeks, and live has nobody who was made up. */
class MaskedStagingTest {
  private static final String PEOPLE =
      "SELECT login FROM skf_accounts UNION SELECT full_name FROM skf_accounts"
          + " UNION SELECT email FROM skf_accounts UNION SELECT author FROM skf_comments"
          + " UNION SELECT passenger FROM skf_bookings";

  @TempDir Path folder;
  private DemoSite site;
  private SqliteFile staging;
  private SqliteFile live;
  private String yaml;

  @BeforeEach
  void make() throws Exception {
    site = new DemoSite(folder);
    site.build();
    staging = new SqliteFile(folder.resolve("staging.db"));
    live = new SqliteFile(folder.resolve("live.db"));
    live.run("INSERT INTO skf_accounts VALUES (5, 'ada', 'Ada Holm', 'ada@studio.example')");
    live.run(
        "INSERT INTO skf_bookings (sailing_id, passenger, seats, booked_at) VALUES (3, 'Ragna', 1, '2026-11-20 08:00:00')");
    Path model = folder.resolve(DemoSite.MODEL);
    Files.writeString(
        model,
        Files.readString(model)
            .replace(
                "  settings:\n",
                "  settings:\n    personal: [{column: value, when: {name: [office_*]}}]\n"));
    live.run(
        "INSERT INTO skf_settings (id, name, value) VALUES (70, 'office_phone', '+47 55 12 34')");
    yaml =
        """
        site: skerrow
        model: %s
        copies:
          staging: {sqlite: staging.db, prefix: skf_, address: 'https://staging.skerrow.example'}
          live: {sqlite: live.db, prefix: skf_, address: 'https://skerrow.example'}
        """
            .formatted(DemoSite.EXTENDED_MODEL);
    write("masked: personal\nmasked-except: ['*@studio.example']\n");
  }

  private void write(String more) throws Exception {
    Files.writeString(folder.resolve("weftex.yaml"), yaml + more);
  }

  private Program.Ran weftex(String... arguments) {
    return new Program(folder).run(arguments);
  }

  private Program.Ran done(String... arguments) {
    Program.Ran ran = weftex(arguments);
    assertThat(ran.status()).as(String.join(" ", arguments) + ran.out() + ran.err()).isLessThan(2);
    return ran;
  }

  private List<String> real(List<String> of) {
    return of.stream().filter(name -> !name.matches("(?i)ada.*")).toList();
  }

  /** Neither copy has people of the other, those of the studio aside. */
  private void nobodyIsWhereTheyDoNotBelong() throws Exception {
    List<String> here = staging.ask(PEOPLE);
    List<String> there = live.ask(PEOPLE);
    assertThat(here).doesNotContainAnyElementsOf(real(there)).contains("ada", "ada@studio.example");
    assertThat(String.join(" ", there)).doesNotContain("masked.example");
  }

  private static String phone(SqliteFile copy) throws Exception {
    return copy.ask("SELECT value FROM skf_settings WHERE name = 'office_phone'").get(0);
  }

  private void merge(String... draft) {
    List<String> words = new ArrayList<>(List.of("draft"));
    words.addAll(List.of(draft));
    done(words.toArray(String[]::new));
    weftex("review", "--keep", "conflicts");
    weftex("review", "--skip", "open");
    done("review", "--approve", "--by", "Mira");
    done("apply");
  }

  @Test
  void overWeeksInBothDirectionsWithUndoAndAnotherRestore() throws Exception {
    done("restore", "staging", "live", "--mask", "personal", "--yes", "skerrow");
    nobodyIsWhereTheyDoNotBelong();
    assertThat(weftex("compare").status()).isZero();
    assertThat(phone(staging)).matches("\\+\\d\\d \\d\\d \\d\\d \\d\\d").isNotEqualTo(phone(live));
    assertThat(weftex("compare", "--with", "accounts,comments,bookings").status()).isZero();
    // The same passenger wrote a comment and booked.
    String ragna = staging.ask("SELECT author FROM skf_comments WHERE id = 1").get(0);
    assertThat(staging.ask("SELECT passenger FROM skf_bookings")).contains(ragna);
    List<String> people = live.ask(PEOPLE);

    site.week();
    List<String> after = live.ask(PEOPLE);
    staging.run("UPDATE skf_pages SET author_id = 2 WHERE id = 3");
    merge();
    assertThat(live.ask(PEOPLE)).containsExactlyElementsOf(after);
    assertThat(live.ask("SELECT author_id FROM skf_pages WHERE id = 3")).containsExactly("2");

    // Neither copy's number is carried onto the other's, even where both rows are merged.
    staging.run("UPDATE skf_settings SET value = '+47 00' WHERE name = 'office_phone'");
    live.run(
        "INSERT INTO skf_settings (id, name, value) VALUES (71, 'office_fax', '+47 55 12 99')");
    merge("--into", "staging", "--everything");
    assertThat(phone(live)).isEqualTo("+47 55 12 34");
    assertThat(phone(staging)).isEqualTo("+47 00");
    assertThat(staging.ask("SELECT value FROM skf_settings WHERE name = 'office_fax'").get(0))
        .matches("\\+\\d\\d \\d\\d \\d\\d \\d\\d")
        .isNotEqualTo("+47 55 12 99");
    nobodyIsWhereTheyDoNotBelong();
    assertThat(staging.ask("SELECT count(*) FROM skf_accounts"))
        .isEqualTo(live.ask("SELECT count(*) FROM skf_accounts"));
    assertThat(staging.ask("SELECT author FROM skf_comments WHERE body LIKE 'It fitted%'"))
        .containsExactly(ragna);
    List<String> madeUp = staging.ask(PEOPLE);
    done("undo");
    nobodyIsWhereTheyDoNotBelong();
    merge("--into", "staging", "--everything");
    assertThat(staging.ask(PEOPLE)).containsExactlyElementsOf(madeUp);
    assertThat(weftex("compare", "--with", "accounts,comments,bookings").out())
        .doesNotContain("masked.example");

    // An account of staging's own is a real one, and goes to live as it is.
    staging.run("INSERT INTO skf_accounts VALUES (40, 'kari', 'Kari Vik', 'kari@skerrow.example')");
    staging.run("UPDATE skf_pages SET author_id = 40 WHERE id = 4");
    merge("--with", "accounts");
    assertThat(live.ask(PEOPLE)).contains("kari", "Kari Vik", "kari@skerrow.example");
    assertThat(live.ask(PEOPLE)).containsAll(after).doesNotContain(ragna);
    done("undo");
    assertThat(live.ask(PEOPLE)).containsAll(people).doesNotContain("kari");

    done("restore", "staging", "live", "--yes", "skerrow");
    List<String> again = staging.ask(PEOPLE);
    assertThat(again).contains(ragna).containsAll(madeUp);
    assertThat(weftex("compare", "--with", "accounts,comments,bookings").status()).isZero();
  }

  @Test
  void whoIsMadeUpIsNotMadeAgainOnLive() throws Exception {
    done("restore", "staging", "live", "--yes", "skerrow");
    live.run("DELETE FROM skf_comments WHERE id = 2");
    staging.run("UPDATE skf_comments SET body = 'Thank you!' WHERE id = 2");
    weftex("draft", "--with", "comments");
    assertThat(weftex("review", "--open").out().replaceAll("\\s+", " "))
        .contains("(only live's side is possible)");
    assertThat(weftex("review", "--take", "conflicts").status()).isEqualTo(2);
    merge("--with", "comments");
    assertThat(live.ask("SELECT count(*) FROM skf_comments WHERE id = 2")).containsExactly("0");
  }

  @Test
  void aFileForStagingHasNobodyEither() throws Exception {
    done("save", "live", "--for", "staging", "--mask", "personal", "-o", "for-staging.sql");
    assertThat(folder.resolve("for-staging.sql"))
        .content()
        .contains("@masked.example", "ada@studio.example")
        .doesNotContain("Mira Tangen", "Eskil", "Ragna");
    assertThat(folder.resolve(".weftex/masking-secret")).exists();
    assertThat(Files.getPosixFilePermissions(folder.resolve(".weftex/masking-secret"))).hasSize(2);
    Files.writeString(folder.resolve(".weftex/masking-secret"), "0102");
    assertThat(weftex("save", "live", "--for", "staging", "-o", "x.sql").err())
        .contains(".weftex/masking-secret, by which personal data are made up, is damaged.");
  }

  @Test
  void withoutTheLineInTheFileNothingIsBrought() throws Exception {
    write("");
    for (String[] words :
        new String[][] {
          {"restore", "staging", "live", "--mask", "personal", "--yes", "skerrow"},
          {"draft", "--into", "staging", "--mask", "personal"},
          {"save", "live", "--for", "staging", "--mask", "personal", "-o", "x.sql"}
        }) {
      Program.Ran ran = weftex(words);
      assertThat(ran.status()).isPositive();
      assertThat(ran.err())
          .containsIgnoringWhitespaces(
              "weftex.yaml does not say that staging's personal data are made up",
              "Add the line 'masked: personal' to it");
    }
    assertThat(staging.ask(PEOPLE)).contains("Mira Tangen");
    write("masked: personal\n");
    assertThat(weftex("draft", "--mask", "personal").err())
        .contains("--mask is for rows that go into staging, and these go into live.");
    assertThat(weftex("draft", "--into", "staging", "--mask", "personel").err())
        .contains("Did you mean --mask personal?");
    write("masked: everything\n");
    assertThat(weftex("compare").err())
        .containsIgnoringWhitespaces("'masked' is 'everything'; write 'masked: personal'");
  }
}
