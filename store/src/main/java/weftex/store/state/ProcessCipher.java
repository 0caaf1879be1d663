package weftex.store.state;

import java.io.IOException;
import java.nio.ByteBuffer;
import java.security.GeneralSecurityException;
import java.security.SecureRandom;
import javax.crypto.Cipher;
import javax.crypto.spec.ChaCha20ParameterSpec;
import javax.crypto.spec.SecretKeySpec;

/**
 * Encrypts a file of which each place is written once, by ChaCha20 (RFC 7539) and a key that only
 * this process knows: the number of a page is the nonce, the place in it the counter. Programs that
 * start fast run without the instructions that make AES fast.
 */
final class ProcessCipher {
  private static final String ALGORITHM = "ChaCha20";
  private static final int PAGE = 1 << 16;
  private static final int BLOCK = 64;
  private static final int KEY_BYTES = 32;
  private static final int NONCE_BYTES = 12;

  private final SecretKeySpec key;

  ProcessCipher() {
    byte[] secret = new byte[KEY_BYTES];
    new SecureRandom().nextBytes(secret);
    this.key = new SecretKeySpec(secret, ALGORITHM);
  }

  /** What is between position and limit, encrypted or decrypted, which is the same. */
  ByteBuffer crypt(ByteBuffer from, long position) throws IOException {
    ByteBuffer to = ByteBuffer.allocate(from.remaining());
    long at = position;
    while (from.hasRemaining()) {
      int inPage = (int) (at % PAGE);
      ByteBuffer some = from.slice(from.position(), Math.min(from.remaining(), PAGE - inPage));
      at += some.remaining();
      from.position(from.position() + some.remaining());
      crypt(some, to, (at - 1) / PAGE, inPage);
    }
    return to.flip();
  }

  private void crypt(ByteBuffer some, ByteBuffer to, long page, int inPage) throws IOException {
    try {
      Cipher cipher = Cipher.getInstance(ALGORITHM);
      byte[] nonce = ByteBuffer.allocate(NONCE_BYTES).putLong(Integer.BYTES, page).array();
      cipher.init(Cipher.ENCRYPT_MODE, key, new ChaCha20ParameterSpec(nonce, inPage / BLOCK));
      cipher.update(new byte[inPage % BLOCK]);
      cipher.doFinal(some, to);
    } catch (GeneralSecurityException e) {
      throw new IOException("the file of differences can't be encrypted", e);
    }
  }
}
