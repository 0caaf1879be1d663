package weftex.store.ssh;

import java.io.IOException;
import java.io.OutputStream;
import java.nio.ByteBuffer;

/** What a server answers: its kind, and what follows. */
record SftpAnswer(int type, ByteBuffer body) {

  private static final int STATUS = 101;

  /** Hands on the bytes of a piece, and returns how many they are. */
  int into(OutputStream sink) throws IOException {
    int count = body.getInt();
    sink.write(body.array(), body.position(), count);
    return count;
  }

  int status() {
    return type == STATUS ? body.getInt(body.position()) : 0;
  }
}
