package weftex.cli.faults;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Random;
import java.util.concurrent.CompletableFuture;
import org.junit.jupiter.api.Tag;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import weftex.cli.Program;
import weftex.store.testing.MariaDbServer;

/**
 * Kills the program between its first and its last write, spread evenly over the commands of an
 * apply and of an undo. {@code -Dkills=1000} does so a thousand times ({@code bench/kills}).
 */
@Tag("full")
class KillsTest {
  private static final int FEW = 30;

  @TempDir Path folder;

  /** Kills on one site. */
  private static final int PART = 250;

  /** The server keeps room in a table for each column that came and went, until it is rebuilt. */
  private static final int REBUILT_AFTER = 10;

  private final List<String> wrong = new ArrayList<>();
  private Harbour harbour;
  private int committed;
  private int done;

  @Test
  void afterEveryKillLiveIsWholeAndTheNextCommandTellsTheTruth() throws Exception {
    int kills = Integer.getInteger("kills", FEW);
    Random random = new Random(20261127);
    try {
      for (int left = kills, part = 0; left > 0; left -= PART, part++) {
        part(Files.createDirectory(folder.resolve("part-" + part)), Math.min(PART, left), random);
      }
    } finally {
      System.out.println(
          done + " kills, " + committed + " of them behind the commit: " + wrong.size() + " wrong");
    }
    assertThat(done).isEqualTo(kills);
    assertThat(wrong).isEmpty();
  }

  private void part(Path own, int kills, Random random) throws Exception {
    try (Harbour some = new Harbour(MariaDbServer.get(), own).drafted()) {
      harbour = some;
      // The ledger's table is made once, before all of this.
      ok(some.weftex("apply"));
      ok(some.weftex("undo"));
      kill("apply", kills / 2, random);
      some.server.sql(some.live, "ALTER TABLE buoys FORCE;");
      ok(some.weftex("apply"));
      kill("undo", kills - kills / 2, random);
    }
  }

  private static void ok(Program.Ran run) {
    assertThat(run.status()).as(run.out() + run.err()).isZero();
  }

  private void kill(String command, int times, Random random) throws Exception {
    harbour.line.whole();
    String start = harbour.dump();
    ok(harbour.weftex(command));
    String end = harbour.dump();
    List<String> commands = harbour.line.seen();
    int first = first(commands);
    int last = last(commands);
    assertThat(first).isPositive();
    assertThat(last).isGreaterThan(first + 10);
    takeBack(command);
    for (int i = 0; i < times; i++) {
      if (i % REBUILT_AFTER == 0) {
        harbour.server.sql(harbour.live, "ALTER TABLE buoys FORCE;");
      }
      int at = first + 1 + (int) ((long) i * (last - first + 1) / times);
      boolean afterwards = random.nextBoolean();
      CompletableFuture<Process> dying = new CompletableFuture<>();
      harbour.line.breakAt(at, afterwards, () -> dying.join().destroyForcibly());
      dying.complete(harbour.start(command));
      Harbour.finish(dying.join());
      harbour.line.whole();
      judge(command, at + (afterwards ? " after " : " before ") + commands.get(at - 1), start, end);
      done++;
    }
  }

  /** The first command that changes anything. */
  private static int first(List<String> commands) {
    for (int i = 0; i < commands.size(); i++) {
      if (commands
          .get(i)
          .matches("(?s)(CREATE TABLE `|ALTER|INSERT INTO `|UPDATE `|DELETE FROM `).*")) {
        return i;
      }
    }
    return -1;
  }

  private static int last(List<String> commands) {
    for (int i = commands.size() - 1; i >= 0; i--) {
      if (commands.get(i).matches("(?s)(COMMIT|DROP TABLE|ALTER).*")) {
        return i;
      }
    }
    return -1;
  }

  private void judge(String command, String where, String start, String end) {
    Program.Ran history = harbour.weftex("history");
    String now = harbour.dump();
    boolean isDone = now.equals(end);
    committed += isDone ? 1 : 0;
    if (!isDone && !now.equals(start)) {
      wrong.add(command + " " + where + ": a half state");
    }
    boolean said = history.err().contains("was interrupted. live has");
    boolean truth =
        history.status() == 0
            && (!said
                || history
                    .err()
                    .contains(
                        "was interrupted. live has "
                            + (isDone ? "all" : "none")
                            + " of its changes."));
    if (!truth || isDone && !said || history.out().contains("under way")) {
      wrong.add(command + " " + where + ": a false word: " + history.err() + history.out());
    }
    if (isDone) {
      takeBack(command);
    }
    if (!harbour.dump().equals(start)) {
      wrong.add(command + " " + where + ": what follows does not lead back");
    }
  }

  private void takeBack(String command) {
    ok(harbour.weftex(command.equals("apply") ? "undo" : "apply"));
  }
}
