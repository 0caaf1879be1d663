package weftex.store.sshkey;

import java.math.BigInteger;
import java.nio.BufferUnderflowException;
import java.nio.ByteBuffer;
import java.nio.charset.StandardCharsets;

/** Reads the data types of RFC 4251, section 5. */
public final class SshBlob {
  private final ByteBuffer bytes;

  public SshBlob(byte[] bytes) {
    this.bytes = ByteBuffer.wrap(bytes);
  }

  public byte[] raw(int count) throws KeyProblem {
    try {
      byte[] some = new byte[Math.min(count, bytes.remaining() + 1)];
      bytes.get(some);
      return some;
    } catch (BufferUnderflowException | NegativeArraySizeException e) {
      throw new KeyProblem("it ends too early", e);
    }
  }

  public int number() throws KeyProblem {
    return ByteBuffer.wrap(raw(Integer.BYTES)).getInt();
  }

  public byte[] string() throws KeyProblem {
    return raw(number());
  }

  public String text() throws KeyProblem {
    return new String(string(), StandardCharsets.UTF_8);
  }

  public BigInteger integer() throws KeyProblem {
    byte[] digits = string();
    return digits.length == 0 ? BigInteger.ZERO : new BigInteger(digits);
  }

  /** Nothing may follow. */
  public void end() throws KeyProblem {
    if (bytes.hasRemaining()) {
      throw new KeyProblem("something follows it that has no place there");
    }
  }
}
