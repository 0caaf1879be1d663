package weftex.cli.faults;

import static org.assertj.core.api.Assertions.assertThat;
import static org.junit.jupiter.api.Assumptions.assumeTrue;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.List;
import java.util.Random;
import java.util.concurrent.CompletableFuture;
import java.util.concurrent.TimeUnit;
import java.util.concurrent.atomic.AtomicBoolean;
import java.util.concurrent.atomic.AtomicInteger;
import java.util.stream.Stream;
import org.junit.jupiter.api.Tag;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import weftex.cli.Program;
import weftex.store.ssh.SshLines;
import weftex.store.testing.MariaDbServer;
import weftex.store.testing.SshServer;

/** Whatever breaks while the program writes, live is whole, and what is said of it is true. */
@Tag("full")
class FaultsTest {
  @TempDir Path folder;
  private final Random random = new Random(7);

  private static void ok(Program.Ran run) {
    assertThat(run.status()).as(run.out() + run.err()).isZero();
  }

  /** Live must be as before or as after, and the words must fit. */
  private static void judge(
      Harbour harbour, String what, Program.Ran failed, String start, String end) {
    Program.Ran history = harbour.weftex("history");
    ok(history);
    String now = harbour.dump();
    boolean done = now.equals(end);
    assertThat(done || now.equals(start)).as(what + ": half a state").isTrue();
    String said = failed.err();
    if (done) {
      assertThat(said).as(what).doesNotContain("othing was changed", "o row was changed");
    } else {
      assertThat(said)
          .as(what)
          .doesNotContain("is done on live", "are made and permanent")
          .containsAnyOf("othing was changed", "o row was changed", "ither all of it was written");
    }
    assertThat(said).as(what).doesNotContain("unexpected failure", "Exception");
    assertThat(failed.status()).as(what + said).isIn(3, 4);
  }

  @Test
  void theLineIsCutAtAnyCommand() throws Exception {
    try (Harbour harbour = new Harbour(MariaDbServer.get(), folder).drafted()) {
      ok(harbour.weftex("apply"));
      ok(harbour.weftex("undo"));
      String before = harbour.dump();
      harbour.line.whole();
      ok(harbour.weftex("apply"));
      List<String> ofApply = harbour.line.seen();
      String after = harbour.dump();
      harbour.line.whole();
      ok(harbour.weftex("undo"));
      List<String> ofUndo = harbour.line.seen();
      cut(harbour, "apply", ofApply, before, after);
      ok(harbour.weftex("apply"));
      cut(harbour, "undo", ofUndo, after, before);
    }
  }

  @Test
  void theLineOverSshIsCutAtAnyCommand() throws Exception {
    assumeTrue(SshServer.isHere(), "there is no sshd on this machine");
    SshServer ssh = new SshServer(Files.createDirectory(folder.resolve("ssh")));
    try (Harbour harbour = new Harbour(MariaDbServer.get(), folder).over(ssh).drafted()) {
      ok(harbour.weftex("apply"));
      ok(harbour.weftex("undo"));
      String before = harbour.dump();
      harbour.line.whole();
      ok(harbour.weftex("apply"));
      List<String> ofApply = harbour.line.seen();
      String after = harbour.dump();
      ok(harbour.weftex("undo"));
      cut(harbour, "apply", ofApply, before, after, ssh::cut);
    } finally {
      SshLines.close();
      ssh.close();
    }
  }

  private void cut(
      Harbour harbour, String command, List<String> commands, String start, String end) {
    cut(harbour, command, commands, start, end, () -> {});
  }

  private void cut(
      Harbour harbour,
      String command,
      List<String> commands,
      String start,
      String end,
      Runnable also) {
    int commit = commands.lastIndexOf("COMMIT") + 1;
    assertThat(commit).isPositive();
    int[] places = new int[14];
    for (int i = 0; i < places.length; i++) {
      // Around the commit, and anywhere.
      places[i] = i < 4 ? commit - 1 + i % 3 : 1 + random.nextInt(commands.size());
    }
    for (int i = 0; i < places.length; i++) {
      boolean afterwards = i % 2 == 0;
      harbour.line.breakAt(places[i], afterwards, also);
      Program.Ran run = harbour.weftex(command);
      harbour.line.whole();
      String what = command + " cut at " + places[i] + " " + commands.get(places[i] - 1);
      if (run.status() != 0) {
        judge(harbour, what, run, start, end);
      }
      if (harbour.dump().equals(end)) {
        ok(harbour.weftex(command.equals("apply") ? "undo" : "apply"));
      }
      assertThat(harbour.dump()).as(what).isEqualTo(start);
    }
  }

