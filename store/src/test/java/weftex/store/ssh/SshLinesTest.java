package weftex.store.ssh;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.catchThrowableOfType;
import static org.junit.jupiter.api.Assumptions.assumeTrue;

import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.attribute.PosixFilePermissions;
import java.sql.Connection;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import weftex.store.Refusal;
import weftex.store.copy.Copy;
import weftex.store.database.Connecting;
import weftex.store.database.CopySpec;
import weftex.store.database.SshHost;
import weftex.store.database.Tls;
import weftex.store.testing.MariaDbServer;
import weftex.store.testing.SshServer;

/** A database behind a real OpenSSH server, reached with the machine's own client. */
class SshLinesTest {
  @TempDir Path folder;
  private SshServer ssh;
  private String database;

  @BeforeEach
  void aServerBehindALine() throws Exception {
    assumeTrue(SshServer.isHere(), "there is no sshd on this machine");
    ssh = new SshServer(folder);
    database = MariaDbServer.get().newDatabase();
    MariaDbServer.get().sql(database, "CREATE TABLE pages (id INT PRIMARY KEY);");
  }

  @AfterEach
  void endAll() throws Exception {
    SshLines.close();
    if (ssh != null) {
      ssh.close();
    }
  }

  private SshHost over(String key) {
    return new SshHost(
        "127.0.0.1",
        Optional.of(System.getProperty("user.name")),
        Optional.of(ssh.port()),
        Optional.of(ssh.file(key)),
        Optional.of(ssh.file("known")),
        Set.of());
  }

  private CopySpec.Server live(SshHost over, String host, int port) {
    CopySpec.Server direct = (CopySpec.Server) MariaDbServer.get().spec("live", database, "");
    return new CopySpec.Server(
        "live",
        "",
        new CopySpec.Server.Line(host, port, Tls.OFF, Optional.of(over)),
        database,
        direct.login(),
        List.of(),
        Optional.empty());
  }

  private CopySpec.Server live(SshHost over) {
    return live(over, "127.0.0.1", MariaDbServer.get().port());
  }

  private static Refusal refusal(CopySpec spec) {
    return catchThrowableOfType(Refusal.class, () -> Connecting.open(spec).close());
  }

  @Test
  void oneLineCarriesAllConnectionsAndNobodyElseMayUseIt() throws Exception {
    CopySpec.Server live = live(over("user"));
    assertThat(live.place()).contains("over ssh ", "127.0.0.1:" + ssh.port());
    assertThat(Copy.reach(live).catalog().find("pages")).isPresent();
    SshLine line = SshLines.to(live);
    try (Connection one = Connecting.open(live);
        Connection other = Connecting.open(live);
        Statement statement = one.createStatement();
        ResultSet rows = statement.executeQuery("SELECT 1")) {
      assertThat(rows.next()).isTrue();
      assertThat(other.isValid(1)).isTrue();
      assertThat(SshLines.to(live)).isSameAs(line);
      assertThat(Copy.reach(live).line()).contains("over SSH to ", "host key known");
    }
    assertThat(PosixFilePermissions.toString(Files.getPosixFilePermissions(line.socket())))
        .isEqualTo("rw-------");
    assertThat(
            PosixFilePermissions.toString(Files.getPosixFilePermissions(line.socket().getParent())))
        .isEqualTo("rwx------");
    SshLines.close();
    assertThat(line.isUp()).isFalse();
    assertThat(line.socket().getParent()).doesNotExist();
  }

  @Test
  void aLineEndsWithTheProcessThatMadeIt() throws Exception {
    SshLine line = SshLines.to(live(over("user")));
    line.letGo();
    line.await(text -> false, 10);
    assertThat(line.isUp()).isFalse();
  }

  @Test
  void aSocketOfTheOtherSideIsReached() throws Exception {
    CopySpec.Server live = live(over("user"), "" + MariaDbServer.get().socket(), 0);
    try (Connection connection = Connecting.open(live)) {
      assertThat(connection.isValid(1)).isTrue();
    }
  }

  @Test
  void aLineThatIsCutIsSaidAndMadeAnew() throws Exception {
    CopySpec.Server live = live(over("user"));
    SshLine line = SshLines.to(live);
    try (Connection connection = Connecting.open(live);
        Statement statement = connection.createStatement()) {
      ssh.cut();
      assertThatThrownBy(() -> statement.execute("SELECT 1")).isInstanceOf(SQLException.class);
    }
    line.await(text -> false, 10);
    assertThat(line.isUp()).isFalse();
    try (Connection connection = Connecting.open(live)) {
      assertThat(connection.isValid(1)).isTrue();
    }
    assertThat(SshLines.to(live)).isNotSameAs(line);
  }

  @Test
  void whatIsWrongIsToldApart() throws Exception {
    SshHost right = over("user");
    assertThat(refusal(live(over("stranger"))).reason())
        .contains("is there, but lets nobody in with this user and these keys");
    Refusal locked = refusal(live(over("locked")));
    assertThat(locked.reason() + locked.next()).contains("locked", "ssh-add");
    assertThat(refusal(live(over("nowhere"))).reason()).contains("there is no key ", "nowhere");
    Refusal nothing = refusal(live(right, "127.0.0.1", 1));
    assertThat(nothing.reason())
        .contains("is reached, but from there nothing answers at 127.0.0.1:1");
    assertThat(nothing.next()).contains("as seen from");
    SshHost elsewhere =
        new SshHost(
            "skerrow.invalid",
            Optional.empty(),
            Optional.empty(),
            Optional.empty(),
            Optional.empty(),
            Set.of());
    assertThat(refusal(live(elsewhere)).reason()).contains("no host is called 'skerrow.invalid'");
    int closed = ssh.port();

    ssh.knownHosts(Files.readString(ssh.file("stranger.pub")));
    assertThat(refusal(live(right)).reason())
        .contains("shows another host key than the one that is known (ssh-ed25519 SHA256:");
    Files.writeString(ssh.file("known"), "");
    assertThat(refusal(live(right)).reason())
        .contains("the host key of ", "is not known (ssh-ed25519 SHA256:");
    ssh.close();
    assertThat(refusal(live(right)).reason())
        .contains("nothing answers by SSH at ", "127.0.0.1:" + closed);
  }

  @Test
  void aForbiddenLineIsSaid() throws Exception {
    ssh.close();
    Path other = Files.createDirectory(folder.resolve("other"));
    ssh = new SshServer(other, "AllowTcpForwarding no");
    assertThat(refusal(live(over("user"))).reason())
        .contains("lets you in, but forbids lines to other places");
  }

  @Test
  void aWrongPasswordBehindALineIsSaidAsEver() {
    CopySpec.Server live = live(over("user"));
    CopySpec.Server wrong =
        new CopySpec.Server(
            "live",
            "",
            live.line(),
            database,
            new CopySpec.Server.Login("nobody-of-this-name", live.password()),
            List.of(),
            Optional.empty());
    assertThat(refusal(wrong).reason()).contains("refuses user 'nobody-of-this-name'");
  }
}
