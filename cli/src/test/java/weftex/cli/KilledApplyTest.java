package weftex.cli;

import static org.assertj.core.api.Assertions.assertThat;

import com.github.luben.zstd.util.ZstdVersion;
import java.io.InputStream;
import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.List;
import java.util.concurrent.TimeUnit;
import java.util.stream.Stream;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Tag;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import weftex.store.testing.ReceiptText;

/**
 * A process that is killed while it applies leaves live wholly before or wholly after, and the next
 * run says which. The process is real and so is the signal; where it is killed is settled by what
 * another connection holds back.
 */
@Tag("full")
class KilledApplyTest {
  private static final int EDITED = 3000;

  @TempDir Path folder;
  private ServerSite site;

  /** How many new tables and columns the change set makes. */
  private String made = "2";

  @BeforeEach
  void draftALargeChange() throws Exception {
    site = new ServerSite(folder);
    for (String database : new String[] {site.live, site.staging}) {
      site.server.sql(
          database,
          "CREATE TABLE skf_tides (id INT AUTO_INCREMENT PRIMARY KEY, height VARCHAR(40)) ENGINE=InnoDB;"
              + "INSERT INTO skf_tides SELECT seq, CONCAT('low ', seq) FROM seq_1_to_"
              + EDITED
              + ";CREATE TABLE skf_buoys (id INT PRIMARY KEY) ENGINE=InnoDB; INSERT INTO skf_buoys VALUES (7);");
    }
    weftex("mark");
    site.server.sql(
        site.staging,
        "UPDATE skf_tides SET height = CONCAT('high ', id); INSERT INTO skf_tides VALUES (99999, 'high');"
            + "ALTER TABLE skf_buoys ADD COLUMN gauge VARCHAR(9) NOT NULL DEFAULT 'pier';"
            + "UPDATE skf_buoys SET gauge = 'bell' WHERE id = 7;"
            + "CREATE TABLE skf_gauges (name VARCHAR(9) NOT NULL PRIMARY KEY) ENGINE=InnoDB;"
            + "INSERT INTO skf_gauges VALUES ('pier'), ('buoy');");
    weftex("draft");
    weftex("review", "--approve");
  }

  private Program.Ran weftex(String... arguments) {
    return new Program(folder).runAlone(arguments);
  }

  private Connection connection() throws SQLException {
    return DriverManager.getConnection(
        "jdbc:mariadb://127.0.0.1:"
            + site.server.port()
            + "/"
            + site.live
            + "?user=root&sslMode=disable");
  }

  /** 0 if live is wholly before, 1 if it is wholly after. */
  private int state() {
    String count =
        site.server
            .sql(site.live, "SELECT COUNT(*) FROM skf_tides WHERE height LIKE 'high%';")
            .strip();
    assertThat(count).isIn("0", "" + (EDITED + 1));
    return count.equals("0") ? 0 : 1;
  }

  /** How many of the new table and the new column live has. */
  private String schema() {
    return site.server
        .sql(
            site.live,
            "SELECT (SELECT COUNT(*) FROM information_schema.TABLES WHERE TABLE_SCHEMA = DATABASE()"
                + " AND TABLE_NAME = 'skf_gauges') + (SELECT COUNT(*) FROM information_schema.COLUMNS"
                + " WHERE TABLE_SCHEMA = DATABASE() AND COLUMN_NAME = 'gauge');")
        .strip();
  }

  /**
   * The process is gone; the server may need a moment to notice, or to finish a commit it was sent.
   */
  private void awaitItsConnectionGone(Statement statement) throws Exception {
    for (int i = 0; i < 600; i++) {
      try (ResultSet rows =
          statement.executeQuery(
              "SELECT COUNT(*) FROM information_schema.PROCESSLIST WHERE DB = DATABASE() AND ID <> CONNECTION_ID()")) {
        rows.next();
        if (rows.getInt(1) == 0) {
          return;
        }
      }
      TimeUnit.MILLISECONDS.sleep(50);
    }
    throw new AssertionError("the server still holds the connection of a process that is gone");
  }

  private void awaitWaiting(Statement statement, String state) throws Exception {
    for (int i = 0; i < 1200; i++) {
      try (ResultSet rows =
          statement.executeQuery(
              "SELECT COUNT(*) FROM information_schema.PROCESSLIST WHERE DB = DATABASE() AND ID <> CONNECTION_ID() AND "
                  + state)) {
        rows.next();
        if (rows.getInt(1) > 0) {
          return;
        }
      }
      TimeUnit.MILLISECONDS.sleep(25);
    }
    throw new AssertionError("the program never came to wait: " + state);
  }

  /**
   * The receipts that were written since the last undo; there is none if the process was killed
   * early.
   */
  private List<Path> applyReceipts() throws Exception {
    Path folder = this.folder.resolve(".weftex/receipts");
    if (!Files.isDirectory(folder)) {
      return List.of();
    }
    try (Stream<Path> receipts = Files.list(folder)) {
      List<Path> all = receipts.sorted().toList();
      return all.isEmpty() || ReceiptText.of(all.get(all.size() - 1)).contains("\"kind\":\"undo\"")
          ? List.of()
          : List.of(all.get(all.size() - 1));
    }
  }

