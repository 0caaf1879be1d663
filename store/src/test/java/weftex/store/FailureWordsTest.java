package weftex.store;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.nio.file.AccessDeniedException;
import java.nio.file.NoSuchFileException;
import java.sql.BatchUpdateException;
import java.sql.SQLException;
import java.sql.SQLNonTransientConnectionException;
import org.junit.jupiter.api.Test;

class FailureWordsTest {
  private static final SQLException CUT =
      new SQLNonTransientConnectionException("(conn=2944) Socket error", "08000");

  @Test
  void aWrapperThatSaysNothingOfItsOwnIsLookedThrough() {
    assertThat(FailureWords.of(new BatchUpdateException(new int[2], CUT)))
        .isEqualTo("Socket error");
    assertThat(FailureWords.of(new IOException(new IOException(CUT)))).isEqualTo("Socket error");
    assertThat(FailureWords.of(new SQLException(null, "08000", CUT))).isEqualTo("Socket error");
  }

  @Test
  void namesOfClassesBeforeItAreLeftOutEvenIfTheirExceptionIsNotThere() {
    String said = "java.sql.SQLNonTransientConnectionException: (conn=7) Socket error";
    assertThat(FailureWords.of(new BatchUpdateException(said, new int[2])))
        .isEqualTo("Socket error");
    assertThat(FailureWords.of(new SQLException("line 4: nothing: so")))
        .isEqualTo("line 4: nothing: so");
  }

  @Test
  void whatAWrapperSaysItselfIsKept() {
    assertThat(FailureWords.of(new IOException("reading posts of live broke off", CUT)))
        .isEqualTo("reading posts of live broke off");
  }

  @Test
  void aSentenceCanGoOnAfterIt() {
    assertThat(FailureWords.of(new SQLException("(conn=7) Lock wait timeout exceeded. ")))
        .isEqualTo("Lock wait timeout exceeded");
    assertThat(FailureWords.of(new SQLException())).isEqualTo("no reason is known");
  }

  @Test
  void theFileSystemSaysNoMoreThanAName() {
    assertThat(FailureWords.of(new AccessDeniedException("/srv/live.db")))
        .isEqualTo("this user has no right to it");
    assertThat(FailureWords.of(new NoSuchFileException("/srv/live.db")))
        .isEqualTo("there is no /srv/live.db");
  }
}
