package weftex.store.signature;

import java.io.ByteArrayOutputStream;
import java.io.DataOutputStream;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.security.GeneralSecurityException;
import java.security.MessageDigest;
import java.util.Arrays;
import java.util.Base64;
import java.util.Map;
import weftex.store.sshkey.KeyProblem;
import weftex.store.sshkey.SshBlob;
import weftex.store.sshkey.SshKey;

/**
 * A signature by an SSH key, in the format that {@code ssh-keygen -Y} writes and verifies
 * (OpenSSH's PROTOCOL.sshsig, version 1).
 */
final class SshSignature {
  /** What the signature is for, so that one for another use is none. */
  static final String NAMESPACE = "weftex";

  private static final byte[] MAGIC = "SSHSIG".getBytes(StandardCharsets.US_ASCII);
  private static final String BEGIN = "-----BEGIN SSH SIGNATURE-----";
  private static final String END = "-----END SSH SIGNATURE-----";
  private static final Map<String, String> HASHES =
      Map.of("sha256", "SHA-256", "sha512", "SHA-512");

  private final SshKey key;
  private final String hash;
  private final byte[] reserved;
  private final byte[] value;

  private SshSignature(SshKey key, String hash, byte[] reserved, byte[] value) {
    this.key = key;
    this.hash = hash;
    this.reserved = reserved;
    this.value = value;
  }

  /** Reads a signature between its two lines. */
  static SshSignature of(String armored) throws KeyProblem {
    String text = armored.strip();
    if (!text.startsWith(BEGIN) || !text.endsWith(END)) {
      throw new KeyProblem("it is no signature by an SSH key");
    }
    byte[] bytes;
    try {
      bytes =
          Base64.getMimeDecoder()
              .decode(text.substring(BEGIN.length(), text.length() - END.length()).strip());
    } catch (IllegalArgumentException e) {
      throw new KeyProblem("it is damaged", e);
    }
    SshBlob in = new SshBlob(bytes);
    if (!Arrays.equals(in.raw(MAGIC.length), MAGIC) || in.number() != 1) {
      throw new KeyProblem("it is no signature by an SSH key");
    }
    SshKey key = SshKey.of(in.string());
    String namespace = in.text();
    if (!namespace.equals(NAMESPACE)) {
      throw new KeyProblem("it was made for '" + namespace + "', not for " + NAMESPACE);
    }
    byte[] reserved = in.string();
    String hash = in.text();
    if (!HASHES.containsKey(hash)) {
      throw new KeyProblem("it is over a hash by " + hash + ", which does not count here");
    }
    byte[] value = in.string();
    in.end();
    return new SshSignature(key, hash, reserved, value);
  }

  SshKey key() {
    return key;
  }

  /** Whether it is the key's over these bytes. */
  boolean isOf(byte[] message) throws KeyProblem {
    try {
      ByteArrayOutputStream bytes = new ByteArrayOutputStream();
      DataOutputStream out = new DataOutputStream(bytes);
      out.write(MAGIC);
      for (byte[] part :
          new byte[][] {
            NAMESPACE.getBytes(StandardCharsets.US_ASCII),
            reserved,
            hash.getBytes(StandardCharsets.US_ASCII),
            MessageDigest.getInstance(HASHES.get(hash)).digest(message)
          }) {
        out.writeInt(part.length);
        out.write(part);
      }
      return key.verifies(bytes.toByteArray(), value);
    } catch (IOException | GeneralSecurityException e) {
      throw new IllegalStateException("every Java can do that", e);
    }
  }
}
