package weftex.store.engine;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.SQLException;
import java.util.List;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import weftex.store.Refusal;
import weftex.store.copy.Copy;
import weftex.store.database.CopySpec;

/** What is said of live after a failure must be true at every stage, and be said once. */
class EndingTest {
  @TempDir Path folder;
  private Copy live;

  private static final SQLException BROKEN =
      new SQLException("set up", new SQLException("Socket error", "08000"));
  private static final SQLException REFUSED = new SQLException("Deadlock found", "40001");
  private static final Refusal UNREACHABLE =
      new Refusal(
          Refusal.Kind.UNREACHABLE,
          "The copy 'live' can't be reached: Socket error. Nothing was changed.",
          "Check that it is up.");
  private static final Refusal MUTE =
      new Refusal(Refusal.Kind.UNREACHABLE, "Something is amiss.", "Look.");

  @BeforeEach
  void aCopy() throws Exception {
    Path file = folder.resolve("live.db");
    Files.write(file, new byte[0]);
    live = Copy.reach(new CopySpec.SqliteFile("live", "", file));
  }

  private Ending ending() {
    return new Ending("apply", live);
  }

  private Ending committed() {
    Ending ending = ending();
    ending.commitIsSent();
    ending.committed();
    return ending;
  }

  @Test
  void beforeTheCommitNothingWasChanged() {
    assertThat(ending().of(REFUSED).getMessage())
        .isEqualTo(
            "live refused the changes: Deadlock found. Everything was rolled back; nothing was"
                + " changed.");
    assertThat(ending().of(BROKEN).getMessage())
        .contains("broke before the commit", "no row was changed");
    assertThat(ending().of(new IOException("No space left")).getMessage())
        .contains("No space left", "nothing was changed on live");
    assertThat(ending().interrupted().getMessage()).contains("nothing was changed on live");
    assertThat(ending().of(UNREACHABLE).getMessage()).isEqualTo(UNREACHABLE.getMessage());
    assertThat(ending().of(MUTE).getMessage())
        .isEqualTo("Something is amiss. Nothing was changed.");
  }

  @Test
  void aBrokenLineAndARefusalEndDifferently() {
    assertThat(ending().of(BROKEN).kind()).isEqualTo(Refusal.Kind.UNREACHABLE);
    assertThat(ending().of(REFUSED).kind()).isEqualTo(Refusal.Kind.PROTECTED);
  }

  @Test
  void onceTablesWereMadeOnlyRowsAreUnchanged() {
    for (Refusal said : List.of(UNREACHABLE, MUTE)) {
      Ending ending = ending();
      ending.makesSchema();
      assertThat(ending.of(said).getMessage())
          .contains(said.reason())
          .endsWith("No row was changed.")
          .doesNotContain("othing was changed");
    }
    Ending ending = ending();
    ending.makesSchema();
    assertThat(ending.of(REFUSED).getMessage())
        .contains("no row was changed")
        .doesNotContain("nothing was changed");
    assertThat(Ending.leaving(ending.of(REFUSED)).getMessage())
        .contains("may still be there, unused");
  }

  @Test
  void whileTheCommitIsOnItsWayNobodyKnows() {
    Ending ending = ending();
    ending.commitIsSent();
    assertThat(ending.isOpen()).isFalse();
    Refusal refusal = ending.of(BROKEN);
    assertThat(refusal.getMessage())
        .contains("Either all of it was written or nothing")
        .doesNotContain("as changed");
    assertThat(refusal.next()).contains("weftex history");
    assertThat(ending.of(refusal)).isSameAs(refusal);
  }

  @Test
  void afterTheCommitNothingSaysThatNothingWasChanged() {
    assertThat(committed().of(BROKEN).getMessage())
        .contains("The apply is done on live and permanent", "set up.");
    assertThat(committed().of(new IOException("No space left")).getMessage())
        .contains("is done on live and permanent", "No space left.");
    for (Refusal late : List.of(UNREACHABLE, MUTE)) {
      assertThat(committed().of(late).getMessage())
          .contains("is done on live and permanent", late.reason())
          .doesNotContain("othing was changed");
    }
  }

  @Test
  void whatIsWordedOnceStaysSo() {
    Ending ending = committed();
    Refusal refusal = ending.of(BROKEN);
    assertThat(ending.of(refusal)).isSameAs(refusal);
  }

  @Test
  void whatCantRollBackIsNamedOnce() {
    Ending ending = ending();
    ending.writes(List.of("tides", "buoys"));
    Refusal refusal = ending.of(REFUSED);
    assertThat(refusal.getMessage())
        .containsOnlyOnce("tides, buoys, which can't roll back and may be half written");
    assertThat(ending.of(refusal)).isSameAs(refusal);
    assertThat(ending.of(BROKEN).getMessage()).contains("no other row was changed");
    assertThat(ending.of(MUTE).getMessage()).containsOnlyOnce("may be half written");
  }

  @Test
  void tablesThatCantRollBackAreRefusedByName() {
    Refusal refusal = ending().cantRollBack(List.of("tides"));
    assertThat(refusal.getMessage()).contains("tides", "Nothing was changed");
    assertThat(refusal.next()).contains("apply with --even-if-no-rollback");
  }
}
