package weftex.store.refit;

import static org.assertj.core.api.Assertions.assertThat;

import java.math.BigInteger;
import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.ResultSet;
import java.sql.Statement;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;
import weftex.core.address.Address;
import weftex.core.address.AddressBook;
import weftex.core.address.CopyAddress;
import weftex.core.mask.Masking;
import weftex.core.model.SiteModel;
import weftex.store.copy.Copy;
import weftex.store.database.Connecting;
import weftex.store.database.CopySpec;
import weftex.store.dump.CopySaver;
import weftex.store.dump.Restorer;
import weftex.store.dump.SavedCopy;
import weftex.store.seal.AtRest;
import weftex.store.testing.MariaDbServer;

/** Staging becomes what live is, under its own names, and keeps what is its own. */
class RefittingTest {
  private static final String MODEL =
      """
      model: harbour
      people: {table: people, known-by: [login, email]}
      schema-versions: [{table: settings, where: {name: ["*_version"]}}]
      tables:
        people: {role: live, number: id, identity: [login], secret: [pass]}
        people_details:
          role: live
          number: id
          part-of: person_id
          word: detail
          identity: [person_id, name]
          references: {person_id: {to: people}}
          stays: {name: [session]}
          prefixed: {name: {names: [rights]}}
        settings:
          number: id
          identity: [name]
          stays: {name: [home]}
          rows: [{when: {name: ["*_key", "*_version"]}, role: own}]
        lookups: {role: noise}
      """;

  /** Made on both copies, under each one's prefix. */
  private static final List<String> TABLES =
      List.of(
          "CREATE TABLE P_people (id INTEGER PRIMARY KEY, login VARCHAR(20), email VARCHAR(50), pass"
              + " VARCHAR(20) NOT NULL)",
          "CREATE TABLE P_people_details (id INTEGER PRIMARY KEY, person_id INTEGER, name VARCHAR(30),"
              + " value VARCHAR(50))",
          "CREATE TABLE P_settings (id INTEGER PRIMARY KEY, name VARCHAR(30), value VARCHAR(90))",
          "CREATE TABLE P_lookups (id INTEGER PRIMARY KEY, what VARCHAR(20))",
          "CREATE TABLE P_pages (id INTEGER PRIMARY KEY, up INTEGER, body VARCHAR(90), CONSTRAINT P_tree"
              + " FOREIGN KEY (up) REFERENCES P_pages (id))");

  private static final List<String> LIVE =
      List.of(
          "INSERT INTO P_people VALUES (1, 'mira', 'm@a.example', 'live-1'), (5, 'kari', 'k@a.example',"
              + " 'live-5'), (7, 'odd', 'o@a.example', 'live-7')",
          "INSERT INTO P_people_details VALUES (1, 1, 'P_rights', 'all'), (2, 5, 'session', 'secret'), (9,"
              + " 5, 'town', 'Skerrow')",
          "INSERT INTO P_settings VALUES (1, 'home', 'https://a.example'), (2, 'pay_key', 'real'), (3,"
              + " 'title', 'See https://a.example/x'), (4, 'db_version', '9'), (6, 'mail_key', 'real')",
          "INSERT INTO P_lookups VALUES (1, 'x')",
          "INSERT INTO P_pages VALUES (1, NULL, '<a href=\"https://a.example/b\">P_pages</a>'), (2, 1,"
              + " '')",
          "CREATE TABLE P_orders (id INTEGER PRIMARY KEY)",
          "CREATE VIEW P_tops AS SELECT P_pages.id FROM P_pages WHERE up IS NULL");

  private static final List<String> STAGING =
      List.of(
          "INSERT INTO P_people VALUES (1, 'mira', 'm@b.example', 'own-1'), (4, 'odd.s', 'o@a.example',"
              + " 'own-4'), (5, 'builder', 'b@b.example', 'own-5')",
          "INSERT INTO P_people_details VALUES (1, 1, 'P_rights', 'all'), (2, 5, 'P_rights', 'build')",
          "INSERT INTO P_settings VALUES (1, 'home', 'https://b.example'), (2, 'title', 'Old'), (3,"
              + " 'pay_key', 'test'), (4, 'db_version', '12'), (5, 'map_key', 'test')",
          "INSERT INTO P_lookups VALUES (1, 'y')",
          "CREATE TABLE P_gone (id INTEGER PRIMARY KEY)");

  @TempDir Path folder;

  private CopySpec copy(String name, String prefix, boolean server, List<String> rows)
      throws Exception {
    CopySpec spec;
    if (server) {
      spec = MariaDbServer.get().spec(name, MariaDbServer.get().newDatabase(), prefix);
    } else {
      Path file = folder.resolve(name + ".db");
      Files.write(file, new byte[0]);
      spec = new CopySpec.SqliteFile(name, prefix, file);
    }
    try (Connection connection = Connecting.open(spec);
        Statement statement = connection.createStatement()) {
      for (List<String> part : List.of(TABLES, rows)) {
        for (String sql : part) {
          statement.execute(sql.replaceAll("\\bP_", prefix));
        }
      }
    }
    return spec;
  }

