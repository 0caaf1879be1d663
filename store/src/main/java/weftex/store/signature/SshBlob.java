package weftex.store.signature;

import java.math.BigInteger;
import java.nio.BufferUnderflowException;
import java.nio.ByteBuffer;
import java.nio.charset.StandardCharsets;

/** Reads the data types of RFC 4251, section 5. */
final class SshBlob {
  private final ByteBuffer bytes;

  SshBlob(byte[] bytes) {
    this.bytes = ByteBuffer.wrap(bytes);
  }

  byte[] raw(int count) throws SignatureProblem {
    try {
      byte[] some = new byte[Math.min(count, bytes.remaining() + 1)];
      bytes.get(some);
      return some;
    } catch (BufferUnderflowException | NegativeArraySizeException e) {
      throw new SignatureProblem("it ends too early", e);
    }
  }

  int number() throws SignatureProblem {
    return ByteBuffer.wrap(raw(Integer.BYTES)).getInt();
  }

  byte[] string() throws SignatureProblem {
    return raw(number());
  }

  String text() throws SignatureProblem {
    return new String(string(), StandardCharsets.UTF_8);
  }

  BigInteger integer() throws SignatureProblem {
    byte[] digits = string();
    return digits.length == 0 ? BigInteger.ZERO : new BigInteger(digits);
  }

  /** Nothing may follow. */
  void end() throws SignatureProblem {
    if (bytes.hasRemaining()) {
      throw new SignatureProblem("something follows it that has no place there");
    }
  }
}