  @Test
  void theServerIsKilledAndComesBack() throws Exception {
    MariaDbServer own = MariaDbServer.another("--skip-ssl", "--innodb-flush-log-at-trx-commit=1");
    try (Harbour harbour = new Harbour(own, folder).drafted()) {
      ok(harbour.weftex("apply"));
      ok(harbour.weftex("undo"));
      String before = harbour.dump();
      harbour.line.whole();
      ok(harbour.weftex("apply"));
      int commands = harbour.line.seen().size();
      String after = harbour.dump();
      ok(harbour.weftex("undo"));
      for (int i = 0; i < 6; i++) {
        int at = commands / 3 + random.nextInt(commands * 2 / 3);
        harbour.line.breakAt(
            at,
            i % 2 == 0,
            () -> {
              try {
                own.kill();
              } catch (InterruptedException e) {
                Thread.currentThread().interrupt();
              }
            });
        Program.Ran run = harbour.weftex("apply");
        own.restart();
        harbour.line.whole();
        if (run.status() != 0) {
          judge(harbour, "server killed at " + at, run, before, after);
        }
        if (harbour.dump().equals(after)) {
          ok(harbour.weftex("undo"));
        }
        assertThat(harbour.dump()).isEqualTo(before);
      }
    } finally {
      own.kill();
    }
  }

  @Test
  void aServerThatStandsStillForAWhileIsWaitedFor() throws Exception {
    MariaDbServer own = MariaDbServer.another("--skip-ssl");
    try (Harbour harbour = new Harbour(own, folder).drafted()) {
      CompletableFuture<Boolean> stopped = new CompletableFuture<>();
      Thread waker =
          new Thread(
              () -> {
                try {
                  stopped.join();
                  TimeUnit.SECONDS.sleep(3);
                  own.signal("CONT");
                } catch (InterruptedException | IOException e) {
                  throw new IllegalStateException(e);
                }
              });
      waker.start();
      Process apply = harbour.start("apply");
      own.signal("STOP");
      stopped.complete(true);
      ok(Harbour.finish(apply));
      waker.join();
    } finally {
      own.kill();
    }
  }

  @Test
  void whatAWriterCommitsMeanwhileIsNeverLost() throws Exception {
    try (Harbour harbour = new Harbour(MariaDbServer.get(), folder).drafted()) {
      AtomicBoolean done = new AtomicBoolean();
      AtomicInteger written = new AtomicInteger();
      Thread writer = new Thread(() -> write(harbour, done, written));
      writer.start();
      for (int i = 0; i < 4; i++) {
        ok(harbour.weftex("apply"));
        ok(harbour.weftex("undo"));
      }
      done.set(true);
      writer.join();
      assertThat(written.get()).isGreaterThan(50);
      assertThat(harbour.server.sql(harbour.live, "SELECT COUNT(*) FROM visits;").strip())
          .isEqualTo("" + written.get());
    }
  }

  private static void write(Harbour harbour, AtomicBoolean done, AtomicInteger written) {
    String url =
        "jdbc:mariadb://127.0.0.1:"
            + harbour.server.port()
            + "/"
            + harbour.live
            + "?user=root&sslMode=disable";
    try (Connection connection = DriverManager.getConnection(url);
        Statement statement = connection.createStatement()) {
      while (!done.get()) {
        statement.executeUpdate("INSERT INTO visits (who) VALUES ('a visitor')");
        written.incrementAndGet();
        TimeUnit.MILLISECONDS.sleep(5);
      }
    } catch (SQLException | InterruptedException e) {
      throw new IllegalStateException(e);
    }
  }

  @Test
  void theDiskIsFullAtAnyWrite() throws Exception {
    try (Harbour harbour = new Harbour(MariaDbServer.get(), folder).drafted()) {
      ok(harbour.weftex("apply"));
      String after = harbour.dump();
      ok(harbour.weftex("undo"));
      String before = harbour.dump();
      int failed = 0;
      for (int blocks : new int[] {1, 2, 8, 33, 64, 130, 200, 260, 300}) {
        Program.Ran run = limited(blocks, "apply");
        if (run.status() != 0) {
          failed++;
          judge(harbour, "apply on a disk of " + blocks + " blocks", run, before, after);
        } else {
          ok(harbour.weftex("undo"));
        }
        assertThat(harbour.dump()).isEqualTo(before);
      }
      assertThat(failed).isGreaterThan(3);
      Program.Ran draft = limited(8, "draft");
      assertThat(draft.status()).as(draft.err()).isEqualTo(3);
      assertThat(draft.err()).contains("File too large", "Nothing was changed");
      Program.Ran report = limited(1, "report", "-o", "page.html");
      assertThat(report.err())
          .contains("The report could not be written to", "Nothing was changed");
      try (Stream<Path> left = Files.walk(folder)) {
        assertThat(left).noneMatch(file -> file.toString().endsWith(".partial"));
      }
    }
  }

