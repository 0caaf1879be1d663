package weftex.store.sqltext;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.catchThrowableOfType;

import java.io.ByteArrayInputStream;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;
import weftex.store.Refusal;

class SqlStatementsTest {
  private static List<SqlStatements.Statement> read(String text, boolean backslash)
      throws IOException {
    SqlStatements statements =
        new SqlStatements(
            new ByteArrayInputStream(text.getBytes(StandardCharsets.UTF_8)), backslash);
    List<SqlStatements.Statement> all = new ArrayList<>();
    for (Optional<SqlStatements.Statement> next = statements.next();
        next.isPresent();
        next = statements.next()) {
      all.add(next.get());
    }
    return all;
  }

  private static List<String> texts(String text, boolean backslash) throws IOException {
    return read(text, backslash).stream().map(SqlStatements.Statement::text).toList();
  }

  @Test
  void semicolonsInStringsNamesAndCommentsEndNothing() throws Exception {
    assertThat(
            texts(
                "-- a; b\nINSERT INTO `a;b` VALUES ('x;\\';y', \"q;\"); # c;\n/* d; */ SET x = 1;;\nSELECT 2",
                true))
        .containsExactly("INSERT INTO `a;b` VALUES ('x;\\';y', \"q;\")", "SET x = 1", "SELECT 2");
    assertThat(texts("INSERT INTO [a;b] VALUES ('\\', 'it''s;');", false))
        .containsExactly("INSERT INTO [a;b] VALUES ('\\', 'it''s;')");
  }

  @Test
  void whatAServerExecutesWithinACommentStays() throws Exception {
    assertThat(texts("/*!40101 SET a = ';' */; /* no */ SELECT 1 - -1;", true))
        .containsExactly("/*!40101 SET a = ';' */", "SELECT 1 - -1");
  }

  @Test
  void aTriggerIsOneStatement() throws Exception {
    String body = "CREATE TRIGGER t AFTER INSERT ON a BEGIN UPDATE b SET n = 1; END";
    assertThat(texts("DELIMITER ;;\n" + body + ";;\ndelimiter ;\nSELECT 1;", true))
        .containsExactly(body, "SELECT 1");
    String casing =
        "CREATE TRIGGER t AFTER INSERT ON a BEGIN SELECT CASE WHEN 1 THEN 2 END; DELETE FROM b; END";
    assertThat(texts(casing + ";\nSELECT 1;", false)).containsExactly(casing, "SELECT 1");
  }

  @Test
  void lettersAndLinesAreKept() throws Exception {
    assertThat(read("\r\n\n  SELECT 'Fähre\n⛴';\nSELECT 2;", true))
        .containsExactly(
            new SqlStatements.Statement("SELECT 'Fähre\n⛴'", 3),
            new SqlStatements.Statement("SELECT 2", 5));
    byte[] latin = "SELECT 'F\u00e4hre';".getBytes(StandardCharsets.ISO_8859_1);
    SqlStatements statements = new SqlStatements(new ByteArrayInputStream(latin), true);
    assertThatThrownBy(statements::next).hasMessageContaining("line 1 is not in UTF-8");
  }

  @ParameterizedTest
  @ValueSource(
      strings = {
        "DROP DATABASE live",
        "GRANT ALL ON *.* TO x",
        "SET GLOBAL read_only = 0",
        "SET x = (SELECT 1)",
        "INSERT INTO `users` (`id`) VALUES (1)",
        "INSERT INTO `pages` (`id`) VALUES (LOAD_FILE('/etc/passwd'))",
        "INSERT INTO `pages` (`id`) VALUES (1) ON DUPLICATE KEY UPDATE id = 2",
        "INSERT INTO `pages` (`id`) VALUES ((SELECT 1))",
        "INSERT INTO `pages` (`id`) SELECT 1",
        "CREATE TABLE `pages` (id INT) AS SELECT * FROM users",
        "CREATE TABLE `pages` (id INT) DATA DIRECTORY = '/tmp'",
        "CREATE TABLE `other` (id INT)",
        "LOAD DATA INFILE 'x' INTO TABLE pages",
        "ALTER TABLE pages ADD x INT",
        "UPDATE pages SET id = 1",
        "ATTACH 'x' AS y",
      })
  void whatNoSavedCopyHasIsRefusedWithItsLine(String sql) throws Exception {
    SqlStatements.Statement statement = read("\n" + sql + ";", true).get(0);
    Refusal refusal =
        catchThrowableOfType(
            Refusal.class, () -> SavedStatement.of(statement, List.of("pages"), true));
    assertThat(refusal).as(sql).isNotNull().hasMessageContaining("Line 2 of the file");
  }

  @Test
  void valuesOfEveryKindPass() throws Exception {
    String mariadb =
        "INSERT INTO `pages` (`a`, `b(`) VALUES\n(1, -2.5, 1.0E-10, NULL, 0xFF, 'it\\'s', '')";
    SqlStatements.Statement read = read(mariadb + ";", true).get(0);
    assertThat(SavedStatement.of(read, List.of("pages"), true).kind())
        .isEqualTo(SavedStatement.Kind.ROWS);
    String sqlite =
        "INSERT INTO \"pages\" (\"a\") VALUES\n(X'00ff', replace(replace('a\\nb', '\\n', char(10)), '\\r', char(13)), CAST(X'00' AS TEXT), 9e999)";
    assertThat(SavedStatement.of(read(sqlite + ";", false).get(0), List.of("pages"), false).table())
        .isEqualTo("pages");
  }
}
