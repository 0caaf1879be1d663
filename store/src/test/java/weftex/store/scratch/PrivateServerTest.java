package weftex.store.scratch;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.catchThrowableOfType;

import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.Map;
import java.util.Optional;
import java.util.concurrent.TimeUnit;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import weftex.store.Refusal;
import weftex.store.database.Connecting;
import weftex.store.database.CopySpec;
import weftex.store.database.Tls;
import weftex.store.testing.MariaDbServer;

/** A server of our own, from the machine's programs. */
class PrivateServerTest {
  @TempDir Path temporary;
  private Path folder;
  private PrivateServer server;

  @BeforeEach
  void programs() throws Exception {
    folder = temporary.resolve("scratch").resolve("server");
    Path programs = MariaDbServer.get().programs(temporary.resolve("bin"));
    server =
        PrivateServer.in(
            folder, Map.of("PATH", programs + ":" + System.getenv("PATH"), "SECRET", "pier"));
  }

  @AfterEach
  void stop() {
    server.stop();
  }

  private CopySpec spec(String database) {
    return new CopySpec.Server(
        "live",
        "",
        server.socket().toString(),
        3306,
        database,
        PrivateServer.USER,
        new CopySpec.Password() {
          @Override
          public String fetch() {
            return "";
          }

          @Override
          public String source() {
            return "nowhere";
          }
        },
        Tls.OFF);
  }

  private String sql(String sql) throws SQLException, Refusal {
    try (Connection connection = Connecting.open(spec("mysql"));
        Statement statement = connection.createStatement()) {
      if (!statement.execute(sql)) {
        return "";
      }
      try (ResultSet rows = statement.getResultSet()) {
        return rows.next() ? rows.getString(1) : "";
      }
    }
  }

  private Optional<ProcessHandle> process() throws Exception {
    Path file = folder.resolve("pid");
    return Files.exists(file)
        ? ProcessHandle.of(Long.parseLong(Files.readString(file).strip()))
        : Optional.empty();
  }

  @Test
  void itKeepsItsRowsUntilTheNextTimeAndSurvivesBeingKilled() throws Exception {
    server.start();
    sql("CREATE DATABASE ferries");
    sql("CREATE TABLE ferries.piers (name VARCHAR(40))");
    sql("INSERT INTO ferries.piers VALUES ('Hesk')");
    assertThat(Files.getPosixFilePermissions(folder)).hasSize(3);
    assertThat(PrivateServer.isIdle(folder.resolveSibling("none"))).isFalse();
    ProcessHandle first = process().orElseThrow();
    server.stop();
    assertThat(first.isAlive()).isFalse();
    assertThat(PrivateServer.isIdle(folder)).isTrue();
    server.start();
    assertThat(sql("SELECT name FROM ferries.piers")).isEqualTo("Hesk");
    ProcessHandle second = process().orElseThrow();
    second.destroyForcibly();
    second.onExit().get(20, TimeUnit.SECONDS);
    server.stop();
    server.start();
    assertThat(sql("SELECT name FROM ferries.piers")).isEqualTo("Hesk");
    assertThat(PrivateServer.isIdle(folder)).isFalse();
    // Damaged on the disk, which starts no more.
    server.stop();
    Files.writeString(folder.resolve("data").resolve("ibdata1"), "nonsense");
    server.start();
    sql("CREATE DATABASE ferries");
    // Made by another version, whose tables it may not be able to read.
    server.stop();
    Files.writeString(folder.resolve("made-by"), "mariadbd  Ver 5.1");
    server.start();
    assertThat(
            sql("SELECT COUNT(*) FROM information_schema.SCHEMATA WHERE SCHEMA_NAME = 'ferries'"))
        .isEqualTo("0");
  }

  @Test
  void itEndsEvenIfItsFolderIsGone() throws Exception {
    server.start();
    ProcessHandle process = process().orElseThrow();
    Files.move(folder, folder.resolveSibling("gone"));
    server.stop();
    assertThat(process.isAlive()).isFalse();
  }

  @Test
  void whatDoesNotStartSaysWhy() throws Exception {
    Path program = temporary.resolve("bin").resolve("mariadbd");
    String whole = Files.readString(program);
    Files.writeString(program, "#!/bin/sh\necho nothing here; exit 7\n");
    assertThat(catchThrowableOfType(Refusal.class, server::start))
        .hasMessageContaining("does not say its version: nothing here")
        .hasMessageEndingWith("Nothing was changed.");
    Files.writeString(
        program,
        whole.replace(
            "#!/bin/sh\n",
            "#!/bin/sh\ncase \"$*\" in *--socket*) echo 'ERROR no room'; exit 1;; esac\n"));
    assertThat(catchThrowableOfType(Refusal.class, server::start))
        .hasMessageContaining("it ended at once (ERROR no room)");
    Files.writeString(program, whole);
    server.start();
    assertThat(sql("SELECT 1")).isEqualTo("1");
  }
}
