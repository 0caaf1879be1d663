package weftex.cli;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Files;
import java.nio.file.Path;
import org.junit.jupiter.api.Tag;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import weftex.store.testing.MariaDbServer;

/** Values of 16 MB that both copies edited go all the way, in the memory that the program has. */
@Tag("full")
class LongValuesTest {
  @TempDir Path folder;

  @Test
  void valuesOfSixteenMegabytesThatBothCopiesEditedAreDecidedAppliedAndTakenBack()
      throws Exception {
    MariaDbServer server = MariaDbServer.get();
    String staging = server.newDatabase();
    String live = server.newDatabase();
    String create =
        "CREATE TABLE logs (id INT AUTO_INCREMENT PRIMARY KEY, body LONGTEXT, raw LONGBLOB);"
            + "INSERT INTO logs (body) SELECT REPEAT(CONCAT('Sailing ', seq, ' at half past six\n'), 600000) FROM seq_1_to_3;"
            + "INSERT INTO logs (raw) VALUES (REPEAT(UNHEX('00FF10'), 5400000));";
    server.sql(staging, create);
    server.sql(live, create);
    Files.writeString(
        folder.resolve("weftex.yaml"),
        """
        site: skerrow
        model: plain
        roles: {logs: content}
        copies:
          staging:
            mariadb: {host: 127.0.0.1, port: %d, database: %s, user: root}
          live:
            mariadb: {host: 127.0.0.1, port: %d, database: %s, user: root}
        """
            .formatted(server.port(), staging, server.port(), live));
    assertThat(run("mark").status()).isZero();
    server.sql(staging, "UPDATE logs SET body = CONCAT('First of all\n', body);");
    server.sql(live, "UPDATE logs SET body = CONCAT(body, 'Last of all\n');");
    server.sql(staging, "UPDATE logs SET raw = CONCAT(raw, '1') WHERE id = 4;");
    server.sql(live, "UPDATE logs SET raw = CONCAT('2', raw) WHERE id = 4;");
    String digests = "SELECT id, SHA2(body, 256), SHA2(raw, 256) FROM logs;";
    String before = server.sql(live, digests);
    assertThat(run("compare").status()).isEqualTo(1);
    assertThat(run("compare", "--thorough").status()).isEqualTo(1);
    assertThat(run("draft").status()).isEqualTo(1);
    assertThat(run("review", "--list").out()).contains("both-edited", "16200000 bytes");
    assertThat(run("review", "--take", "conflicts").status()).isZero();
    assertThat(run("review", "--approve", "--by", "Mira").status()).isZero();
    assertThat(run("report", "-o", "page.html").status()).isZero();
    assertThat(run("apply").status()).isZero();
    assertThat(server.sql(live, digests)).isEqualTo(server.sql(staging, digests));
    assertThat(run("undo").status()).isZero();
    assertThat(server.sql(live, digests)).isEqualTo(before);
  }

  private Program.Ran run(String... arguments) {
    Program.Ran ran = new Program(folder).runAlone(arguments);
    assertThat(ran.err()).doesNotContain("unexpected", "memory");
    return ran;
  }
}
