package weftex.store.apply;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Path;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.EnumSource;
import weftex.core.address.Address;
import weftex.core.address.AddressBook;
import weftex.core.address.CopyAddress;
import weftex.core.change.RowChange;
import weftex.core.model.SiteModel;
import weftex.store.testing.Pair;

/** Addresses, references and merges inside of values, from one database into the other and back. */
class InsideValuesTest {
  private static final String MODEL =
      """
      model: test
      markup:
        - {css-class: picture-, to: pictures}
        - {query: [page], to: pages}
      tables:
        pictures: {}
        pages:
          permanent: [feed]
          inside:
            body: [{markup: true}]
            feed: [{refers: [{query: [page], to: pages}]}]
        settings:
          identity: [name]
          stays: {name: [address]}
          inside:
            value:
              - when: {name: menu}
                refers: [{path: "places.*", to: pages}, {path: "titles", keys: true, to: pages}]
              - when: {name: encoded}
                format: base64
                refers: [{path: "*", to: pages}]
      """;

  @TempDir Path folder;

  private Pair site(Pair.Kind kind) throws Exception {
    Pair pair = Pair.create(kind, folder, SiteModel.read(MODEL));
    for (String copy : List.of("staging", "live")) {
      boolean server =
          kind != Pair.Kind.SQLITE && (copy.equals("live") || kind == Pair.Kind.MARIADB);
      String number =
          server ? "BIGINT AUTO_INCREMENT PRIMARY KEY" : "INTEGER PRIMARY KEY AUTOINCREMENT";
      String host = copy.equals("live") ? "" : "staging.";
      String url = "https://" + host + "skerrow.example";
      pair.on(
          copy,
          "CREATE TABLE pages (id "
              + number
              + ", slug VARCHAR(50) NOT NULL UNIQUE, body TEXT, feed VARCHAR(99))",
          "CREATE TABLE pictures (id " + number + ", file VARCHAR(50) NOT NULL UNIQUE)",
          "CREATE TABLE settings (id " + number + ", name VARCHAR(50) NOT NULL UNIQUE, value TEXT)",
          "INSERT INTO pages VALUES (1, 'home', 'See "
              + url
              + "/fares.', 'https://skerrow.example/?page=1')",
          "INSERT INTO settings VALUES (1, 'address', '"
              + url
              + "'), (2, 'menu', '"
              + menu(List.of(1L), url, "Menu")
              + "')");
    }
    return pair.addresses(
            new AddressBook(
                Map.of(
                    "staging",
                    address("https://staging.skerrow.example"),
                    "live",
                    address("https://skerrow.example")),
                List.of(),
                false))
        .mark();
  }

  private static CopyAddress address(String text) {
    return new CopyAddress(Optional.of(Address.parse(text)), false, Optional.empty());
  }

  private static String menu(List<Long> pages, String url, String title) {
    StringBuilder places = new StringBuilder();
    StringBuilder titles = new StringBuilder();
    for (int i = 0; i < pages.size(); i++) {
      places.append("i:").append(i).append(";i:").append(pages.get(i)).append(';');
      titles.append("i:").append(pages.get(i)).append(";s:1:\"x\";");
    }
    return "a:4:{s:5:\"title\";"
        + text(title)
        + "s:6:\"places\";a:"
        + pages.size()
        + ":{"
        + places
        + "}"
        + "s:6:\"titles\";a:"
        + pages.size()
        + ":{"
        + titles
        + "}"
        + "s:3:\"url\";"
        + text(url + "/a")
        + "}";
  }

  private static String text(String text) {
    return "s:" + text.length() + ":\"" + text + "\";";
  }

  @ParameterizedTest
  @EnumSource(Pair.Kind.class)
  void rowsThatDifferByAddressAloneAreTheSame(Pair.Kind kind) throws Exception {
    assertThat(site(kind).changes()).isEmpty();
  }

  @ParameterizedTest
  @EnumSource(Pair.Kind.class)
  void whatMovesIsMappedRenumberedAndMergedAndComesBack(Pair.Kind kind) throws Exception {
    Pair pair = site(kind);
    pair.on(
        "staging",
        "INSERT INTO pictures VALUES (1, 'winter.jpg')",
        "INSERT INTO pages VALUES (2, 'winter', '<img class=\"picture-1\" width=\"1\"> https:\\/\\/staging.skerrow.example\\/x'"
                .replace("\\", kind == Pair.Kind.MARIADB ? "\\\\" : "\\")
            + ", 'https://staging.skerrow.example/?page=2')",
        "UPDATE pages SET feed = 'https://staging.skerrow.example/?page=1' WHERE id = 1",
        "UPDATE settings SET value = '"
            + menu(List.of(1L, 2L), "https://staging.skerrow.example", "Menu")
            + "' WHERE id = 2",
        "INSERT INTO settings VALUES (3, 'encoded', 'YToxOntpOjA7czoxOiIyIjt9')");
    pair.on(
        "live",
        "INSERT INTO pictures VALUES (1, 'storm.jpg')",
        "INSERT INTO pages VALUES (2, 'storm', 'Storm', 'https://skerrow.example/?page=2')",
        "UPDATE settings SET value = '"
            + menu(List.of(1L), "https://skerrow.example", "The menu")
            + "' WHERE id = 2");
    String everything = "SELECT id, slug, body, feed FROM pages ORDER BY id";
    List<String> before = pair.ask("live", everything);

    ApplyOutcome.Applied applied = (ApplyOutcome.Applied) pair.apply(pair.approvedDraft());

    assertThat(applied.renumbered()).hasSize(2);
    assertThat(
            pair.ask("live", "SELECT feed, body FROM pages WHERE slug = 'winter'")
                .get(0)
                .replace("\\\\", "\\"))
        .isEqualTo(
            "https://skerrow.example/?page=3\t<img class=\"picture-2\" width=\"1\"> https:\\/\\/skerrow.example\\/x");
    assertThat(pair.ask("live", "SELECT feed FROM pages WHERE id = 1"))
        .containsExactly("https://skerrow.example/?page=1");
    assertThat(pair.ask("live", "SELECT value FROM settings WHERE id = 2"))
        .containsExactly(menu(List.of(1L, 3L), "https://skerrow.example", "The menu"));
    assertThat(pair.ask("live", "SELECT value FROM settings WHERE name = 'encoded'"))
        .containsExactly("YToxOntpOjA7czoxOiIzIjt9");
    assertThat(pair.ask("live", "SELECT value FROM settings WHERE name = 'address'"))
        .containsExactly("https://skerrow.example");

    assertThat(pair.undo(false).leftAlone()).isEmpty();
    assertThat(pair.ask("live", everything)).isEqualTo(before);
  }

  @ParameterizedTest
  @EnumSource(Pair.Kind.class)
  void aRowInsideAValueIsNeededLikeAnyOther(Pair.Kind kind) throws Exception {
    Pair pair = site(kind);
    pair.on(
        "staging",
        "INSERT INTO pages VALUES (2, 'winter', NULL, NULL)",
        "UPDATE settings SET value = '"
            + menu(List.of(1L, 2L), "https://staging.skerrow.example", "Menu")
            + "' WHERE id = 2");
    RowChange setting =
        pair.changes().stream().filter(c -> c.table().equals("settings")).findFirst().orElseThrow();
    assertThat(setting.needs())
        .singleElement()
        .satisfies(need -> assertThat(need.columns()).containsExactly("value"));
  }
}
