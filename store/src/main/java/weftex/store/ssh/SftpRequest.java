package weftex.store.ssh;

import java.io.ByteArrayOutputStream;
import java.io.DataOutputStream;
import java.io.IOException;
import java.nio.charset.StandardCharsets;

/** A request to be sent: its kind, a number that the answer names, and its members. */
final class SftpRequest {
  final ByteArrayOutputStream bytes = new ByteArrayOutputStream();
  private final DataOutputStream data = new DataOutputStream(bytes);

  SftpRequest(int type, int id) throws IOException {
    data.write(type);
    data.writeInt(id);
  }

  SftpRequest text(String text) throws IOException {
    return bytes(text.getBytes(StandardCharsets.UTF_8), -1);
  }

  SftpRequest bytes(byte[] some, int count) throws IOException {
    int length = count < 0 ? some.length : count;
    data.writeInt(length);
    data.write(some, 0, length);
    return this;
  }

  SftpRequest number(int number) throws IOException {
    data.writeInt(number);
    return this;
  }

  SftpRequest large(long number) throws IOException {
    data.writeLong(number);
    return this;
  }
}
