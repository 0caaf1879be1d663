package weftex.cli;

import static org.assertj.core.api.Assertions.assertThat;
import static org.junit.jupiter.api.Assumptions.assumeTrue;

import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardOpenOption;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import weftex.demo.DemoSite;
import weftex.store.testing.SshServer;

/** Live is behind a line over SSH, as most are. */
class SshPairTest {
  @TempDir Path folder;
  private ServerSite site;
  private SshServer ssh;

  @BeforeEach
  void liveBehindALine() throws Exception {
    assumeTrue(SshServer.isHere(), "there is no sshd on this machine");
    site = new ServerSite(folder);
    ssh = new SshServer(Files.createDirectory(folder.resolve("ssh")));
    configure("ssh/user");
  }

  @AfterEach
  void endTheServer() throws Exception {
    if (ssh != null) {
      ssh.close();
    }
  }

  private void configure(String key) throws Exception {
    Files.writeString(
        folder.resolve("weftex.yaml"),
        """
        site: skerrow
        model: %s
        copies:
          staging:
            mariadb: {host: 127.0.0.1, port: %d, database: %s, user: root}
            prefix: skf_
          live:
            ssh: {host: 127.0.0.1, user: %s, port: %d, key: %s, known-hosts: ssh/known}
            mariadb: {port: %d, database: %s, user: root}
            prefix: skf_
        """
            .formatted(
                DemoSite.MODEL,
                site.server.port(),
                site.staging,
                System.getProperty("user.name"),
                ssh.port(),
                key,
                site.server.port(),
                site.live));
  }

  private Program.Ran weftex(String... arguments) {
    return new Program(folder).run(arguments);
  }

  private void done(String... arguments) {
    Program.Ran ran = weftex(arguments);
    assertThat(ran.status()).as(ran.err()).isLessThan(2);
  }

  @Test
  void aWeekIsMergedAndTakenBackOverIt() throws Exception {
    done("mark");
    site.week();
    assertThat(weftex("check").out())
        .contains("over ssh ")
        .containsIgnoringWhitespaces("The line to live: over SSH to ", "host key known");
    done("draft");
    done("review", "--keep", "conflicts");
    done("review", "--approve");
    String before = site.dump();
    // What is cut while nothing is under way is made anew.
    Files.writeString(
        folder.resolve("weftex.yaml"),
        "commands: {before-apply: [[pkill, -9, -P, '" + ssh.process() + "']]}\n",
        StandardOpenOption.APPEND);
    done("apply");
    assertThat(site.dump()).isNotEqualTo(before);
    assertThat(weftex("draft").err()).contains("Nothing that was chosen differs");
    done("undo");
    assertThat(site.dump()).isEqualTo(before);
  }

  @Test
  void whatIsWrongWithItIsSaidInASentence() throws Exception {
    configure("ssh/stranger");
    Program.Ran refused = weftex("mark");
    assertThat(refused.status()).isEqualTo(3);
    assertThat(refused.err())
        .contains(
            "is there, but lets nobody in with this user and these keys", "Nothing was changed")
        .contains("Correct 'ssh' of live in weftex.yaml");
    Files.writeString(
        folder.resolve("weftex.yaml"),
        Files.readString(folder.resolve("weftex.yaml"))
            .replace("host: 127.0.0.1, user: ", "host: '-oProxyCommand=x', user: "));
    assertThat(weftex("mark").err()).contains("is no name of a host or user");
    configure("ssh/user");
    Files.writeString(
        folder.resolve("weftex.yaml"),
        Files.readString(folder.resolve("weftex.yaml"))
            .replace("mariadb: {port", "mariadb: {tls: true, port"));
    assertThat(weftex("mark").err()).contains("has 'ssh', which protects the line, and 'tls'");
  }

  @Test
  void pairWritesAnAliasOfTheUsersOwnConfiguration() throws Exception {
    Files.delete(folder.resolve("weftex.yaml"));
    Program.Ran paired =
        weftex(
            "pair",
            "--site",
            "skerrow",
            "--staging",
            "mariadb://root@127.0.0.1:" + site.server.port() + "/" + site.staging,
            "--staging-prefix",
            "skf_",
            "--live",
            "mariadb://root@127.0.0.1/" + site.live,
            "--live-ssh",
            "deploy@skerrow.invalid",
            "--live-prefix",
            "skf_");
    assertThat(paired.status()).as(paired.err()).isZero();
    assertThat(Files.readString(folder.resolve("weftex.yaml")))
        .contains("ssh: \"deploy@skerrow.invalid\"");
    assertThat(weftex("check").out() + weftex("check").err())
        .containsIgnoringWhitespaces("no host is called 'skerrow.invalid'");
  }
}
