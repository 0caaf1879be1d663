package weftex.store.dump;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.catchThrowableOfType;

import java.io.IOException;
import java.io.OutputStream;
import java.io.UncheckedIOException;
import java.nio.charset.Charset;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Optional;
import java.util.concurrent.CopyOnWriteArrayList;
import java.util.zip.GZIPOutputStream;
import java.util.zip.ZipEntry;
import java.util.zip.ZipOutputStream;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;
import weftex.store.Refusal;
import weftex.store.copy.Copy;
import weftex.store.database.CopySpec;
import weftex.store.seal.AtRest;
import weftex.store.state.FileClaim;
import weftex.store.testing.MariaDbServer;

/** Files of dump clients and hosting panels as copies. */
class SqlFileTest {
  /** As a panel writes it: keys apart, every row in the names of its columns. */
  private static final String PANEL =
      """
      -- SQL export of a panel
      SET SQL_MODE = "NO_AUTO_VALUE_ON_ZERO";
      START TRANSACTION;
      SET time_zone = "+00:00";
      /*!40101 SET @OLD_CHARACTER_SET_CLIENT=@@CHARACTER_SET_CLIENT */;
      /*!40101 SET NAMES utf8mb4 */;
      CREATE DATABASE IF NOT EXISTS `skerrow` DEFAULT CHARACTER SET utf8mb4;
      USE `skerrow`;
      DELIMITER $$
      CREATE DEFINER=`x`@`localhost` PROCEDURE `p` () BEGIN SELECT 1; END$$
      DELIMITER ;
      CREATE TABLE `s_pages` (
        `id` int(11) NOT NULL,
        `title` varchar(80) NOT NULL DEFAULT 'it''s; select',
        `data` blob
      ) ENGINE=InnoDB DEFAULT CHARSET=utf8mb4;
      INSERT INTO `s_pages` (`id`, `title`, `data`) VALUES
      (1, 'Fähre; \\'a\\' -- b', 0x00ff),
      (7, '', NULL);\r
      CREATE TRIGGER `t` BEFORE INSERT ON `s_pages` FOR EACH ROW SET NEW.title = 'x';
      ALTER TABLE `s_pages`
        ADD PRIMARY KEY (`id`);
      ALTER TABLE `s_pages`
        MODIFY `id` int(11) NOT NULL AUTO_INCREMENT, AUTO_INCREMENT=9;
      COMMIT;
      """;

  @TempDir Path folder;
  private CopySpec.Server scratch;

  @BeforeEach
  void aScratchDatabaseThatIsNotThereYet() {
    MariaDbServer server = MariaDbServer.get();
    String database = server.newDatabase();
    server.sql("mysql", "DROP DATABASE " + database);
    scratch = (CopySpec.Server) server.spec("live", database, "s_");
  }

  private CopySpec file(String text) throws Exception {
    return file("live.sql", text.getBytes(StandardCharsets.UTF_8));
  }

  private CopySpec file(String name, byte[] bytes) throws Exception {
    Path file = folder.resolve(name);
    try (OutputStream out = Files.newOutputStream(file)) {
      OutputStream packed = out;
      if (name.endsWith(".gz")) {
        packed = new GZIPOutputStream(out);
      } else if (name.endsWith(".zip")) {
        ZipOutputStream zip = new ZipOutputStream(out);
        zip.putNextEntry(new ZipEntry("live.sql"));
        packed = zip;
      }
      packed.write(bytes);
      packed.close();
    }
    return SqlFile.of(file, scratch, AtRest.CLEAR);
  }

  private String ask(String sql) {
    return MariaDbServer.get().sql(scratch.database(), sql).strip();
  }

  @ParameterizedTest
  @ValueSource(strings = {"live.sql", "live.sql.gz", "live.zip"})
  void aPanelsFileIsACopy(String name) throws Exception {
    CopySpec live = file(name, PANEL.getBytes(StandardCharsets.UTF_8));
    assertThat(live.place()).contains("SQL file", name, "prefix s_");
    Copy copy = Copy.reach(live);
    assertThat(copy.catalog().tables()).containsOnlyKeys("pages");
    assertThat(copy.catalog().find("pages").orElseThrow().table().isNumbered()).isTrue();
    assertThat(copy.catalog().find("pages").orElseThrow().triggers()).isEmpty();
    assertThat(ask("SELECT title FROM s_pages WHERE id = 1")).isEqualTo("Fähre; 'a' -- b");
    assertThat(ask("SELECT HEX(data) FROM s_pages WHERE id = 1")).isEqualTo("00FF");
    MariaDbServer.get().sql(scratch.database(), "INSERT INTO s_pages (title) VALUES ('new')");
    assertThat(ask("SELECT id FROM s_pages WHERE title = 'new'")).isEqualTo("9");
  }

  @Test
  void theServersOwnDumpIsACopyWithEveryByte() throws Exception {
    MariaDbServer server = MariaDbServer.get();
    String from = server.newDatabase();
    server.sql(
        from,
        "CREATE TABLE s_a (id INT AUTO_INCREMENT PRIMARY KEY, t TEXT CHARACTER SET utf8mb4, b BLOB, l"
            + " VARCHAR(20) CHARACTER SET latin1, js JSON, p POINT);"
            + "INSERT INTO s_a VALUES (3, 'x', x'00275c0a0d1aff22', 'Fähre', '[1]', ST_GeomFromText('POINT(1 2)')), (4, '', '', '', NULL, NULL);"
            + "CREATE VIEW s_v AS SELECT * FROM s_a;"
            + "CREATE TABLE other (n INT); INSERT INTO other VALUES (5)");
    for (String charset : List.of("utf8mb4", "latin1")) {
      CopySpec live = file("d-" + charset + ".sql.gz", server.dump(from, charset));
      assertThat(Copy.reach(live).catalog().tables()).containsOnlyKeys("a");
      assertThat(ask("CHECKSUM TABLE s_a EXTENDED").replaceAll(".*\\s", ""))
          .as(charset)
          .isEqualTo(
              server.sql(from, "CHECKSUM TABLE s_a EXTENDED").strip().replaceAll(".*\\s", ""));
      assertThat(ask("SELECT n FROM other")).isEqualTo("5");
    }
  }

