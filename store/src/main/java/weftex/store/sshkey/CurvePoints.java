package weftex.store.sshkey;

import java.math.BigInteger;
import java.security.AlgorithmParameters;
import java.security.GeneralSecurityException;
import java.security.KeyFactory;
import java.security.PublicKey;
import java.security.spec.ECGenParameterSpec;
import java.security.spec.ECParameterSpec;
import java.security.spec.ECPoint;
import java.security.spec.ECPublicKeySpec;
import java.security.spec.EdECPoint;
import java.security.spec.EdECPublicKeySpec;
import java.security.spec.NamedParameterSpec;
import java.util.Arrays;

/** Keys on curves, from the bytes of a public key. */
final class CurvePoints {

  private static final int POINT_BYTES = 32;

  private CurvePoints() {}

  static PublicKey edwards(byte[] point) throws GeneralSecurityException, KeyProblem {
    if (point.length != POINT_BYTES) {
      throw new KeyProblem("its key is damaged");
    }
    byte[] y = new byte[POINT_BYTES];
    for (int i = 0; i < y.length; i++) {
      y[i] = point[y.length - 1 - i];
    }
    boolean odd = (y[0] & 0x80) != 0;
    y[0] &= 0x7f;
    EdECPoint at = new EdECPoint(odd, new BigInteger(1, y));
    return KeyFactory.getInstance("Ed25519")
        .generatePublic(new EdECPublicKeySpec(NamedParameterSpec.ED25519, at));
  }

  static PublicKey onCurve(String curve, byte[] point) throws GeneralSecurityException, KeyProblem {
    if (point.length % 2 == 0 || point[0] != 4) {
      throw new KeyProblem("its key is damaged");
    }
    AlgorithmParameters parameters = AlgorithmParameters.getInstance("EC");
    parameters.init(new ECGenParameterSpec(curve));
    int half = point.length / 2;
    ECPoint at =
        new ECPoint(
            new BigInteger(1, Arrays.copyOfRange(point, 1, half + 1)),
            new BigInteger(1, Arrays.copyOfRange(point, half + 1, point.length)));
    return KeyFactory.getInstance("EC")
        .generatePublic(
            new ECPublicKeySpec(at, parameters.getParameterSpec(ECParameterSpec.class)));
  }

  /** Both numbers of a signature, each as long as the curve says. */
  static byte[] pair(byte[] value, int length) throws KeyProblem {
    SshBlob numbers = new SshBlob(value);
    byte[] pair = new byte[2 * length];
    for (int i = 0; i < 2; i++) {
      byte[] number = numbers.integer().toByteArray();
      int from = number.length > length ? number.length - length : 0;
      int count = number.length - from;
      System.arraycopy(number, from, pair, (i + 1) * length - count, count);
    }
    numbers.end();
    return pair;
  }
}
