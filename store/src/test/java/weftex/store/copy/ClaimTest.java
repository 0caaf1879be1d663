package weftex.store.copy;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Path;
import java.sql.Statement;
import java.util.Optional;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.EnumSource;
import weftex.core.model.SiteModel;
import weftex.store.database.Connecting;
import weftex.store.rows.Ledger;
import weftex.store.rows.WriteTransaction;
import weftex.store.testing.Pair;

/** One run at a time writes to a copy. */
class ClaimTest {
  @TempDir Path folder;

  @ParameterizedTest
  @EnumSource(
      value = Pair.Kind.class,
      names = {"SQLITE", "MARIADB"})
  void oneRunHasItUntilItEnds(Pair.Kind kind) throws Exception {
    Pair pair = Pair.create(kind, folder, SiteModel.PLAIN);
    pair.both("CREATE TABLE pages (id INTEGER PRIMARY KEY)");
    Copy live = Copy.reach(pair.spec("live"));
    try (Claim first = live.claim()) {
      assertThat(Copy.reach(pair.spec("live")).claimIfFree()).isEmpty();
      assertThat(first.begin().ledger().all()).isEmpty();
      // The other copy is another matter.
      Optional<Claim> other = Copy.reach(pair.spec("staging")).claimIfFree();
      assertThat(other).isPresent();
      other.get().close();
    }
    Optional<Claim> second = live.claimIfFree();
    assertThat(second).isPresent();
    second.get().close();
  }

  @ParameterizedTest
  @EnumSource(
      value = Pair.Kind.class,
      names = {"SQLITE", "MARIADB"})
  void itsTransactionsComeOneAfterTheOther(Pair.Kind kind) throws Exception {
    Pair pair = Pair.create(kind, folder, SiteModel.PLAIN);
    pair.both("CREATE TABLE pages (id INTEGER PRIMARY KEY)");
    try (Claim claim = Copy.reach(pair.spec("live")).claim()) {
      for (int i = 1; i <= 3; i++) {
        try (WriteTransaction transaction = claim.begin()) {
          assertThat(transaction.ledger().next(0)).isEqualTo(i == 3 ? 2 : i);
          transaction
              .ledger()
              .write(new Ledger.Entry("r" + i, "c", "apply", "now", i, Optional.empty()));
          if (i == 1) {
            transaction.commit();
          }
        }
      }
    }
    assertThat(pair.ask("live", "SELECT receipt FROM weftex_ledger")).containsExactly("r1");
  }

  /** An editor of the site that holds rows does not keep a run from being claimed. */
  @ParameterizedTest
  @EnumSource(
      value = Pair.Kind.class,
      names = {"MARIADB"})
  void whoeverElseIsConnectedIsNoRun(Pair.Kind kind) throws Exception {
    Pair pair = Pair.create(kind, folder, SiteModel.PLAIN);
    pair.both("CREATE TABLE pages (id INTEGER PRIMARY KEY)");
    try (var connection = Connecting.open(pair.spec("live"));
        Statement statement = connection.createStatement()) {
      statement.execute("SELECT GET_LOCK('another', 0)");
      Optional<Claim> claim = Copy.reach(pair.spec("live")).claimIfFree();
      assertThat(claim).isPresent();
      claim.get().close();
    }
  }
}
