package weftex.store.compare;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Path;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.EnumSource;
import weftex.core.address.Address;
import weftex.core.address.AddressBook;
import weftex.core.address.CopyAddress;
import weftex.core.model.SiteModel;
import weftex.core.select.Selection;
import weftex.store.compare.Likeness.Difference;
import weftex.store.testing.Pair;

/** A base is what both copies have: what keeps a copy from being one. */
class LikenessTest {
  private static final String MODEL =
      """
      model: test
      tables:
        pages:
          number: id
          columns: {views: ignored}
          item: {kind: page, name: title}
        comments: {number: id, role: live}
        caches: {number: id, role: noise}
      """;

  @TempDir Path folder;

  private Pair pair(Pair.Kind kind) throws Exception {
    Pair pair = Pair.create(kind, folder, SiteModel.read(MODEL));
    String number =
        kind == Pair.Kind.SQLITE
            ? "id INTEGER PRIMARY KEY AUTOINCREMENT"
            : "id INT AUTO_INCREMENT PRIMARY KEY";
    pair.both(
        "CREATE TABLE pages (" + number + ", title VARCHAR(50), views INT)",
        "CREATE TABLE comments (" + number + ", body VARCHAR(50))",
        "CREATE TABLE caches (" + number + ", body VARCHAR(50))",
        "INSERT INTO pages VALUES (1, 'Fares', 3), (2, 'Harbours', 4), (3, 'Routes', 5)",
        "INSERT INTO comments VALUES (1, 'Thanks'), (2, 'Late again')");
    return pair;
  }

  private static CopyAddress address(String url) {
    return new CopyAddress(Optional.of(Address.parse(url)), false, Optional.empty());
  }

  @ParameterizedTest
  @EnumSource(
      value = Pair.Kind.class,
      names = {"SQLITE", "MARIADB"})
  void addressesCountersAndNoiseAreNoDifference(Pair.Kind kind) throws Exception {
    Pair pair =
        pair(kind)
            .addresses(
                new AddressBook(
                    Map.of(
                        "staging", address("https://staging.skerrow.example"),
                        "live", address("https://skerrow.example")),
                    List.of(),
                    false));
    pair.on("staging", "UPDATE pages SET title = 'https://staging.skerrow.example/a' WHERE id = 1")
        .on("live", "UPDATE pages SET title = 'https://skerrow.example/a' WHERE id = 1")
        .on("live", "UPDATE pages SET views = 90", "INSERT INTO caches VALUES (1, 'x')");
    for (String copy : List.of("staging", "live")) {
      assertThat(pair.likeness(copy)).isEqualTo(new Likeness(List.of(), List.of()));
    }
  }

  @ParameterizedTest
  @EnumSource(
      value = Pair.Kind.class,
      names = {"SQLITE", "MARIADB"})
  void everyOtherDifferenceIsCountedByTable(Pair.Kind kind) throws Exception {
    Pair pair = pair(kind);
    pair.on("staging", "DELETE FROM pages WHERE id = 1", "INSERT INTO pages VALUES (8, 'New', 0)")
        .on("live", "UPDATE pages SET title = 'Ports' WHERE id = 2");
    assertThat(pair.likeness("staging").apart())
        .containsExactly(
            new Difference(
                "pages", 1, 1, 1, List.of("page 'Fares'", "page 'New'", "page 'Ports'")));
    assertThat(pair.likeness("live").isAlike()).isFalse();
  }

  @ParameterizedTest
  @CsvSource(
      delimiter = '|',
      quoteCharacter = '"',
      textBlock =
          """
          live    | INSERT INTO comments VALUES (3, 'More')           | true  | false
          live    | UPDATE comments SET body = 'Thank you' WHERE id=1 | true  | false
          staging | INSERT INTO comments VALUES (3, 'Test')           | false | false
          """)
  void whatVisitorsWroteOnLiveIsInNoWayOfABaseOfStaging(
      String copy, String statement, boolean ofStaging, boolean ofLive) throws Exception {
    Pair pair = pair(Pair.Kind.SQLITE).on(copy, statement);
    assertThat(pair.likeness("staging").isAlike()).isEqualTo(ofStaging);
    assertThat(pair.likeness("live").isAlike()).isEqualTo(ofLive);
    if (ofStaging) {
      assertThat(pair.likeness("staging").own()).hasSize(1);
    }
  }

  @ParameterizedTest
  @EnumSource(
      value = Pair.Kind.class,
      names = {"SQLITE", "MARIADB"})
  void aCommentThatCameInBeforeTheBaseIsNeverRemoved(Pair.Kind kind) throws Exception {
    Pair pair = pair(kind).on("live", "INSERT INTO comments VALUES (3, 'More')");
    assertThat(pair.likeness("staging").isAlike()).isTrue();
    pair.mark("staging");
    try (ComparisonRun run = pair.compare()) {
      assertThat(run.planner().choose(Selection.CONTENT.of("comments")).size()).isZero();
    }
  }
}
