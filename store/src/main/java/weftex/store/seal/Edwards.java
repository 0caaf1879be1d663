package weftex.store.seal;

import com.exceptionfactory.jagged.RecipientStanzaReader;
import com.exceptionfactory.jagged.RecipientStanzaWriter;
import java.math.BigInteger;
import java.security.GeneralSecurityException;
import java.security.KeyFactory;
import java.security.KeyPair;
import java.security.KeyPairGenerator;
import java.security.MessageDigest;
import java.security.PrivateKey;
import java.security.PublicKey;
import java.security.interfaces.EdECPublicKey;
import java.security.interfaces.XECPublicKey;
import java.security.spec.NamedParameterSpec;
import java.security.spec.XECPrivateKeySpec;
import java.security.spec.XECPublicKeySpec;
import java.util.Arrays;
import java.util.Base64;
import java.util.List;
import javax.crypto.KeyAgreement;
import weftex.store.sshkey.SshKey;

/**
 * Stanzas for Ed25519 keys of SSH, {@code ssh-ed25519} of the age format: X25519 (RFC 7748) with
 * the point and the scalar that belong to such a key, and with a factor that binds the key's own
 * writing.
 */
final class Edwards {
  private static final String TYPE = SshKey.ED25519;
  private static final String LABEL = "age-encryption.org/v1/ssh-ed25519";
  private static final BigInteger FIELD =
      BigInteger.ONE.shiftLeft(255).subtract(BigInteger.valueOf(19));
  private static final int BYTES = 32;

  private Edwards() {}

  static RecipientStanzaWriter writer(SshKey receiver) throws GeneralSecurityException {
    byte[] theirs = point(receiver);
    String tag = FileKeyWrap.tag(receiver.blob());
    return fileKey -> {
      KeyPair once = KeyPairGenerator.getInstance("X25519").generateKeyPair();
      byte[] ours = littleEndian(((XECPublicKey) once.getPublic()).getU());
      byte[] shared = tweaked(agreed(once.getPrivate(), theirs), receiver);
      byte[] by = FileKeyWrap.derived(shared, salt(ours, theirs), LABEL);
      return List.of(
          new WrapStanza(
              TYPE, List.of(tag, FileKeyWrap.text(ours)), FileKeyWrap.wrapped(by, fileKey)));
    };
  }

  /**
   * Opens by a private key.
   *
   * @param seed its 32 bytes (RFC 8032)
   */
  static RecipientStanzaReader reader(SshKey own, byte[] seed) throws GeneralSecurityException {
    byte[] hash = MessageDigest.getInstance("SHA-512").digest(seed);
    PrivateKey scalar = scalar(Arrays.copyOf(hash, BYTES));
    byte[] ours = point(own);
    return stanzas ->
        FileKeyWrap.first(
            stanzas,
            TYPE,
            FileKeyWrap.tag(own.blob()),
            stanza -> {
              byte[] theirs = Base64.getDecoder().decode(stanza.getArguments().get(1));
              byte[] shared = tweaked(agreed(scalar, theirs), own);
              byte[] by = FileKeyWrap.derived(shared, salt(theirs, ours), LABEL);
              return FileKeyWrap.unwrapped(by, stanza.getBody());
            });
  }

  /** The public half of a scalar of X25519. */
  static byte[] atBase(byte[] scalar) throws GeneralSecurityException {
    byte[] base = new byte[BYTES];
    base[0] = 9;
    return agreed(scalar(scalar), base);
  }

  /** The u of a point from its y (RFC 7748, section 4.1): (1 + y) / (1 - y). */
  private static byte[] point(SshKey key) {
    BigInteger y = ((EdECPublicKey) key.key()).getPoint().getY();
    BigInteger divisor = BigInteger.ONE.subtract(y).modInverse(FIELD);
    return littleEndian(BigInteger.ONE.add(y).multiply(divisor).mod(FIELD));
  }

  private static byte[] tweaked(byte[] shared, SshKey key) throws GeneralSecurityException {
    return agreed(scalar(FileKeyWrap.derived(new byte[0], key.blob(), LABEL)), shared);
  }

  private static byte[] salt(byte[] once, byte[] receiver) {
    byte[] both = Arrays.copyOf(once, once.length + receiver.length);
    System.arraycopy(receiver, 0, both, once.length, receiver.length);
    return both;
  }

  private static PrivateKey scalar(byte[] bytes) throws GeneralSecurityException {
    return KeyFactory.getInstance("X25519")
        .generatePrivate(new XECPrivateKeySpec(NamedParameterSpec.X25519, bytes));
  }

  private static byte[] agreed(PrivateKey scalar, byte[] u) throws GeneralSecurityException {
    if (u.length != BYTES) {
      throw new GeneralSecurityException("a point has " + u.length + " bytes");
    }
    byte[] turned = turned(u);
    turned[0] &= 0x7f;
    PublicKey point =
        KeyFactory.getInstance("X25519")
            .generatePublic(
                new XECPublicKeySpec(NamedParameterSpec.X25519, new BigInteger(1, turned)));
    KeyAgreement agreement = KeyAgreement.getInstance("X25519");
    agreement.init(scalar);
    agreement.doPhase(point, true);
    return agreement.generateSecret();
  }

  private static byte[] littleEndian(BigInteger number) {
    byte[] digits = number.toByteArray();
    byte[] all = new byte[BYTES];
    for (int i = 0; i < Math.min(BYTES, digits.length); i++) {
      all[i] = digits[digits.length - 1 - i];
    }
    return all;
  }

  private static byte[] turned(byte[] bytes) {
    byte[] turned = new byte[bytes.length];
    for (int i = 0; i < bytes.length; i++) {
      turned[i] = bytes[bytes.length - 1 - i];
    }
    return turned;
  }
}
