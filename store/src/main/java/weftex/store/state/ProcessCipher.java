package weftex.store.state;

import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.channels.FileChannel;
import java.security.GeneralSecurityException;
import java.security.SecureRandom;
import java.util.LinkedHashMap;
import java.util.Map;
import javax.crypto.Cipher;
import javax.crypto.spec.ChaCha20ParameterSpec;
import javax.crypto.spec.SecretKeySpec;

/**
 * Encrypts a file of which each place is written once, by ChaCha20 (RFC 7539) and a key that only
 * this process knows: the number of a page is the nonce, the place in it the counter. Programs that
 * start fast run without the instructions that make AES fast. Pages that were read last are held.
 */
final class ProcessCipher {
  private static final String ALGORITHM = "ChaCha20";
  private static final int PAGE = 1 << 16;
  private static final int BLOCK = 64;
  private static final int KEY_BYTES = 32;
  private static final int NONCE_BYTES = 12;

  /** How many pages are held. */
  private static final int HELD = 32;

  private final SecretKeySpec key;
  private final Map<Long, byte[]> pages =
      new LinkedHashMap<>(HELD, 0.75f, true) {
        private static final long serialVersionUID = 1;

        @Override
        protected boolean removeEldestEntry(Map.Entry<Long, byte[]> eldest) {
          return size() > HELD;
        }
      };

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

  /**
   * Reads from an encrypted file.
   *
   * @param written how long the file is so far
   */
  byte[] read(FileChannel channel, long position, int length, long written) throws IOException {
    byte[] bytes = new byte[length];
    int done = 0;
    while (done < length) {
      long page = (position + done) / PAGE;
      int inPage = (int) ((position + done) % PAGE);
      byte[] content = page(channel, page, written);
      int count = Math.min(length - done, content.length - inPage);
      System.arraycopy(content, inPage, bytes, done, count);
      done += count;
    }
    return bytes;
  }

  private byte[] page(FileChannel channel, long page, long written) throws IOException {
    byte[] content = pages.get(page);
    if (content == null) {
      int length = (int) Math.min(PAGE, written - page * PAGE);
      ByteBuffer sealed = ByteBuffer.allocate(length);
      while (sealed.hasRemaining()) {
        if (channel.read(sealed, page * PAGE + sealed.position()) < 0) {
          throw new IOException("the file of differences was cut short");
        }
      }
      content = crypt(sealed.flip(), page * PAGE).array();
      // One that is not full yet is going to be another.
      if (length == PAGE) {
        pages.put(page, content);
      }
    }
    return content;
  }
}
