package weftex.store.mariadb;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.catchThrowableOfType;

import java.io.ByteArrayOutputStream;
import java.io.DataInputStream;
import java.io.IOException;
import java.io.OutputStream;
import java.net.InetAddress;
import java.net.ServerSocket;
import java.net.Socket;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.security.KeyStore;
import java.security.cert.X509Certificate;
import java.util.Base64;
import java.util.List;
import java.util.Optional;
import java.util.concurrent.CompletableFuture;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import weftex.store.Refusal;
import weftex.store.copy.Copy;
import weftex.store.database.CopySpec;
import weftex.store.database.Tls;
import weftex.store.testing.MariaDbServer;

/** What goes over the line to a server, and who may read it. */
class LineTest {
  private static final String PASSWORD = "harbour-of-hesk";

  @TempDir static Path folder;
  private static MariaDbServer server;
  private static X509Certificate certificate;

  /** A server whose certificate vouches for itself, for the host 127.0.0.1. */
  @BeforeAll
  static void startWithTls() throws Exception {
    Path keys = folder.resolve("keys.p12");
    List<String> keytool =
        List.of(
            Path.of(System.getProperty("java.home"), "bin", "keytool").toString(),
            "-genkeypair -alias server -keyalg RSA -keysize 2048 -validity 3650 -storetype PKCS12 -storepass changeit"
                + " -dname CN=127.0.0.1 -ext san=ip:127.0.0.1 -keystore");
    List<String> command = new java.util.ArrayList<>(List.of(keytool.get(0)));
    command.addAll(List.of(keytool.get(1).split(" ")));
    command.add(keys.toString());
    assertThat(new ProcessBuilder(command).redirectErrorStream(true).start().waitFor()).isZero();
    KeyStore store = KeyStore.getInstance(keys.toFile(), "changeit".toCharArray());
    certificate = (X509Certificate) store.getCertificate("server");
    pem("key.pem", "PRIVATE KEY", store.getKey("server", "changeit".toCharArray()).getEncoded());
    pem("cert.pem", "CERTIFICATE", certificate.getEncoded());
    server =
        MariaDbServer.another(
            "--ssl-cert=" + folder.resolve("cert.pem"), "--ssl-key=" + folder.resolve("key.pem"));
    server.sql(
        "",
        "CREATE DATABASE site; CREATE TABLE site.pages (id INT PRIMARY KEY);"
            + "CREATE USER plain@'%' IDENTIFIED BY '"
            + PASSWORD
            + "'; GRANT ALL ON site.* TO plain@'%';"
            + "CREATE USER bound@'%' IDENTIFIED BY '"
            + PASSWORD
            + "' REQUIRE SSL; GRANT ALL ON site.* TO bound@'%';");
  }

  private static void pem(String name, String what, byte[] der) throws IOException {
    Files.writeString(
        folder.resolve(name),
        "-----BEGIN "
            + what
            + "-----\n"
            + Base64.getMimeEncoder(64, new byte[] {'\n'}).encodeToString(der)
            + "\n-----END "
            + what
            + "-----\n");
  }

  @AfterAll
  static void end() throws InterruptedException {
    server.kill();
  }

  private static CopySpec spec(int port, String user, Tls tls) {
    CopySpec.Password password =
        new CopySpec.Password() {
          @Override
          public String fetch() {
            return PASSWORD;
          }

          @Override
          public String source() {
            return "the variable LIVE_PASSWORD";
          }
        };
    return new CopySpec.Server("live", "", "127.0.0.1", port, "site", user, password, tls);
  }

  private static CopySpec atSocket(String socket, String user) {
    CopySpec.Password password = ((CopySpec.Server) spec(0, user, Tls.OFF)).password();
    return new CopySpec.Server(
        "live", "", socket, 0, "site", user, password, Tls.byDefault(socket));
  }

