package weftex.store.file;

import java.io.IOException;
import java.io.InputStream;
import java.io.OutputStream;
import java.security.MessageDigest;
import java.security.NoSuchAlgorithmException;

/** Bytes on their way. */
final class Contents {
  private static final int PIECE = 1 << 16;

  private Contents() {}

  /** Takes bytes for their hash alone. */
  static final class Digesting extends OutputStream {
    private final MessageDigest digest = digest256();

    @Override
    public void write(int b) {
      digest.update((byte) b);
    }

    @Override
    public void write(byte[] bytes, int from, int count) {
      digest.update(bytes, from, count);
    }

    byte[] digest() {
      return digest.digest();
    }
  }

  private static MessageDigest digest256() {
    try {
      return MessageDigest.getInstance("SHA-256");
    } catch (NoSuchAlgorithmException e) {
      throw new IllegalStateException("every Java has SHA-256", e);
    }
  }

  /** Copies everything, and returns the SHA-256 of it. */
  static byte[] sha256(InputStream in, OutputStream out) throws IOException {
    MessageDigest digest = digest256();
    byte[] piece = new byte[PIECE];
    for (int read = in.read(piece); read >= 0; read = in.read(piece)) {
      digest.update(piece, 0, read);
      out.write(piece, 0, read);
    }
    return digest.digest();
  }
}
