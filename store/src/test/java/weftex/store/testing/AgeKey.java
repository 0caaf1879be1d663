package weftex.store.testing;

import com.exceptionfactory.jagged.x25519.X25519KeyPairGenerator;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.attribute.PosixFilePermissions;
import java.security.KeyPair;
import java.util.List;

/** A key of age, as its own program writes one. */
public final class AgeKey {
  private AgeKey() {}

  /** Writes a new private key. */
  public static Path write(Path file) throws Exception {
    KeyPair pair = new X25519KeyPairGenerator().generateKeyPair();
    Files.write(
        file,
        List.of(
            "# public key: " + new String(pair.getPublic().getEncoded(), StandardCharsets.US_ASCII),
            new String(pair.getPrivate().getEncoded(), StandardCharsets.US_ASCII)));
    Files.setPosixFilePermissions(file, PosixFilePermissions.fromString("rw-------"));
    return file;
  }

  /** The public key that belongs to one. */
  public static String receiver(Path file) throws IOException {
    return Files.readAllLines(file).get(0).replace("# public key: ", "");
  }
}