  @Test
  void aSocketOfThisMachineIsALineToo() throws Exception {
    String socket = server.socket().toString();
    Copy copy = Copy.reach(atSocket(socket, "plain"));
    assertThat(copy.catalog().tables()).containsOnlyKeys("pages");
    assertThat(copy.spec().place()).isEqualTo("mariadb " + socket + " database site");
    assertThat(copy.line()).isEqualTo("a socket on this machine");
    Refusal absent =
        catchThrowableOfType(Refusal.class, () -> Copy.reach(atSocket("/run/none.sock", "plain")));
    assertThat(absent.getMessage())
        .isEqualTo(
            "The copy 'live' can't be reached: there is no socket /run/none.sock. Nothing was changed.");
    Path dead = Files.createFile(folder.resolve("dead.sock"));
    assertThat(
            catchThrowableOfType(
                    Refusal.class, () -> Copy.reach(atSocket(dead.toString(), "plain")))
                .getMessage())
        .contains("nothing answers at the socket " + dead)
        .doesNotContain(PASSWORD);
    assertThat(
            catchThrowableOfType(Refusal.class, () -> Copy.reach(atSocket(socket, "nobody")))
                .getMessage())
        .contains("refuses user 'nobody'");
  }

  private static Refusal refused(String user, Tls tls) {
    return catchThrowableOfType(Refusal.class, () -> Copy.reach(spec(server.port(), user, tls)));
  }

  private static Tls full(String authority) {
    return new Tls(Tls.Verify.FULL, Optional.of(folder.resolve(authority)), Optional.empty());
  }

  private static Tls pinned(String fingerprint) {
    return new Tls(Tls.Verify.PINNED, Optional.empty(), Optional.of(fingerprint));
  }

  @Test
  void anAuthorityOrAFingerprintLetsTheServerIn() throws Exception {
    Copy verified = Copy.reach(spec(server.port(), "bound", full("cert.pem")));
    assertThat(verified.line()).startsWith("TLSv1.").endsWith(", certificate and host verified");
    Copy pinned =
        Copy.reach(spec(server.port(), "bound", pinned(VerifiedTls.fingerprint(certificate))));
    assertThat(pinned.line()).endsWith(", certificate pinned");
    assertThat(Copy.reach(spec(server.port(), "bound", Tls.UNVERIFIED)).line())
        .endsWith(", certificate not verified");
    assertThat(Copy.reach(spec(server.port(), "plain", Tls.OFF)).line())
        .isEqualTo("not encrypted, on this machine");
  }

  @Test
  void whomNobodyVouchesForIsRefusedWithTheFingerprint() throws Exception {
    Refusal refusal = refused("plain", Tls.FULL);
    assertThat(refusal)
        .hasMessageContaining(VerifiedTls.fingerprint(certificate))
        .hasMessageContaining("the password was not sent");
    assertThat(refusal.next())
        .contains("tls: {fingerprint: " + VerifiedTls.fingerprint(certificate));
    assertThat(refused("plain", pinned("ab".repeat(32))))
        .hasMessageContaining("another one than the pinned one");
    assertThat(refused("plain", full("nowhere.pem")))
        .hasMessageContaining("the file of the authority can't be read");
  }

  @Test
  void aCertificateForAnotherHostIsRefused() {
    CopySpec.Server known = (CopySpec.Server) spec(server.port(), "plain", full("cert.pem"));
    CopySpec other =
        new CopySpec.Server(
            "live", "", "localhost", known.port(), "site", "plain", known.password(), known.tls());
    assertThat(catchThrowableOfType(Refusal.class, () -> Copy.reach(other)))
        .hasMessageContaining("does not stand for host 'localhost'");
  }

  @Test
  void aUserWhoMustUseTlsIsToldApartFromAWrongPassword() {
    Refusal refusal = refused("bound", Tls.OFF);
    assertThat(refusal).hasMessageContaining("lets user 'bound' in only over TLS");
    assertThat(refusal.next()).contains("'tls: true'");
    assertThat(refused("nobody", Tls.OFF)).hasMessageContaining("refuses user 'nobody'");
  }

