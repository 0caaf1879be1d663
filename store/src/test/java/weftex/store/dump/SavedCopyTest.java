package weftex.store.dump;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.catchThrowableOfType;

import java.io.InputStream;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.ResultSet;
import java.sql.Statement;
import java.util.ArrayList;
import java.util.List;
import java.util.stream.Collectors;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;
import weftex.store.Refusal;
import weftex.store.database.Connecting;
import weftex.store.database.CopySpec;
import weftex.store.seal.AtRest;
import weftex.store.sqltext.SqlStatements;
import weftex.store.testing.MariaDbServer;

/** A saved copy loads with the plain client, and comes back exactly. */
class SavedCopyTest {
  private static final CopySaver.About ABOUT =
      new CopySaver.About("skerrow", "2026-11-28T10:00:00Z", "weftex test");

  /** Every type, and values that are easily lost. */
  private static final List<String> MARIADB =
      List.of(
          "CREATE TABLE s_types (id BIGINT UNSIGNED PRIMARY KEY, t TINYINT, d DECIMAL(30,10), f FLOAT,"
              + " g DOUBLE, b BIT(10), day DATE, at DATETIME(6), ts TIMESTAMP(3) NULL, tm TIME(2), y"
              + " YEAR, c CHAR(5), l VARCHAR(20) CHARACTER SET latin1, j VARCHAR(20) CHARACTER SET"
              + " sjis, x TEXT CHARACTER SET utf8mb4, bin BINARY(4), bl LONGBLOB, e ENUM('a', 'b'), s"
              + " SET('p', 'q'), js JSON, u UUID, ip INET6, p POINT, gen INT AS (t + 1) STORED, inv"
              + " INT INVISIBLE) DEFAULT CHARSET utf8mb4",
          "INSERT INTO s_types (id, t, d, f, g, b, day, at, ts, tm, y, c, l, j, x, bin, bl, e, s, js, u,"
              + " ip, p, inv) VALUES (18446744073709551615, -1, 12345678901234567890.0123456789, 1.1,"
              + " 0.1e-300, b'1010101010', '0000-00-00', '2026-02-31 12:00:00.123456', '2026-11-28"
              + " 10:00:00.123', '-100:00:00.55', 2026, 'a ', 'Fähre €', _utf8mb4'日本',"
              + " 'it''s \\\\ \\n\\r\\0\\Z \"x\" ⛴ --', x'00ff0000', x'00275c0a1aff', 'a', 'p,q', '{\"a\": [1]}',"
              + " '123e4567-e89b-12d3-a456-426655440000', '::1', ST_GeomFromText('POINT(1 2)'), 7)",
          "INSERT INTO s_types (id) VALUES (0)",
          "INSERT IGNORE INTO s_types (id, e, x) VALUES (5, 'nonesuch', '')",
          "CREATE TABLE `s_we``ird` (`k y` VARCHAR(10), v INT)",
          "INSERT INTO `s_we``ird` VALUES ('a', 1), ('a', 1), (NULL, NULL)",
          "CREATE TABLE s_tree (id INT AUTO_INCREMENT PRIMARY KEY, parent INT, CONSTRAINT up FOREIGN KEY"
              + " (parent) REFERENCES s_tree (id), FOREIGN KEY (parent) REFERENCES s_tree (id)) AUTO_INCREMENT"
              + " = 90",
          "INSERT INTO s_tree VALUES (8, NULL), (7, 8)",
          "CREATE TABLE s_log (n INT)",
          "CREATE VIEW s_a AS SELECT * FROM s_tree",
          "CREATE VIEW s_0 AS SELECT * FROM s_a",
          "CREATE TRIGGER s_seen AFTER INSERT ON s_tree FOR EACH ROW BEGIN INSERT INTO s_log VALUES"
              + " (NEW.id); END",
          "CREATE TABLE other (n INT)",
          "INSERT INTO other VALUES (1)");

