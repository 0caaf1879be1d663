package weftex.store.seal;

import com.exceptionfactory.jagged.RecipientStanzaWriter;
import com.exceptionfactory.jagged.x25519.X25519RecipientStanzaWriterFactory;
import java.security.GeneralSecurityException;
import java.util.Base64;
import java.util.Optional;
import weftex.store.sshkey.KeyProblem;
import weftex.store.sshkey.SshKey;

/**
 * Somebody for whom something is sealed.
 *
 * @param line their public key: {@code age1…}, or {@code KIND BASE64 COMMENT} as SSH writes it
 * @param ssh the key, if it is one of SSH
 */
record Receiver(String line, Optional<SshKey> ssh, RecipientStanzaWriter writer) {
  private static final int SHOWN = 12;

  /**
   * Reads a public key.
   *
   * @throws KeyProblem if it is none for which something can be sealed
   */
  static Receiver of(String text) throws KeyProblem {
    String line = text.strip();
    try {
      if (line.startsWith("age1")) {
        return new Receiver(
            line,
            Optional.empty(),
            X25519RecipientStanzaWriterFactory.newRecipientStanzaWriter(line));
      }
      String[] words = line.split("\\s+", 3);
      if (words.length < 2) {
        throw new KeyProblem("it is no public key of SSH or age");
      }
      SshKey key = SshKey.of(Base64.getDecoder().decode(words[1]));
      if (!key.kind().equals(words[0])) {
        throw new KeyProblem("it says " + words[0] + " and is " + key.kind());
      }
      return new Receiver(line, Optional.of(key), writer(key));
    } catch (GeneralSecurityException | IllegalArgumentException e) {
      throw new KeyProblem("it is no public key of SSH or age", e);
    }
  }

  private static RecipientStanzaWriter writer(SshKey key)
      throws GeneralSecurityException, KeyProblem {
    return switch (key.kind()) {
      case SshKey.ED25519 -> Edwards.writer(key);
      case SshKey.RSA -> Rsa.writer(key);
      default ->
          throw new KeyProblem(
              "nothing can be sealed for a key of the kind "
                  + key.kind()
                  + ", only for "
                  + SshKey.ED25519
                  + ", "
                  + SshKey.RSA
                  + " and age keys");
    };
  }

  /** How people know it: what is written behind an SSH key, or the beginning of another. */
  String name() {
    String[] words = line.split("\\s+", 3);
    if (words.length > 2) {
      return words[2];
    }
    return ssh.map(SshKey::fingerprint)
        .orElse(line.substring(0, Math.min(SHOWN, line.length())) + "…");
  }

  /** The key alone, without what is written behind it. */
  String key() {
    String[] words = line.split("\\s+", 3);
    return words.length > 1 ? words[0] + " " + words[1] : line;
  }
}
