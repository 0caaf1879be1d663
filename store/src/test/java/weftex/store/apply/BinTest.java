package weftex.store.apply;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Path;
import java.util.List;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.EnumSource;
import weftex.core.change.RowChange;
import weftex.core.model.SiteModel;
import weftex.store.testing.Pair;

/** Pages in the bin, over more than one merge. */
class BinTest {
  @TempDir Path folder;

  /** What is new in a bin travels nowhere; that both binned what they had is known from then on. */
  @ParameterizedTest
  @EnumSource(names = {"SQLITE", "MARIADB"})
  void aPageThatBothBinnedAndStagingTakesOutAgain(Pair.Kind kind) throws Exception {
    Pair pair =
        Pair.create(
            kind,
            folder,
            SiteModel.read(
                """
                model: test
                tables:
                  pages:
                    number: id
                    identity: [slug]
                    rows: [{when: {status: [trash]}, role: noise, only-new: true}]
                """));
    pair.both(
        "CREATE TABLE pages (id INTEGER PRIMARY KEY, slug VARCHAR(30), status VARCHAR(20))",
        "INSERT INTO pages VALUES (1, 'home', 'live'), (2, 'fares', 'live')");
    pair.mark();
    pair.both("UPDATE pages SET status = 'trash', slug = 'fares-binned' WHERE id = 2");
    pair.on("staging", "UPDATE pages SET slug = 'start' WHERE id = 1");
    pair.apply(pair.approvedDraft());

    pair.on("staging", "UPDATE pages SET status = 'draft', slug = 'fares' WHERE id = 2");
    assertThat(pair.changes())
        .singleElement()
        .extracting(RowChange::conflicts)
        .isEqualTo(List.of());
    pair.apply(pair.approvedDraft());
    assertThat(pair.ask("live", "SELECT slug, status FROM pages WHERE id = 2"))
        .containsExactly("fares\tdraft");
  }
}