  private static final List<String> SQLITE =
      List.of(
          "CREATE TABLE s_types (id INTEGER PRIMARY KEY AUTOINCREMENT, any, x TEXT COLLATE NOCASE, gen AS"
              + " (id + 1))",
          "INSERT INTO s_types (any, x) VALUES (1, 'it''s' || char(10) || char(13) || '\\n ⛴'), (1.5, ''),"
              + " (9e999, NULL), (x'00ff', 'a' || char(0) || 'b'), ('007', CAST(x'ff' AS TEXT)), (-7,"
              + " '-- ;')",
          "DELETE FROM s_types WHERE id = 6",
          "CREATE TABLE s_pairs (a, b, PRIMARY KEY (a, b)) WITHOUT ROWID",
          "INSERT INTO s_pairs VALUES ('x', 1), ('X', 2)",
          "CREATE TABLE s_log (n)",
          "CREATE INDEX s_by_x ON s_types (x)",
          "CREATE VIEW s_a AS SELECT * FROM s_types",
          "CREATE TRIGGER s_seen AFTER INSERT ON s_types BEGIN INSERT INTO s_log VALUES (NEW.id); END",
          "CREATE TABLE other (n)",
          "INSERT INTO other VALUES (1)");

  @TempDir Path folder;

  private CopySpec make(boolean server) throws Exception {
    Path file = folder.resolve("live.db");
    if (!server) {
      Files.write(file, new byte[0]);
    }
    CopySpec spec =
        server
            ? MariaDbServer.get().spec("live", MariaDbServer.get().newDatabase(), "s_")
            : new CopySpec.SqliteFile("live", "s_", file);
    run(spec, server ? MARIADB : SQLITE);
    return spec;
  }

  private static void run(CopySpec spec, List<String> statements) throws Exception {
    try (Connection connection = Connecting.open(spec);
        Statement statement = connection.createStatement()) {
      for (String sql : statements) {
        statement.execute(sql);
      }
    }
  }

  private static List<String> ask(CopySpec spec, String sql) throws Exception {
    List<String> answers = new ArrayList<>();
    try (Connection connection = Connecting.open(spec);
        Statement statement = connection.createStatement();
        ResultSet rows = statement.executeQuery(sql)) {
      while (rows.next()) {
        answers.add(rows.getString(1));
      }
    }
    return answers;
  }

  private Path save(CopySpec spec, String name) throws Exception {
    Path file = folder.resolve(name);
    CopySaver.save(spec, new CopySaver.Place(file, AtRest.CLEAR), ABOUT, rows -> {});
    return file;
  }

  /** Everything in the file but what it says of its place. */
  private static String body(Path file) throws Exception {
    try (InputStream in = PackedFile.unpack(Files.newInputStream(file))) {
      String text = new String(in.readAllBytes(), StandardCharsets.UTF_8);
      return text.lines()
          .filter(line -> !line.startsWith("-- place") && !line.startsWith("-- sha256"))
          .collect(Collectors.joining("\n"));
    }
  }

  @Test
  void everyTypeLoadsWithTheServersOwnClient() throws Exception {
    CopySpec live = make(true);
    Path file = save(live, "live.sql");
    CopySpec.Server loaded =
        (CopySpec.Server) MariaDbServer.get().spec("live", MariaDbServer.get().newDatabase(), "s_");
    assertThat(MariaDbServer.get().load(loaded.database(), file)).isEmpty();
    for (String table : List.of("s_types", "`s_we``ird`", "s_tree", "s_log")) {
      assertThat(checksum(loaded, table)).as(table).isEqualTo(checksum(live, table));
    }
    assertThat(body(save(loaded, "again.sql"))).isEqualTo(body(file));
    // And a second time over what is there.
    assertThat(MariaDbServer.get().load(loaded.database(), file)).isEmpty();
    assertThat(body(save(loaded, "again.sql"))).isEqualTo(body(file));
    run(loaded, List.of("INSERT INTO s_tree VALUES (NULL, 7)"));
    assertThat(ask(loaded, "SELECT n FROM s_log ORDER BY 1")).containsExactly("90");
  }

  private static String checksum(CopySpec spec, String table) throws Exception {
    try (Connection connection = Connecting.open(spec);
        Statement statement = connection.createStatement();
        ResultSet rows = statement.executeQuery("CHECKSUM TABLE " + table + " EXTENDED")) {
      rows.next();
      return rows.getString(2);
    }
  }