  private static List<String> ask(CopySpec spec, String sql) throws Exception {
    List<String> answers = new ArrayList<>();
    try (Connection connection = Connecting.open(spec);
        Statement statement = connection.createStatement();
        ResultSet rows = statement.executeQuery(sql)) {
      while (rows.next()) {
        List<String> cells = new ArrayList<>();
        for (int i = 1; i <= rows.getMetaData().getColumnCount(); i++) {
          cells.add(rows.getString(i));
        }
        answers.add(String.join(" ", cells));
      }
    }
    return answers;
  }

  private static AddressBook addresses() {
    return new AddressBook(
        Map.of("live", at("https://a.example"), "staging", at("https://b.example")),
        List.of(),
        false);
  }

  private static CopyAddress at(String address) {
    return new CopyAddress(Optional.of(Address.parse(address)), false, Optional.empty());
  }

  @ParameterizedTest
  @ValueSource(booleans = {false, true})
  void itKeepsItsSettingsItsPasswordsAndItsAccounts(boolean server) throws Exception {
    CopySpec live = copy("live", "skf_", server, LIVE);
    CopySpec staging = copy("staging", "stg_", server, STAGING);
    SiteModel model = SiteModel.read(MODEL);
    Path file = folder.resolve("remade.sql.zst");
    Refitting.Kept kept;
    try (Refitting refitting =
        Refitting.keeping(
            Copy.reach(live), Copy.reach(staging), model, addresses(), Masking.NONE)) {
      CopySaver.save(
          live,
          refitting,
          new CopySaver.Place(file, AtRest.CLEAR),
          new CopySaver.About("skerrow", "2026-11-29T10:00:00Z", "weftex test"),
          rows -> {});
      kept = refitting.kept();
    }
    try (Restorer restorer =
        Restorer.load(staging, SavedCopy.open(file, AtRest.CLEAR), done -> {})) {
      restorer.switchOver();
    }

    // Known by login or by e-mail; nobody gets a password of live's.
    assertThat(ask(staging, "SELECT id, login, pass FROM stg_people ORDER BY id"))
        .containsExactly("1 mira own-1", "5 kari ", "7 odd own-4", "8 builder own-5");
    assertThat(ask(staging, "SELECT person_id, name, value FROM stg_people_details ORDER BY id"))
        .containsExactly("1 stg_rights all", "5 town Skerrow", "8 stg_rights build");
    // Live's keys don't come; how far the tables are does.
    assertThat(ask(staging, "SELECT id, name, value FROM stg_settings ORDER BY id"))
        .containsExactly(
            "1 home https://b.example",
            "2 pay_key test",
            "3 title See https://b.example/x",
            "4 db_version 9",
            "7 map_key test");
    assertThat(ask(staging, "SELECT * FROM stg_lookups")).isEmpty();
    assertThat(ask(staging, "SELECT body FROM stg_pages WHERE id = 1"))
        .containsExactly("<a href=\"https://b.example/b\">skf_pages</a>");
    assertThat(ask(staging, "SELECT id FROM stg_tops")).containsExactly("1");
    assertThat(Copy.reach(staging).catalog().find("orders")).isPresent();
    assertThat(Copy.reach(staging).catalog().find("gone")).isEmpty();
    assertThat(kept.settings()).isEqualTo(3);
    assertThat(kept.secrets()).isEqualTo(2);
    assertThat(kept.accounts()).isEqualTo(1);
    assertThat(kept.emptied()).containsExactly("stg_lookups");
    assertThat(kept.rows().get("people")).isEqualTo(Set.of(BigInteger.valueOf(8)));

    // The way back.
    try (Restorer restorer = Restorer.of(staging)) {
      restorer.back();
    }
    assertThat(ask(staging, "SELECT id, login, pass FROM stg_people ORDER BY id"))
        .containsExactly("1 mira own-1", "4 odd.s own-4", "5 builder own-5");
    assertThat(Copy.reach(staging).catalog().find("gone")).isPresent();
  }

  @ParameterizedTest
  @ValueSource(booleans = {false, true})
  void aFileForTheOtherPlaceHasItsNamesAndAddressesAndAllRows(boolean server) throws Exception {
    CopySpec live = copy("live", "skf_", server, LIVE);
    CopySpec place = copy("staging", "", server, List.of());
    Path file = folder.resolve("for.sql");
    try (Refitting refitting =
        Refitting.of(Copy.reach(live), place, SiteModel.read(MODEL), addresses(), Masking.NONE)) {
      CopySaver.save(
          live,
          refitting,
          new CopySaver.Place(file, AtRest.CLEAR),
          new CopySaver.About("skerrow", "2026-11-29T10:00:00Z", "weftex test"),
          rows -> {});
    }
    assertThat(SavedCopy.open(file, AtRest.CLEAR).copy()).isEqualTo("staging");
    try (Restorer restorer = Restorer.load(place, SavedCopy.open(file, AtRest.CLEAR), done -> {})) {
      restorer.switchOver();
    }
    assertThat(ask(place, "SELECT id, login, pass FROM people ORDER BY id"))
        .containsExactly("1 mira live-1", "5 kari live-5", "7 odd live-7");
    assertThat(ask(place, "SELECT value FROM settings ORDER BY id"))
        .contains("https://b.example", "real", "See https://b.example/x");
    assertThat(ask(place, "SELECT id FROM tops")).containsExactly("1");
  }
}
