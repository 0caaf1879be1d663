package weftex.store.sshkey;

import java.io.ByteArrayOutputStream;
import java.math.BigInteger;
import java.security.GeneralSecurityException;
import java.security.KeyFactory;
import java.security.MessageDigest;
import java.security.PublicKey;
import java.security.Signature;
import java.security.spec.RSAPublicKeySpec;
import java.util.Arrays;
import java.util.Base64;
import java.util.Map;

/**
 * A public key as SSH writes it (RFC 4253 section 6.6, RFC 5656, RFC 8709, and OpenSSH's
 * PROTOCOL.u2f for keys on a token). Java's own algorithms verify.
 */
public final class SshKey {
  /** What keys of Edwards' curve are called. */
  public static final String ED25519 = "ssh-ed25519";

  /** What RSA keys are called. */
  public static final String RSA = "ssh-rsa";

  private static final String ON_TOKEN = "sk-ssh-ed25519@openssh.com";
  private static final int FEWEST_BITS = 2048;

  /** Curves, and the digest that belongs to each. */
  private static final Map<String, String[]> CURVES =
      Map.of(
          "ecdsa-sha2-nistp256", new String[] {"secp256r1", "SHA256", "32"},
          "ecdsa-sha2-nistp384", new String[] {"secp384r1", "SHA384", "48"},
          "ecdsa-sha2-nistp521", new String[] {"secp521r1", "SHA512", "66"});

  private final byte[] blob;
  private final String kind;
  private final PublicKey key;

  /** What a token mixes into what it signs; empty for other keys. */
  private final byte[] application;

  private SshKey(byte[] blob, String kind, PublicKey key, byte[] application) {
    this.blob = blob;
    this.kind = kind;
    this.key = key;
    this.application = application;
  }

  /** Reads a key. */
  public static SshKey of(byte[] blob) throws KeyProblem {
    SshBlob in = new SshBlob(blob);
    String kind = in.text();
    byte[] application = new byte[0];
    PublicKey key;
    try {
      if (kind.equals(ED25519) || kind.equals(ON_TOKEN)) {
        key = CurvePoints.edwards(in.string());
        application = kind.equals(ON_TOKEN) ? in.string() : application;
      } else if (kind.equals(RSA)) {
        BigInteger exponent = in.integer();
        BigInteger modulus = in.integer();
        if (modulus.bitLength() < FEWEST_BITS) {
          throw new KeyProblem("its key has only " + modulus.bitLength() + " bits");
        }
        key = KeyFactory.getInstance("RSA").generatePublic(new RSAPublicKeySpec(modulus, exponent));
      } else if (CURVES.containsKey(kind)) {
        in.text();
        key = CurvePoints.onCurve(CURVES.get(kind)[0], in.string());
      } else {
        throw new KeyProblem("keys of the kind " + kind + " are not known here");
      }
    } catch (GeneralSecurityException | RuntimeException e) {
      throw new KeyProblem("its key is damaged", e);
    }
    in.end();
    return new SshKey(blob, kind, key, application);
  }

  /** Whether a signature of some bytes was made by this key. */
  public boolean verifies(byte[] signed, byte[] signature) throws KeyProblem {
    SshBlob in = new SshBlob(signature);
    String algorithm = in.text();
    byte[] value = in.string();
    try {
      if (CURVES.containsKey(kind) && algorithm.equals(kind)) {
        in.end();
        String[] curve = CURVES.get(kind);
        byte[] pair = CurvePoints.pair(value, Integer.parseInt(curve[2]));
        return verifies(curve[1] + "withECDSAinP1363Format", signed, pair);
      }
      if (kind.equals(RSA) && algorithm.equals("rsa-sha2-512")) {
        in.end();
        return verifies("SHA512withRSA", signed, value);
      }
      if (kind.equals(RSA) && algorithm.equals("rsa-sha2-256")) {
        in.end();
        return verifies("SHA256withRSA", signed, value);
      }
      if (kind.equals(ED25519) && algorithm.equals(ED25519)) {
        in.end();
        return verifies("Ed25519", signed, value);
      }
      if (kind.equals(ON_TOKEN) && algorithm.equals(ON_TOKEN)) {
        byte[] state = in.raw(1 + Integer.BYTES);
        in.end();
        return verifies("Ed25519", byToken(state, signed), value);
      }
    } catch (GeneralSecurityException e) {
      throw new KeyProblem("it is damaged", e);
    }
    throw new KeyProblem("it is made by " + algorithm + ", which does not count here");
  }

  private boolean verifies(String by, byte[] signed, byte[] value) throws GeneralSecurityException {
    Signature verifier = Signature.getInstance(by);
    verifier.initVerify(key);
    verifier.update(signed);
    return verifier.verify(value);
  }

  private byte[] byToken(byte[] state, byte[] signed) throws GeneralSecurityException {
    ByteArrayOutputStream all = new ByteArrayOutputStream();
    all.writeBytes(MessageDigest.getInstance("SHA-256").digest(application));
    all.writeBytes(state);
    all.writeBytes(MessageDigest.getInstance("SHA-256").digest(signed));
    return all.toByteArray();
  }

  /** What it is, such as {@code ssh-ed25519}. */
  public String kind() {
    return kind;
  }

  /** As it is written, without Base64. */
  public byte[] blob() {
    return blob.clone();
  }

  /** As Java has it. */
  public PublicKey key() {
    return key;
  }

  /** How people call it: {@code SHA256:} and 43 signs, as {@code ssh-keygen -l} shows it. */
  public String fingerprint() {
    try {
      byte[] hash = MessageDigest.getInstance("SHA-256").digest(blob);
      return "SHA256:" + Base64.getEncoder().withoutPadding().encodeToString(hash);
    } catch (GeneralSecurityException e) {
      throw new IllegalStateException("every Java has SHA-256", e);
    }
  }

  @Override
  public boolean equals(Object other) {
    return other instanceof SshKey key && Arrays.equals(blob, key.blob);
  }

  @Override
  public int hashCode() {
    return Arrays.hashCode(blob);
  }
}