  @Test
  void anSqliteFileIsReadStatementByStatement() throws Exception {
    CopySpec live = make(false);
    Path file = save(live, "live.sql");
    Files.write(folder.resolve("loaded.db"), new byte[0]);
    CopySpec loaded = new CopySpec.SqliteFile("live", "s_", folder.resolve("loaded.db"));
    List<String> statements = new ArrayList<>();
    try (InputStream in = Files.newInputStream(file)) {
      SqlStatements read = new SqlStatements(in, false);
      for (var next = read.next(); next.isPresent(); next = read.next()) {
        statements.add(next.get().text());
      }
    }
    run(loaded, statements);
    assertThat(body(save(loaded, "again.sql"))).isEqualTo(body(file));
    assertThat(ask(loaded, "SELECT typeof(any) || typeof(x) FROM s_types ORDER BY id"))
        .isEqualTo(ask(live, "SELECT typeof(any) || typeof(x) FROM s_types ORDER BY id"));
  }

  @ParameterizedTest
  @ValueSource(booleans = {false, true})
  void aRestoredCopyIsAsItWasAndComesBackInOneStep(boolean server) throws Exception {
    CopySpec live = make(server);
    String before = body(save(live, "live.sql.zst"));
    run(
        live,
        List.of(
            "UPDATE s_types SET x = 'changed'",
            "DELETE FROM s_types WHERE id = 5",
            server ? "INSERT INTO s_tree VALUES (70, 7)" : "INSERT INTO s_types (id) VALUES (70)",
            "CREATE TABLE s_newer (id INTEGER PRIMARY KEY)",
            "DROP TRIGGER s_seen",
            "CREATE TRIGGER s_later AFTER INSERT ON "
                + (server
                    ? "s_types FOR EACH ROW INSERT INTO s_log VALUES (1)"
                    : "s_types BEGIN INSERT INTO s_log VALUES (1); END"),
            "INSERT INTO other VALUES (2)"));
    String changed = body(save(live, "changed.sql"));
    SavedCopy saved = SavedCopy.open(folder.resolve("live.sql.zst"), AtRest.CLEAR);
    try (Restorer restorer = Restorer.load(live, saved, done -> {})) {
      // Nothing is touched before the switch.
      assertThat(body(save(live, "meanwhile.sql"))).isEqualTo(changed);
      assertThat(restorer.since())
          .containsEntry("s_types", new Restoring.Since(server ? 0 : 1, server ? 2 : 4))
          .containsEntry("s_log", new Restoring.Since(1, 0))
          .hasSize(server ? 3 : 2);
      assertThat(restorer.hasAside()).isFalse();
      run(live, List.of("INSERT INTO other VALUES (3)"));
      restorer.switchOver();
    }
    // The name of a constraint exists once in a database, and the table before has it.
    assertThat(body(save(live, "restored.sql")).replaceAll("`up_\\w+`", "`up`")).isEqualTo(before);
    // Tables of others keep what came to them, at any time.
    run(live, List.of("INSERT INTO other VALUES (4)"));
    try (Restorer restorer = Restorer.of(live)) {
      assertThat(restorer.hasAside()).isTrue();
      restorer.back();
      assertThat(restorer.hasAside()).isFalse();
    }
    assertThat(body(save(live, "back.sql"))).isEqualTo(changed);
    assertThat(ask(live, "SELECT n FROM other")).containsExactly("1", "2", "3", "4");
  }

  @ParameterizedTest
  @ValueSource(strings = {"live.sql", "live.sql.gz", "live.sql.zst"})
  void aFileThatIsCutOrAlteredIsRefused(String name) throws Exception {
    CopySpec live = make(false);
    byte[] whole = Files.readAllBytes(save(live, name));
    Path file = folder.resolve("bad" + name);
    for (int length : new int[] {0, 20, whole.length / 2, whole.length - 1}) {
      Files.write(file, java.util.Arrays.copyOf(whole, length));
      assertRefused(live, file);
    }
    byte[] altered = whole.clone();
    altered[whole.length / 2] ^= 1;
    Files.write(file, altered);
    assertRefused(live, file);
    Files.writeString(file, "CREATE TABLE s_types (id INT);");
    assertRefused(live, file);
    assertRefused(live, folder);
    CopySpec other = new CopySpec.SqliteFile("live", "t_", folder.resolve("live.db"));
    Files.write(file, whole);
    assertRefused(other, file);
    assertThat(Files.exists(folder.resolve("live.db-weftex-new"))).isFalse();
  }

  private static void assertRefused(CopySpec spec, Path file) {
    Refusal refusal =
        catchThrowableOfType(
            Refusal.class,
            () -> Restorer.load(spec, SavedCopy.open(file, AtRest.CLEAR), done -> {}).close());
    assertThat(refusal).isNotNull().hasMessageContaining("Nothing was changed");
  }
}
