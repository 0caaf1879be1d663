package weftex.store.ssh;

import java.io.BufferedInputStream;
import java.io.BufferedOutputStream;
import java.io.DataInputStream;
import java.io.DataOutputStream;
import java.io.EOFException;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.charset.StandardCharsets;
import java.nio.file.AccessDeniedException;
import java.nio.file.NoSuchFileException;
import java.util.HashSet;
import java.util.Set;
import java.util.concurrent.TimeUnit;

/**
 * Requests and answers of the file transfer protocol as they go over a channel, which answers in
 * the order in which it was asked.
 */
final class SftpWire implements AutoCloseable {
  private static final int INIT = 1;
  private static final int VERSION = 2;

  private static final int HANDLE = 102;
  static final int DATA = 103;
  static final int NAME = 104;
  static final int ATTRS = 105;
  static final int EXTENDED_REPLY = 201;

  static final int OF_SIZE = 1;
  static final int OF_OWNER = 2;
  static final int OF_MODE = 4;
  static final int OF_TIMES = 8;

  private static final int MOST = 1 << 20;
  private static final int CLOSING_SECONDS = 5;

  private final Process process;
  private final DataInputStream in;
  private final DataOutputStream out;
  private final Set<String> extensions = new HashSet<>();
  private int next;
  private int unheard;
  private boolean broken;

  private SftpWire(Process process) {
    this.process = process;
    this.in = new DataInputStream(new BufferedInputStream(process.getInputStream(), 1 << 16));
    this.out = new DataOutputStream(new BufferedOutputStream(process.getOutputStream(), 1 << 16));
  }

  /** Begins in a running channel. */
  static SftpWire begin(Process process) throws IOException {
    SftpWire wire = new SftpWire(process);
    try {
      wire.out.writeInt(5);
      wire.out.write(INIT);
      wire.out.writeInt(3);
      ByteBuffer answer = wire.packet();
      if (answer.get() != VERSION) {
        throw stranger();
      }
      answer.getInt();
      while (answer.hasRemaining()) {
        wire.extensions.add(text(answer));
        text(answer);
      }
      return wire;
    } catch (IOException | RuntimeException e) {
      wire.close();
      throw e;
    }
  }

  private static IOException stranger() {
    return new IOException("the other side does not speak SFTP");
  }

  /** Whether the server has an extension of the protocol. */
  boolean has(String extension) {
    return extensions.contains(extension);
  }

  /** Whether the channel is still there. */
  boolean isUp() {
    return !broken && process.isAlive();
  }

  /** Gives the channel up: answers are still on their way that nobody waits for. */
  void breakOff() {
    broken = true;
    process.destroy();
  }

  SftpRequest request(int type) throws IOException {
    return new SftpRequest(type, next++);
  }

  void send(SftpRequest request) throws IOException {
    byte[] bytes = request.bytes.toByteArray();
    try {
      out.writeInt(bytes.length);
      out.write(bytes);
    } catch (IOException e) {
      throw cut(e);
    }
  }

  /** Sends a request whose answer nobody needs; all others that were sent have theirs. */
  void sendUnheard(SftpRequest request) throws IOException {
    send(request);
    flush();
    unheard++;
  }

  /** Nothing more comes through a channel that is cut, though its process may not know yet. */
  private Sftp.Cut cut(IOException e) {
    broken = true;
    return new Sftp.Cut(e);
  }

  private void flush() throws Sftp.Cut {
    try {
      out.flush();
    } catch (IOException e) {
      throw cut(e);
    }
  }

  private ByteBuffer packet() throws IOException {
    flush();
    try {
      int length = in.readInt();
      if (length < 1 || length > MOST) {
        throw stranger();
      }
      byte[] bytes = new byte[length];
      in.readFully(bytes);
      return ByteBuffer.wrap(bytes);
    } catch (EOFException e) {
      throw cut(e);
    }
  }

  /** The next answer, past its type and number. */
  SftpAnswer answer() throws IOException {
    for (; unheard > 0; unheard--) {
      packet();
    }
    ByteBuffer packet = packet();
    int type = packet.get() & 0xff;
    packet.getInt();
    return new SftpAnswer(type, packet);
  }

  SftpAnswer ask(SftpRequest request, String path) throws IOException {
    send(request);
    return checked(answer(), path);
  }

  static SftpAnswer checked(SftpAnswer answer, String path) throws IOException {
    switch (answer.status()) {
      case 0, 1 -> {
        return answer;
      }
      case 2 -> throw new NoSuchFileException(path);
      case 3 -> throw new AccessDeniedException(path);
      default -> {
        ByteBuffer body = answer.body();
        body.getInt();
        String said = body.hasRemaining() ? text(body) : "";
        throw new IOException(
            path + ": " + (said.isEmpty() || said.equals("Failure") ? "it is refused" : said));
      }
    }
  }

  static String text(ByteBuffer from) {
    byte[] bytes = new byte[from.getInt()];
    from.get(bytes);
    return new String(bytes, StandardCharsets.UTF_8);
  }

  static Sftp.Attributes attributes(ByteBuffer from) {
    int flags = from.getInt();
    long size = (flags & OF_SIZE) != 0 ? from.getLong() : 0;
    int owner = (flags & OF_OWNER) != 0 ? from.getInt() : 0;
    int group = (flags & OF_OWNER) != 0 ? from.getInt() : 0;
    int mode = (flags & OF_MODE) != 0 ? from.getInt() : 0;
    long modified = 0;
    if ((flags & OF_TIMES) != 0) {
      from.getInt();
      modified = from.getInt() & 0xffffffffL;
    }
    if (flags < 0) {
      for (int i = from.getInt(); i > 0; i--) {
        text(from);
        text(from);
      }
    }
    return new Sftp.Attributes(size, owner, group, mode, modified);
  }

  static byte[] handle(SftpAnswer answer) throws IOException {
    if (answer.type() != HANDLE) {
      throw stranger();
    }
    byte[] handle = new byte[answer.body().getInt()];
    answer.body().get(handle);
    return handle;
  }

  @Override
  public void close() {
    try {
      process.getOutputStream().close();
      if (!process.waitFor(CLOSING_SECONDS, TimeUnit.SECONDS)) {
        process.destroy();
      }
    } catch (IOException e) {
      process.destroy();
    } catch (InterruptedException e) {
      process.destroy();
      Thread.currentThread().interrupt();
    }
  }
}
