package weftex.store.seal;

import com.exceptionfactory.jagged.RecipientStanzaReader;
import com.exceptionfactory.jagged.bech32.Bech32;
import com.exceptionfactory.jagged.x25519.X25519RecipientStanzaReaderFactory;
import com.jcraft.jsch.JSch;
import com.jcraft.jsch.JSchException;
import com.jcraft.jsch.KeyPair;
import java.math.BigInteger;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.security.GeneralSecurityException;
import java.security.KeyFactory;
import java.security.spec.RSAPrivateCrtKeySpec;
import java.util.Arrays;
import java.util.Base64;
import java.util.Optional;
import weftex.store.FileProblem;
import weftex.store.sshkey.KeyProblem;
import weftex.store.sshkey.SshBlob;
import weftex.store.sshkey.SshKey;

/** A private key of the user's. Which public one belongs to it is known before a passphrase is. */
abstract class OwnKey {
  private static final String AGE_SECRET = "AGE-SECRET-KEY-1";
  private static final int SEED_BYTES = 32;

  private final String receiver;

  private OwnKey(String receiver) {
    this.receiver = receiver;
  }

  /** Whether something is sealed for it. */
  boolean isOf(Receiver other) {
    return receiver.equals(other.key());
  }

  /** The public key that belongs to it. */
  String receiver() {
    return receiver;
  }

  /** Opens what is sealed for it, once its passphrase is known. */
  abstract RecipientStanzaReader reader(Keyring.Passphrases passphrases) throws FileProblem;

  /** Whether a line is a key of age. */
  static boolean isAge(String line) {
    return line.startsWith(AGE_SECRET);
  }

  /** Reads a key of age. */
  static OwnKey ofAge(Path file, String line) throws FileProblem {
    try {
      byte[] scalar = Bech32.getDecoder().decode(line).getData();
      String own = Bech32.getEncoder().encode("age", Edwards.atBase(scalar)).toString();
      RecipientStanzaReader reader =
          X25519RecipientStanzaReaderFactory.newRecipientStanzaReader(line);
      return new OwnKey(own) {
        @Override
        RecipientStanzaReader reader(Keyring.Passphrases passphrases) {
          return reader;
        }
      };
    } catch (GeneralSecurityException | IllegalArgumentException e) {
      throw damaged(file, e);
    }
  }

  /** Reads a private key of SSH. */
  static OwnKey ofSsh(Path file, byte[] content) throws FileProblem {
    try {
      KeyPair pair = KeyPair.load(new JSch(), content, null);
      if (pair.getPublicKeyBlob() == null) {
        throw new FileProblem(
            "The key " + file + " is locked in a format that does not say whose it is",
            "Write it anew with 'ssh-keygen -p -f " + file + "'.");
      }
      SshKey own = SshKey.of(pair.getPublicKeyBlob());
      String receiver = own.kind() + " " + Base64.getEncoder().encodeToString(own.blob());
      return new OwnKey(receiver) {
        @Override
        RecipientStanzaReader reader(Keyring.Passphrases passphrases) throws FileProblem {
          unlock(file, pair, passphrases);
          try {
            return OwnKey.reader(own, pair.forSSHAgent());
          } catch (JSchException | GeneralSecurityException | KeyProblem e) {
            throw damaged(file, e);
          }
        }
      };
    } catch (JSchException | KeyProblem | RuntimeException e) {
      throw damaged(file, e);
    }
  }

  private static void unlock(Path file, KeyPair pair, Keyring.Passphrases passphrases)
      throws FileProblem {
    if (!pair.isEncrypted()) {
      return;
    }
    Optional<String> said = passphrases.of(file);
    if (said.isEmpty()) {
      throw new FileProblem(
          "The key " + file + " is locked by a passphrase, and nobody is there to be asked for it",
          "Run it in a terminal, or name a key for this machine with --open-with.");
    }
    if (!pair.decrypt(said.get().getBytes(StandardCharsets.UTF_8))) {
      throw new FileProblem("The passphrase of " + file + " is wrong", "Do it again.");
    }
  }

  /** What an agent would be given: the kind, and the key's numbers. */
  private static RecipientStanzaReader reader(SshKey own, byte[] secret)
      throws GeneralSecurityException, KeyProblem {
    SshBlob in = new SshBlob(secret);
    in.text();
    if (own.kind().equals(SshKey.ED25519)) {
      in.string();
      return Edwards.reader(own, Arrays.copyOf(in.string(), SEED_BYTES));
    }
    BigInteger modulus = in.integer();
    BigInteger exponent = in.integer();
    BigInteger secretExponent = in.integer();
    BigInteger coefficient = in.integer();
    BigInteger p = in.integer();
    BigInteger q = in.integer();
    return Rsa.reader(
        own,
        KeyFactory.getInstance("RSA")
            .generatePrivate(
                new RSAPrivateCrtKeySpec(
                    modulus,
                    exponent,
                    secretExponent,
                    p,
                    q,
                    secretExponent.mod(p.subtract(BigInteger.ONE)),
                    secretExponent.mod(q.subtract(BigInteger.ONE)),
                    coefficient)));
  }

  private static FileProblem damaged(Path file, Exception e) {
    return new FileProblem(
        file + " is no private key of SSH or age that can be read",
        "Name a key of yours with --open-with.",
        e);
  }
}
