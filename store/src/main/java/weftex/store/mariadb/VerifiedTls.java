package weftex.store.mariadb;

import java.io.IOException;
import java.io.InputStream;
import java.nio.file.Files;
import java.nio.file.Path;
import java.security.GeneralSecurityException;
import java.security.KeyStore;
import java.security.MessageDigest;
import java.security.cert.Certificate;
import java.security.cert.CertificateException;
import java.security.cert.CertificateFactory;
import java.security.cert.X509Certificate;
import java.sql.SQLException;
import java.util.HexFormat;
import java.util.Properties;
import javax.net.ssl.KeyManager;
import javax.net.ssl.SSLException;
import javax.net.ssl.SSLSession;
import javax.net.ssl.TrustManager;
import javax.net.ssl.TrustManagerFactory;
import javax.net.ssl.X509TrustManager;
import org.mariadb.jdbc.Configuration;
import org.mariadb.jdbc.HostAddress;
import org.mariadb.jdbc.export.ExceptionFactory;
import org.mariadb.jdbc.plugin.TlsSocketPlugin;
import org.mariadb.jdbc.plugin.tls.main.DefaultTlsSocketPlugin;
import weftex.store.database.Tls;

/**
 * Decides whom the driver trusts: an authority, or one certificate by its fingerprint. The driver's
 * own way would also take any certificate whose server knows a hash of the password. A refused
 * certificate is told with its fingerprint, so that it can be compared and pinned.
 */
public final class VerifiedTls implements TlsSocketPlugin {
  static final String TYPE = "weftex";
  private static final String AUTHORITY = "weftexAuthority";
  private static final String FINGERPRINT = "weftexFingerprint";

  private final TlsSocketPlugin drivers = new DefaultTlsSocketPlugin();

  /** Sets the driver's options for a line. */
  static void options(Tls tls, Properties options) {
    switch (tls.verify()) {
      case OFF -> options.setProperty("sslMode", "disable");
      case NONE -> options.setProperty("sslMode", "trust");
      case FULL, PINNED -> {
        options.setProperty(
            "sslMode", tls.verify() == Tls.Verify.FULL ? "verify-full" : "verify-ca");
        options.setProperty("tlsSocketType", TYPE);
        tls.authority().ifPresent(file -> options.setProperty(AUTHORITY, file.toString()));
        tls.fingerprint().ifPresent(print -> options.setProperty(FINGERPRINT, print));
      }
    }
  }

  /** A fingerprint in the form in which it is written down. */
  public static String fingerprint(X509Certificate certificate) throws CertificateException {
    try {
      return HexFormat.of()
          .formatHex(MessageDigest.getInstance("SHA-256").digest(certificate.getEncoded()));
    } catch (GeneralSecurityException e) {
      throw new CertificateException(e);
    }
  }

  @Override
  public String type() {
    return TYPE;
  }

  @Override
  public TrustManager[] getTrustManager(
      Configuration conf, ExceptionFactory exceptions, HostAddress host) throws SQLException {
    Properties own = conf.nonMappedOptions();
    String pinned = own.getProperty(FINGERPRINT);
    if (pinned != null) {
      return new TrustManager[] {new Pinned(pinned)};
    }
    String authority = own.getProperty(AUTHORITY);
    try {
      TrustManagerFactory factory =
          TrustManagerFactory.getInstance(TrustManagerFactory.getDefaultAlgorithm());
      factory.init(authority == null ? null : store(Path.of(authority)));
      for (TrustManager manager : factory.getTrustManagers()) {
        if (manager instanceof X509TrustManager known) {
          return new TrustManager[] {new Told(known)};
        }
      }
      throw new SQLException("this Java has no trust manager");
    } catch (GeneralSecurityException | IOException e) {
      throw new SQLException(
          "the file of the authority can't be read: " + e.getMessage(), "08000", e);
    }
  }

  private static KeyStore store(Path file) throws GeneralSecurityException, IOException {
    KeyStore store = KeyStore.getInstance(KeyStore.getDefaultType());
    store.load(null, null);
    try (InputStream in = Files.newInputStream(file)) {
      for (Certificate certificate :
          CertificateFactory.getInstance("X.509").generateCertificates(in)) {
        store.setCertificateEntry("authority " + store.size(), certificate);
      }
    }
    if (store.size() == 0) {
      throw new IOException(file + " has no certificate in it");
    }
    return store;
  }

  @Override
  public KeyManager[] getKeyManager(Configuration conf, ExceptionFactory exceptions)
      throws SQLException {
    return drivers.getKeyManager(conf, exceptions);
  }

  @Override
  public void verify(String host, SSLSession session, long threadId) throws SSLException {
    drivers.verify(host, session, threadId);
  }

  /** Trusts one certificate. */
  private record Pinned(String fingerprint) implements X509TrustManager {
    @Override
    public void checkServerTrusted(X509Certificate[] chain, String type)
        throws CertificateException {
      String is = VerifiedTls.fingerprint(chain[0]);
      if (!is.equals(fingerprint)) {
        throw new CertificateException(
            "it is another one than the pinned one, with the SHA-256 " + is);
      }
    }

    @Override
    public void checkClientTrusted(X509Certificate[] chain, String type)
        throws CertificateException {
      throw new CertificateException("no client is asked for");
    }

    @Override
    public X509Certificate[] getAcceptedIssuers() {
      return new X509Certificate[0];
    }
  }

  /** Trusts whom another trusts, and says which certificate is refused. */
  private record Told(X509TrustManager other) implements X509TrustManager {
    @Override
    public void checkServerTrusted(X509Certificate[] chain, String type)
        throws CertificateException {
      try {
        other.checkServerTrusted(chain, type);
      } catch (CertificateException e) {
        throw new CertificateException(
            "no trusted authority vouches for it; its SHA-256 is "
                + VerifiedTls.fingerprint(chain[0]),
            e);
      }
    }

    @Override
    public void checkClientTrusted(X509Certificate[] chain, String type)
        throws CertificateException {
      other.checkClientTrusted(chain, type);
    }

    @Override
    public X509Certificate[] getAcceptedIssuers() {
      return other.getAcceptedIssuers();
    }
  }
}
