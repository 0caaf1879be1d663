package weftex.store.seal;

import com.exceptionfactory.jagged.FileKey;
import com.exceptionfactory.jagged.RecipientStanza;
import java.nio.charset.StandardCharsets;
import java.security.GeneralSecurityException;
import java.security.MessageDigest;
import java.util.Arrays;
import java.util.Base64;
import javax.crypto.Cipher;
import javax.crypto.Mac;
import javax.crypto.spec.IvParameterSpec;
import javax.crypto.spec.SecretKeySpec;

/** What stanzas of the age format have in common, by Java's own algorithms. */
final class FileKeyWrap {
  private static final int NONCE_BYTES = 12;
  private static final int TAG_BYTES = 4;

  private FileKeyWrap() {}

  /** HKDF with SHA-256 (RFC 5869), of the one block of 32 bytes that is needed here. */
  static byte[] derived(byte[] secret, byte[] salt, String info) throws GeneralSecurityException {
    Mac mac = Mac.getInstance("HmacSHA256");
    mac.init(new SecretKeySpec(salt, "HmacSHA256"));
    mac.init(new SecretKeySpec(mac.doFinal(secret), "HmacSHA256"));
    mac.update(info.getBytes(StandardCharsets.US_ASCII));
    return mac.doFinal(new byte[] {1});
  }

  /** A file key as it stands in a stanza: each wrapping key is used once, so its nonce is 0. */
  static byte[] wrapped(byte[] by, FileKey key) throws GeneralSecurityException {
    return cipher(Cipher.ENCRYPT_MODE, by).doFinal(key.getEncoded());
  }

  static FileKey unwrapped(byte[] by, byte[] wrapped) throws GeneralSecurityException {
    return new FileKey(cipher(Cipher.DECRYPT_MODE, by).doFinal(wrapped));
  }

  private static Cipher cipher(int mode, byte[] by) throws GeneralSecurityException {
    Cipher cipher = Cipher.getInstance("ChaCha20-Poly1305");
    cipher.init(
        mode, new SecretKeySpec(by, "ChaCha20"), new IvParameterSpec(new byte[NONCE_BYTES]));
    return cipher;
  }

  /** By which a stanza names an SSH key: the beginning of the key's SHA-256. */
  static String tag(byte[] blob) throws GeneralSecurityException {
    byte[] hash = MessageDigest.getInstance("SHA-256").digest(blob);
    return text(Arrays.copyOf(hash, TAG_BYTES));
  }

  static String text(byte[] bytes) {
    return Base64.getEncoder().withoutPadding().encodeToString(bytes);
  }

  /** Opens one stanza that names a key. */
  interface Unwrapping {
    FileKey of(RecipientStanza stanza) throws GeneralSecurityException;
  }

  /**
   * The file key from whichever stanza opens: two keys may have the same tag.
   *
   * @throws GeneralSecurityException if none does
   */
  static FileKey first(
      Iterable<RecipientStanza> stanzas, String type, String tag, Unwrapping unwrapping)
      throws GeneralSecurityException {
    GeneralSecurityException why = new GeneralSecurityException("no stanza names this key");
    for (RecipientStanza stanza : stanzas) {
      if (stanza.getType().equals(type)
          && !stanza.getArguments().isEmpty()
          && stanza.getArguments().get(0).equals(tag)) {
        try {
          return unwrapping.of(stanza);
        } catch (GeneralSecurityException | IllegalArgumentException e) {
          why = new GeneralSecurityException("the stanza is damaged", e);
        }
      }
    }
    throw why;
  }
}
