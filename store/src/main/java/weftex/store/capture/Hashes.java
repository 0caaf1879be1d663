package weftex.store.capture;

import java.io.IOException;
import java.io.InputStream;
import java.io.OutputStream;
import java.nio.file.Path;
import java.security.DigestInputStream;
import java.security.MessageDigest;
import java.security.NoSuchAlgorithmException;
import java.util.HexFormat;
import weftex.store.seal.AtRest;

/** The SHA-256 by which the files of a base are known. */
final class Hashes {
  private Hashes() {}

  static MessageDigest sha256() {
    try {
      return MessageDigest.getInstance("SHA-256");
    } catch (NoSuchAlgorithmException e) {
      throw new IllegalStateException("every Java has SHA-256", e);
    }
  }

  static String hex(MessageDigest digest) {
    return HexFormat.of().formatHex(digest.digest());
  }

  /** The hash of all that a file holds, whether it is encrypted or not. */
  static String of(AtRest atRest, Path file) throws IOException {
    MessageDigest digest = sha256();
    try (InputStream in = new DigestInputStream(atRest.open(file), digest)) {
      in.transferTo(OutputStream.nullOutputStream());
    }
    return hex(digest);
  }
}