  @Test
  void aServerWithoutTlsIsRefusedWithItsOwnSentence() {
    MariaDbServer open = MariaDbServer.get();
    Refusal refusal =
        catchThrowableOfType(Refusal.class, () -> Copy.reach(spec(open.port(), "root", Tls.FULL)));
    assertThat(refusal).hasMessageContaining("the server offers no TLS");
    assertThat(refusal.next()).contains("'tls: false'");
  }

  @ParameterizedTest
  @CsvSource({
    "localhost, OFF",
    "127.0.0.1, OFF",
    "127.9.0.3, OFF",
    "::1, OFF",
    "db.skerrow.example, FULL",
    "127.0.0.1.skerrow.example, FULL",
    "10.0.0.7, FULL",
    "localhost.example, FULL"
  })
  void onlyALineThatStaysOnThisMachineIsOpenByDefault(String host, Tls.Verify verify) {
    assertThat(Tls.byDefault(host).verify()).isEqualTo(verify);
  }

  /** It got the password in the clear, at once. */
  @ParameterizedTest
  @CsvSource({"dialog", "mysql_clear_password"})
  void aServerThatAsksForTheBarePasswordDoesNotGetIt(String method) throws Exception {
    try (ServerSocket listening = new ServerSocket(0, 1, InetAddress.getLoopbackAddress())) {
      CompletableFuture<String> heard =
          CompletableFuture.supplyAsync(() -> hear(listening, method));
      Refusal refusal =
          catchThrowableOfType(
              Refusal.class, () -> Copy.reach(spec(listening.getLocalPort(), "plain", Tls.OFF)));
      assertThat(refusal)
          .hasMessageContaining("asks for the login method '" + method + "'")
          .hasMessageContaining("the password was not sent");
      assertThat(heard.join()).contains("plain").doesNotContain(PASSWORD);
    }
  }

  /** Greets as a server does, asks for another login method, and takes in what comes. */
  private static String hear(ServerSocket listening, String method) {
    try (Socket socket = listening.accept()) {
      socket.setSoTimeout(5000);
      ByteArrayOutputStream greeting = new ByteArrayOutputStream();
      greeting.write(10);
      greeting.write("11.4.5-MariaDB\0".getBytes(StandardCharsets.US_ASCII));
      greeting.write(new byte[] {1, 0, 0, 0});
      greeting.write("12345678\0".getBytes(StandardCharsets.US_ASCII));
      greeting.write(new byte[] {(byte) 0x01, (byte) 0x82, 45, 2, 0, (byte) 0x08, 0, 21});
      greeting.write(new byte[10]);
      greeting.write("123456789012\0".getBytes(StandardCharsets.US_ASCII));
      greeting.write("mysql_native_password\0".getBytes(StandardCharsets.US_ASCII));
      OutputStream out = socket.getOutputStream();
      send(out, 0, greeting.toByteArray());
      DataInputStream in = new DataInputStream(socket.getInputStream());
      StringBuilder heard = new StringBuilder(receive(in));
      send(out, 2, ((char) 0xFE + method + "\0\2Password: ").getBytes(StandardCharsets.ISO_8859_1));
      try {
        heard.append(receive(in));
      } catch (IOException e) {
        // Nothing more was said.
      }
      return heard.toString();
    } catch (IOException e) {
      return "plain " + e;
    }
  }

  private static void send(OutputStream out, int sequence, byte[] packet) throws IOException {
    out.write(new byte[] {(byte) packet.length, (byte) (packet.length >> 8), 0, (byte) sequence});
    out.write(packet);
    out.flush();
  }

  private static String receive(DataInputStream in) throws IOException {
    int length = in.read() | in.read() << 8 | in.read() << 16;
    in.read();
    byte[] packet = new byte[Math.max(0, length)];
    in.readFully(packet);
    return new String(packet, StandardCharsets.ISO_8859_1);
  }
}
