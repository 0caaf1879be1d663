package weftex.cli;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.stream.Stream;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.Tag;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import weftex.store.scratch.PrivateServer;
import weftex.store.testing.MariaDbServer;

/** Live is a server's file, and no server is named into which it could be loaded. */
@Tag("full")
class OwnServerTest {
  @TempDir Path folder;
  private ServerSite site;

  @AfterEach
  void stop() {
    PrivateServer.stopAll();
  }

  private Program program() throws Exception {
    Path programs = MariaDbServer.get().programs(folder.resolve("bin"));
    return new Program(folder).with("PATH", programs + ":" + System.getenv("PATH"));
  }

  private Program.Ran done(String... arguments) throws Exception {
    Program.Ran ran = program().run(arguments);
    assertThat(ran.status()).as(ran.err()).isIn(0, 1);
    return ran;
  }

  private void export(String copy) throws Exception {
    String database = copy.equals("live") ? site.live : site.staging;
    Files.write(folder.resolve(copy + ".sql"), site.server.dump(database, "utf8mb4"));
  }

  private static List<ProcessHandle> servers(Path of) {
    return ProcessHandle.allProcesses()
        .filter(
            each ->
                each.info().commandLine().filter(l -> l.contains("--datadir=" + of)).isPresent())
        .toList();
  }

  @Test
  void aWeekOnFilesAloneWithAKillInBetween() throws Exception {
    site = new ServerSite(folder);
    Files.writeString(
        folder.resolve("weftex.yaml"),
        Files.readString(folder.resolve("weftex.yaml")).replaceFirst("(?s)copies:.*", "")
            + "copies:\n  staging: {sql: staging.sql, prefix: skf_}\n  live: {sql: live.sql, prefix: skf_}\n");
    export("staging");
    export("live");
    done("mark");
    site.week();
    export("staging");
    export("live");
    PrivateServer.stopAll();
    Path scratch = folder.resolve(".weftex/scratch/server").toAbsolutePath();
    assertThat(servers(scratch)).isEmpty();
    // Two at once share it, and the last one stops it.
    Process one = program().start("compare");
    Process other = program().start("compare");
    Program.Ran first = Program.finish(one);
    assertThat(first.status()).as(first.err()).isEqualTo(1);
    assertThat(Program.finish(other).out()).isEqualTo(first.out());
    assertThat(servers(scratch)).isEmpty();
    // One that is killed leaves it, and the next takes it over.
    Process killed = program().start("draft");
    for (int i = 0; i < 400 && servers(scratch).isEmpty(); i++) {
      Thread.sleep(25);
    }
    killed.destroyForcibly().waitFor();
    Program.Ran drafted = program().runAlone("draft");
    assertThat(drafted.status()).as(drafted.err()).isIn(0, 1);
    assertThat(servers(scratch)).isEmpty();
    done("review", "--take", "conflicts");
    done("review", "--take", "conflicts");
    done("review", "--approve");
    done("apply", "--script", "merge.sql");
    site.server.load(site.live, folder.resolve("merge.sql"));
    export("live");
    assertThat(done("apply", "--confirm").out()).contains("was imported");
    assertThat(program().run("draft").err()).contains("Nothing that was chosen differs");
    // Nothing of the passwords around is told to it.
    try (Stream<Path> files = Files.list(scratch)) {
      assertThat(files.map(file -> file.getFileName().toString()).toList())
          .contains("data", "log", "made-by");
    }
    assertThat(new String(Files.readAllBytes(scratch.resolve("log")), StandardCharsets.UTF_8))
        .contains("ready for connections");
  }
}