  private void theNextRunTellsTheTruth(int state) throws Exception {
    Program.Ran history = weftex("history");
    assertThat(history.status()).as(history.err()).isZero();
    for (Path receipt : applyReceipts()) {
      assertThat(ReceiptText.of(receipt).contains("{\"committed\"")).isEqualTo(state == 1);
    }
    assertThat(schema()).isEqualTo(state == 1 ? made : "0");
    Program.Ran again = weftex("apply");
    assertThat(again.status()).as(again.err()).isZero();
    assertThat(again.out()).contains(state == 1 ? "Nothing was done" : "Applied staging → live");
    assertThat(state()).isEqualTo(1);
    assertThat(schema()).isEqualTo(made);
    assertThat(weftex("undo").status()).isZero();
    assertThat(state()).isZero();
    assertThat(schema()).isEqualTo("0");
  }

  @Test
  void killedWhileItLocksRows() throws Exception {
    try (Connection other = connection();
        Statement statement = other.createStatement()) {
      other.setAutoCommit(false);
      statement.executeQuery("SELECT * FROM skf_tides WHERE id = 2900 FOR UPDATE").close();
      Process apply = new Program(folder).start("apply");
      awaitWaiting(statement, "INFO LIKE 'SELECT%FOR UPDATE' AND TIME_MS > 200");
      apply.destroyForcibly().waitFor();
      other.rollback();
      awaitItsConnectionGone(statement);
    }
    assertThat(state()).isZero();
    Program.Ran history = weftex("history");
    assertThat(history.err()).contains("was interrupted. live has none of its changes.");
    theNextRunTellsTheTruth(0);
  }

  @Test
  void killedWhileTheCommitIsOnItsWay() throws Exception {
    // What makes tables would wait, too; it is not what is held back here, and neither is making
    // the
    // ledger's table, which is there after a first apply.
    weftex("draft", "--tables", "tides");
    weftex("review", "--approve");
    made = "0";
    weftex("apply");
    weftex("undo");
    int state;
    try (Connection other = connection();
        Statement statement = other.createStatement()) {
      statement.execute("BACKUP STAGE START");
      statement.execute("BACKUP STAGE FLUSH");
      statement.execute("BACKUP STAGE BLOCK_DDL");
      statement.execute("BACKUP STAGE BLOCK_COMMIT");
      Process apply = new Program(folder).start("apply");
      awaitWaiting(statement, "INFO = 'COMMIT'");
      apply.destroyForcibly().waitFor();
      statement.execute("BACKUP STAGE END");
      awaitItsConnectionGone(statement);
      state = state();
    }
    Program.Ran history = weftex("history");
    assertThat(history.err())
        .contains(
            "was interrupted. live has " + (state == 1 ? "all" : "none") + " of its changes.");
    theNextRunTellsTheTruth(state);
  }

  @Test
  void killedAtAnyMoment() throws Exception {
    for (int delay = 500; delay < 2000; delay += 300) {
      Process apply = new Program(folder).start("apply");
      apply.waitFor(delay, TimeUnit.MILLISECONDS);
      apply.destroyForcibly().waitFor();
      try (Connection other = connection();
          Statement statement = other.createStatement()) {
        awaitItsConnectionGone(statement);
      }
      theNextRunTellsTheTruth(state());
    }
  }

  @Test
  void interruptedByTheUser() throws Exception {
    try (Connection other = connection();
        Statement statement = other.createStatement()) {
      other.setAutoCommit(false);
      statement.executeQuery("SELECT * FROM skf_tides WHERE id = 2900 FOR UPDATE").close();
      Process apply = new Program(folder).start("apply");
      awaitWaiting(statement, "INFO LIKE 'SELECT%FOR UPDATE' AND TIME_MS > 200");
      // Not SIGINT, which is ignored in the background of a script.
      new ProcessBuilder("kill", "-TERM", "" + apply.pid()).start().waitFor();
      Program.Ran ran = Program.finish(apply);
      assertThat(ran.status()).isEqualTo(130);
      assertThat(ran.err())
          .contains("Interrupted. No row was changed.", "'weftex history' takes them away");
      other.rollback();
      awaitItsConnectionGone(statement);
    }
    theNextRunTellsTheTruth(0);
  }

  @Test
  void aDiskThatIsFullWhileTheReceiptIsWritten() throws Exception {
    // The limit is for all files, also for the library that is unpacked at each start.
    Path library = folder.resolve("libzstd.so");
    String name =
        "/linux/" + System.getProperty("os.arch") + "/libzstd-jni-" + ZstdVersion.VERSION + ".so";
    try (InputStream packed = ZstdVersion.class.getResourceAsStream(name)) {
      Files.copy(packed, library);
    }
    Program.Ran ran =
        new Program(folder)
            .with("JAVA_TOOL_OPTIONS", "-DZstdNativePath=" + library)
            .through("ulimit -f 8")
            .run("apply");
    assertThat(ran.status()).as(ran.err()).isEqualTo(4);
    assertThat(ran.err())
        .contains(
            "A file could not be read or written",
            "no row was changed on live",
            "Make room on the disk");
    assertThat(state()).isZero();
    assertThat(weftex("apply").status()).isZero();
  }
}
