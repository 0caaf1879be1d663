package weftex.cli.config;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Map;
import java.util.Optional;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import weftex.store.Refusal;
import weftex.store.database.CopySpec;

/** What is written as a pair is what is read again. */
class PairWriterTest {
  @TempDir private Path folder;

  private Pair read(PairWriter.Entry staging, PairWriter.Entry live) throws IOException, Refusal {
    Path file = folder.resolve("weftex.yaml");
    Files.writeString(file, PairWriter.write("skerrow", "plain", staging, live));
    return PairReader.read(file, Map.of("LIVE_PASSWORD", "secret"));
  }

  private static PairWriter.Entry file(String path, boolean isSql) {
    return new PairWriter.Entry(
        Optional.of(new PairWriter.FileEntry(path, isSql)),
        Optional.empty(),
        "",
        Optional.empty(),
        Optional.empty());
  }

  private static PairWriter.Entry server(String host, Optional<String> ssh) {
    return new PairWriter.Entry(
        Optional.empty(),
        Optional.of(
            new PairWriter.ServerEntry(ssh, host, 3307, "site", "weftex", Optional.empty())),
        "",
        Optional.empty(),
        Optional.empty());
  }

  @Test
  void filesAndAServer() throws IOException, Refusal {
    Pair pair =
        read(
            file("staging.db", false).with("skf_", Optional.empty()),
            server("127.0.0.1", Optional.empty()).with("", Optional.of("variable: LIVE_PASSWORD")));
    assertThat(pair.site()).isEqualTo("skerrow");
    assertThat(pair.staging().place()).endsWith("staging.db prefix skf_");
    CopySpec.Server live = (CopySpec.Server) pair.live();
    assertThat(live.address()).isEqualTo("127.0.0.1:3307");
    assertThat(live.database()).isEqualTo("site");
    assertThat(live.user()).isEqualTo("weftex");
    assertThat(live.password().fetch()).isEqualTo("secret");
    assertThat(live.ssh()).isEmpty();
  }

  @Test
  void aServerBehindAnother() throws IOException, Refusal {
    Pair pair =
        read(file("staging.db", false), server("db.internal", Optional.of("deploy@www.example")));
    CopySpec.Server live = (CopySpec.Server) pair.live();
    assertThat(live.ssh().orElseThrow().words()).contains("deploy@www.example");
    assertThat(live.place()).contains(" over ssh ");
  }

  @Test
  void aSocketHasNoPort() {
    String yaml =
        PairWriter.write(
            "skerrow", "plain", file("a.db", false), server("/run/db.sock", Optional.empty()));
    assertThat(yaml).contains("host: /run/db.sock").doesNotContain("port:");
  }

  @Test
  void addressesAndFolders() throws IOException, Refusal {
    Files.createDirectories(folder.resolve("www"));
    String yaml =
        PairWriter.write(
            "skerrow",
            "plain",
            file("a.db", false).withAddress("https://staging.example"),
            file("b.sql", true).withAddress("https://www.example").withFolder("www"));
    assertThat(yaml)
        .contains("sqlite: a.db")
        .contains("sql: b.sql")
        .contains("address: \"https://www.example\"")
        .contains("folder: www");
  }

  @Test
  void whatYamlWouldTakeForSomethingElseIsQuoted() throws IOException, Refusal {
    assertThat(PairWriter.quoted("staging.db")).isEqualTo("staging.db");
    assertThat(PairWriter.quoted("yes: no")).isEqualTo("\"yes: no\"");
    assertThat(PairWriter.quoted("a\nb")).isEqualTo("\"a\\nb\"");
    assertThat(PairWriter.quoted("")).isEqualTo("\"\"");
    Pair pair = read(file("it's #1.db", false), file("b.db", false));
    assertThat(pair.staging().place()).contains("it's #1.db");
  }
}