  @Test
  void itIsLoadedOnceAndAnewWhenItsContentIsAnother() throws Exception {
    Copy.reach(file(PANEL));
    ask("UPDATE s_pages SET title = 'kept' WHERE id = 1");
    // The same content, written once more.
    CopySpec again = file(PANEL);
    Copy.reach(again);
    assertThat(ask("SELECT title FROM s_pages WHERE id = 1")).isEqualTo("kept");
    assertThat(SqlFile.of(again).orElseThrow().left()).isEqualTo("10, 20");
    SqlFile.of(again).orElseThrow().soil();
    Copy.reach(file(PANEL));
    assertThat(ask("SELECT title FROM s_pages WHERE id = 1")).startsWith("Fähre");
    Copy.reach(file(PANEL.replace("Fähre", "Boot")));
    assertThat(ask("SELECT title FROM s_pages WHERE id = 1")).startsWith("Boot");
  }

  @Test
  void whoeverWatchesIsToldHowFarItIsAndThatAnotherProcessIsAtIt() throws Exception {
    List<String> told = new CopyOnWriteArrayList<>();
    Path claim = folder.resolve("scratch/.live.open");
    Files.createDirectory(claim.getParent());
    Path file = Files.writeString(folder.resolve("live.sql"), PANEL);
    CopySpec live =
        SqlFile.of(file, new SqlFile.Room(scratch, () -> {}, Optional.of(claim)), AtRest.CLEAR);
    FileClaim other = FileClaim.attempt(claim, "another").claim().orElseThrow();
    SqlFile.of(live)
        .orElseThrow()
        .watchedBy(
            new LoadingWatcher() {
              @Override
              public LoadingWatcher.Watch loading(Path loaded, long bytes) {
                told.add("begins " + bytes);
                return read -> told.add("at " + read);
              }

              @Override
              public void waiting(Path awaited) {
                told.add("waits");
                try {
                  other.close();
                } catch (IOException e) {
                  throw new UncheckedIOException(e);
                }
              }
            });
    Copy.reach(live);
    assertThat(told).startsWith("waits", "begins " + Files.size(file));
    assertThat(told).endsWith("at " + Files.size(file));
    Copy.reach(live);
    assertThat(told).filteredOn(one -> one.startsWith("begins")).hasSize(1);
  }

  @ParameterizedTest
  @CsvSource(
      delimiter = '|',
      textBlock =
          """
          GRANT ALL ON *.* TO x;                                  | Line 3 of the file
          LOAD DATA INFILE '/etc/passwd' INTO TABLE s_pages;      | Line 3 of the file
          SELECT 1 INTO OUTFILE '/tmp/x';                         | Line 3 of the file
          CREATE DATABASE a; CREATE DATABASE b;                   | more than one database
          INSERT INTO s_pages VALUES (LOAD_FILE('/etc/passwd'));  | Line 3 of the file
          INSERT INTO mysql.user VALUES (1);                      | Line 3 of the file
          CREATE TABLE x (a INT) /*!50100 DATA DIRECTORY='/' */;  | Line 3 of the file
          ALTER TABLE s_pages RENAME TO x;                        | Line 3 of the file
          system rm;                                              | Line 3 of the file
          INSERT INTO s_pages VALUES ('cut                        | Line 3 of the file
          CREATE TABLE x (a NOTYPE);                              | line 3
          SET NAMES koi8r;                                        | says that it is in koi8r
          """)
  void whatIsNoDumpOfASiteIsRefusedWithItsLine(String sql, String says) throws Exception {
    assertRefused(file("-- a\n\n" + sql), says);
  }

  @Test
  void whatIsCutOrSomebodyElsesIsRefused() throws Exception {
    assertRefused(file("-- MariaDB dump 10.19\nCREATE TABLE s_a (n INT);\n"), "is cut off");
    assertRefused(SqlFile.of(folder.resolve("none.sql"), scratch, AtRest.CLEAR), "is not there");
    assertRefused(SqlFile.of(folder, scratch, AtRest.CLEAR), "is no ordinary file");
    byte[] latin =
        "CREATE TABLE s_a (n TEXT DEFAULT 'F\u00e4hre');".getBytes(Charset.forName("windows-1252"));
    assertRefused(file("l.sql", latin), "not in UTF-8");
    byte[] rows =
        "CREATE TABLE s_a (n VARCHAR(9) CHARACTER SET utf8mb4); INSERT INTO s_a VALUES ('F\u00e4hre');"
            .getBytes(Charset.forName("windows-1252"));
    assertRefused(file("l.sql", rows), "in another character set than it says");
    MariaDbServer.get().sql("mysql", "DROP DATABASE IF EXISTS " + scratch.database());
    MariaDbServer.get().sql("mysql", "CREATE DATABASE " + scratch.database());
    ask("CREATE TABLE theirs (n INT)");
    assertRefused(file(PANEL), "has tables that Weftex did not make");
    assertThat(ask("SELECT COUNT(*) FROM theirs")).isEqualTo("0");
  }

  private static void assertRefused(CopySpec spec, String says) {
    Refusal refusal = catchThrowableOfType(Refusal.class, () -> Copy.reach(spec));
    assertThat(refusal).as(says).isNotNull().hasMessageContaining(says);
    assertThat(refusal).hasMessageContaining("Nothing was changed");
  }
}