  /** Runs the program in a shell that lets no file grow beyond some blocks of 1,024 bytes. */
  private Program.Ran limited(int blocks, String... arguments) throws IOException {
    return Program.finish(new Program(folder).through("ulimit -f " + blocks).start(arguments));
  }

  @Test
  void aFolderThatCantBeWrittenTo() throws Exception {
    try (Harbour harbour = new Harbour(MariaDbServer.get(), folder).drafted()) {
      String before = harbour.dump();
      // Where the program runs as root no right is missing, so a file stands in the way.
      Files.writeString(folder.resolve(".weftex/receipts"), "");
      Program.Ran run = harbour.weftex("apply");
      assertThat(run.status()).as(run.err()).isIn(3, 4);
      assertThat(run.err()).contains("othing was changed").doesNotContain("unexpected");
      assertThat(harbour.dump()).isEqualTo(before);
    }
  }

  @Test
  void theVictimOfADeadlockChangesNothingAndSaysSo() throws Exception {
    try (Harbour harbour = new Harbour(MariaDbServer.get(), folder).drafted()) {
      String before = harbour.dump();
      String url =
          "jdbc:mariadb://127.0.0.1:"
              + harbour.server.port()
              + "/"
              + harbour.live
              + "?user=root&sslMode=disable";
      try (Connection connection = DriverManager.getConnection(url);
          Statement statement = connection.createStatement()) {
        connection.setAutoCommit(false);
        // Heavier than the apply, so that the server gives the apply up.
        statement.executeUpdate("INSERT INTO visits (who) SELECT seq FROM seq_1_to_20000");
        statement.executeUpdate("UPDATE tides SET note = 'theirs' WHERE id = 390");
        Process apply = harbour.start("apply");
        awaitWaiting(harbour);
        statement.executeUpdate("UPDATE tides SET note = 'mine' WHERE id = 3");
        connection.rollback();
        Program.Ran run = Harbour.finish(apply);
        assertThat(run.status()).as(run.err()).isIn(0, 4);
        if (run.status() == 4) {
          assertThat(run.err()).contains("Deadlock", "Everything was rolled back");
          assertThat(harbour.dump()).isEqualTo(before);
        }
      }
    }
  }

  private static void awaitWaiting(Harbour harbour) throws InterruptedException {
    for (int i = 0; i < 60; i++) {
      String waiting =
          harbour.server.sql("", "SELECT COUNT(*) FROM information_schema.INNODB_LOCK_WAITS;");
      if (!waiting.strip().equals("0")) {
        return;
      }
      // The server looks again only for who has not asked for a tenth of a second.
      TimeUnit.MILLISECONDS.sleep(170);
    }
    throw new AssertionError("the apply never came to wait");
  }

  @Test
  void historyWhileAnApplyIsAtWorkLeavesItsReceiptAlone() throws Exception {
    try (Harbour harbour = new Harbour(MariaDbServer.get(), folder).drafted()) {
      for (int round = 0; round < 3; round++) {
        Process apply = harbour.start("apply");
        while (apply.isAlive()) {
          Program.Ran history = harbour.weftex("history");
          ok(history);
          assertThat(history.err()).doesNotContain("has none of its changes");
        }
        ok(Harbour.finish(apply));
        Program.Ran history = harbour.weftex("history");
        assertThat(history.out()).contains("done").doesNotContain("rolled back");
        ok(harbour.weftex("undo"));
      }
    }
  }

  @Test
  void ofTwoRunsAtOnceOneWaitsOrIsRefused() throws Exception {
    try (Harbour harbour = new Harbour(MariaDbServer.get(), folder).drafted()) {
      String before = harbour.dump();
      for (String command : List.of("apply", "undo", "apply", "undo")) {
        Process one = harbour.start(command);
        Process other = harbour.start(command);
        Program.Ran first = Harbour.finish(one);
        Program.Ran second = Harbour.finish(other);
        for (Program.Ran run : List.of(first, second)) {
          assertThat(run.status()).as(run.out() + run.err()).isIn(0, 2, 4);
          assertThat(run.err()).doesNotContain("unexpected");
        }
        assertThat(Stream.of(first, second).filter(run -> run.status() == 0)).isNotEmpty();
      }
      assertThat(harbour.dump()).isEqualTo(before);
    }
  }
}
