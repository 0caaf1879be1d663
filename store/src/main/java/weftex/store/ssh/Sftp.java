package weftex.store.ssh;

import java.io.BufferedInputStream;
import java.io.BufferedOutputStream;
import java.io.ByteArrayOutputStream;
import java.io.DataInputStream;
import java.io.DataOutputStream;
import java.io.EOFException;
import java.io.IOException;
import java.io.InputStream;
import java.io.OutputStream;
import java.nio.ByteBuffer;
import java.nio.charset.StandardCharsets;
import java.nio.file.AccessDeniedException;
import java.nio.file.FileAlreadyExistsException;
import java.nio.file.NoSuchFileException;
import java.util.ArrayDeque;
import java.util.ArrayList;
import java.util.Deque;
import java.util.HashSet;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.concurrent.TimeUnit;

/**
 * The file transfer protocol of SSH, version 3 (draft-ietf-secsh-filexfer-02), as OpenSSH's server
 * speaks it, with that server's extensions where it has them. It runs in a channel of a line that
 * the machine's own client holds, which no library of the protocol can take over. Several requests
 * are on their way at once; the answers come in their order. Not for several threads.
 */
public final class Sftp implements AutoCloseable {
  private static final int INIT = 1;
  private static final int VERSION = 2;
  private static final int OPEN = 3;
  private static final int CLOSE = 4;
  private static final int READ = 5;
  private static final int WRITE = 6;
  private static final int LSTAT = 7;
  private static final int SETSTAT = 9;
  private static final int OPENDIR = 11;
  private static final int READDIR = 12;
  private static final int REMOVE = 13;
  private static final int MKDIR = 14;
  private static final int RMDIR = 15;
  private static final int REALPATH = 16;
  private static final int STAT = 17;
  private static final int RENAME = 18;
  private static final int STATUS = 101;
  private static final int HANDLE = 102;
  private static final int DATA = 103;
  private static final int NAME = 104;
  private static final int ATTRS = 105;
  private static final int EXTENDED = 200;
  private static final int EXTENDED_REPLY = 201;

  private static final int OF_SIZE = 1;
  private static final int OF_OWNER = 2;
  private static final int OF_MODE = 4;
  private static final int OF_TIMES = 8;

  private static final int TYPE = 0170000;
  private static final int IS_FOLDER = 0040000;
  private static final int IS_FILE = 0100000;
  private static final int IS_LINK = 0120000;

  private static final int TO_READ = 1;

  /** To write, made anew, and only where nothing is. */
  private static final int TO_CREATE = 2 | 8 | 32;

  private static final int TO_GO_ON = 2;

  /** Every server of version 3 takes and gives this much at once. */
  private static final int PIECE = 32 << 10;

  private static final int ON_THEIR_WAY = 48;
  private static final int LISTINGS_ON_THEIR_WAY = 6;
  private static final int MOST = 1 << 20;
  private static final int CLOSING_SECONDS = 5;

  private final Process process;
  private final DataInputStream in;
  private final DataOutputStream out;
  private final Set<String> extensions = new HashSet<>();
  private int next;
  private boolean broken;

  private Sftp(Process process) {
    this.process = process;
    this.in = new DataInputStream(new BufferedInputStream(process.getInputStream(), 1 << 16));
    this.out = new DataOutputStream(new BufferedOutputStream(process.getOutputStream(), 1 << 16));
  }

  /**
   * What lies somewhere.
   *
   * @param size in bytes
   * @param mode permissions, as {@code chmod} takes them, with the kind of thing above them
   * @param modified in seconds since 1970
   */
  public record Attributes(long size, int owner, int group, int mode, long modified) {
    public boolean isFile() {
      return (mode & TYPE) == IS_FILE;
    }

    public boolean isFolder() {
      return (mode & TYPE) == IS_FOLDER;
    }

    public boolean isLink() {
      return (mode & TYPE) == IS_LINK;
    }
  }

  /** One name in a folder. */
  public record Named(String name, Attributes attributes) {}

  /** Begins in a running channel. */
  static Sftp begin(Process process) throws IOException {
    Sftp sftp = new Sftp(process);
    try {
      sftp.out.writeInt(5);
      sftp.out.write(INIT);
      sftp.out.writeInt(3);
      sftp.out.flush();
      ByteBuffer answer = sftp.packet();
      if (answer.get() != VERSION) {
        throw new IOException("the other side does not speak SFTP");
      }
      answer.getInt();
      while (answer.hasRemaining()) {
        sftp.extensions.add(text(answer));
        text(answer);
      }
      return sftp;
    } catch (IOException | RuntimeException e) {
      sftp.close();
      throw e;
    }
  }

  /** Whether the channel is still there. */
  public boolean isUp() {
    return !broken && process.isAlive();
  }

  /** Gives the channel up: answers are still on their way that nobody waits for. */
  private void breakOff() {
    broken = true;
    process.destroy();
  }

  private static final class Request {
    private final ByteArrayOutputStream bytes = new ByteArrayOutputStream();
    private final DataOutputStream data = new DataOutputStream(bytes);

    private Request(int type, int id) throws IOException {
      data.write(type);
      data.writeInt(id);
    }

    private Request text(String text) throws IOException {
      return bytes(text.getBytes(StandardCharsets.UTF_8), -1);
    }

    private Request bytes(byte[] some, int count) throws IOException {
      int length = count < 0 ? some.length : count;
      data.writeInt(length);
      data.write(some, 0, length);
      return this;
    }

    private Request number(int number) throws IOException {
      data.writeInt(number);
      return this;
    }

    private Request large(long number) throws IOException {
      data.writeLong(number);
      return this;
    }
  }

  private Request request(int type) throws IOException {
    return new Request(type, next++);
  }

  private void send(Request request) throws IOException {
    byte[] bytes = request.bytes.toByteArray();
    out.writeInt(bytes.length);
    out.write(bytes);
  }

  private ByteBuffer packet() throws IOException {
    try {
      out.flush();
      int length = in.readInt();
      if (length < 1 || length > MOST) {
        throw new IOException("the other side does not speak SFTP");
      }
      byte[] bytes = new byte[length];
      in.readFully(bytes);
      return ByteBuffer.wrap(bytes);
    } catch (EOFException e) {
      throw new Cut(e);
    }
  }

  /** The line was cut. */
  public static final class Cut extends IOException {
    private static final long serialVersionUID = 1;

    Cut(Exception cause) {
      super("the line over SSH was cut", cause);
    }
  }

  /** The next answer, past its type and number. */
  private Answer answer() throws IOException {
    ByteBuffer packet = packet();
    int type = packet.get() & 0xff;
    packet.getInt();
    return new Answer(type, packet);
  }

  private record Answer(int type, ByteBuffer body) {
    int status() {
      return type == STATUS ? body.getInt(body.position()) : 0;
    }
  }

  private Answer ask(Request request, String path) throws IOException {
    send(request);
    return checked(answer(), path);
  }

  private static Answer checked(Answer answer, String path) throws IOException {
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

  private static String text(ByteBuffer from) {
    byte[] bytes = new byte[from.getInt()];
    from.get(bytes);
    return new String(bytes, StandardCharsets.UTF_8);
  }

  private static Attributes attributes(ByteBuffer from) {
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
    return new Attributes(size, owner, group, mode, modified);
  }

  /** What lies at a path, links not followed; empty if nothing does. */
  public Optional<Attributes> find(String path) throws IOException {
    return attributes(LSTAT, path);
  }

  /** What a path leads to, links followed; empty if nothing is there. */
  public Optional<Attributes> follow(String path) throws IOException {
    return attributes(STAT, path);
  }

  private Optional<Attributes> attributes(int type, String path) throws IOException {
    send(request(type).text(path));
    Answer answer = answer();
    if (answer.status() == 2) {
      return Optional.empty();
    }
    Answer whole = checked(answer, path);
    return whole.type() == ATTRS ? Optional.of(attributes(whole.body())) : Optional.empty();
  }

  /** The path without links and dots; empty if it leads nowhere. */
  public Optional<String> real(String path) throws IOException {
    send(request(REALPATH).text(path));
    Answer answer = answer();
    if (answer.status() == 2) {
      return Optional.empty();
    }
    Answer whole = checked(answer, path);
    if (whole.type() != NAME || whole.body().getInt() < 1) {
      return Optional.empty();
    }
    return Optional.of(text(whole.body()));
  }

  /** Everything directly in a folder, but for itself and the one above. */
  public List<Named> list(String path) throws IOException {
    Answer opened = ask(request(OPENDIR).text(path), path);
    byte[] handle = handle(opened);
    List<Named> all = new ArrayList<>();
    boolean ended = false;
    int open = 0;
    IOException failed = null;
    while (!ended || open > 0) {
      while (!ended && open < LISTINGS_ON_THEIR_WAY) {
        send(request(READDIR).bytes(handle, -1));
        open++;
      }
      Answer answer = answer();
      open--;
      if (answer.type() != NAME) {
        ended = true;
        try {
          checked(answer, path);
        } catch (IOException e) {
          failed = e;
        }
        continue;
      }
      ByteBuffer body = answer.body();
      for (int i = body.getInt(); i > 0; i--) {
        String name = text(body);
        text(body);
        Attributes attributes = attributes(body);
        if (!name.equals(".") && !name.equals("..")) {
          all.add(new Named(name, attributes));
        }
      }
    }
    close(handle, path);
    if (failed != null) {
      throw failed;
    }
    return all;
  }

  private static byte[] handle(Answer answer) throws IOException {
    if (answer.type() != HANDLE) {
      throw new IOException("the other side does not speak SFTP");
    }
    byte[] handle = new byte[answer.body().getInt()];
    answer.body().get(handle);
    return handle;
  }

  private void close(byte[] handle, String path) throws IOException {
    ask(request(CLOSE).bytes(handle, -1), path);
  }

  /**
   * Reads a whole file into a stream.
   *
   * @param expected how many bytes it is likely to have
   */
  public void read(String path, long expected, OutputStream into) throws IOException {
    byte[] handle = handle(ask(request(OPEN).text(path).number(TO_READ).number(0), path));
    try {
      Deque<long[]> wanted = new ArrayDeque<>();
      long at = 0;
      boolean ended = false;
      while (!ended || !wanted.isEmpty()) {
        while (!ended && wanted.size() < ON_THEIR_WAY && (at <= expected || wanted.isEmpty())) {
          askFor(handle, at, PIECE, wanted);
          at += PIECE;
        }
        long[] piece = wanted.removeFirst();
        Answer answer = checked(answer(), path);
        if (answer.type() != DATA) {
          ended = true;
          continue;
        }
        int count = answer.body().getInt();
        into.write(answer.body().array(), answer.body().position(), count);
        if (count < piece[1]) {
          // A short piece is the end, mostly: what was asked for beyond it is asked for anew.
          for (int i = wanted.size(); i > 0; i--) {
            answer();
          }
          wanted.clear();
          at = piece[0] + count;
          askFor(handle, at, PIECE, wanted);
          at += PIECE;
        }
      }
      close(handle, path);
    } catch (IOException e) {
      breakOff();
      throw e;
    }
  }

  private void askFor(byte[] handle, long at, int count, Deque<long[]> wanted) throws IOException {
    send(request(READ).bytes(handle, -1).large(at).number(count));
    wanted.add(new long[] {at, count});
  }

  /**
   * Writes a file; it is on the disk when this returns, where the server can say so.
   *
   * @param from where to begin: 0 for a new file, which must not be there
   * @param content from there on
   */
  public void write(String path, long from, InputStream content) throws IOException {
    Request opening =
        request(OPEN)
            .text(path)
            .number(from == 0 ? TO_CREATE : TO_GO_ON)
            .number(OF_MODE)
            .number(0600);
    byte[] handle;
    try {
      handle = handle(ask(opening, path));
    } catch (NoSuchFileException | AccessDeniedException e) {
      throw e;
    } catch (Cut e) {
      throw e;
    } catch (IOException e) {
      throw from == 0 && find(path).isPresent() ? new FileAlreadyExistsException(path) : e;
    }
    try {
      pieces(handle, path, from, content);
    } catch (IOException e) {
      breakOff();
      throw e;
    }
  }

  private void pieces(byte[] handle, String path, long from, InputStream content)
      throws IOException {
    byte[] piece = new byte[PIECE];
    long at = from;
    int open = 0;
    for (int count = content.readNBytes(piece, 0, PIECE);
        count > 0;
        count = content.readNBytes(piece, 0, PIECE)) {
      send(request(WRITE).bytes(handle, -1).large(at).bytes(piece, count));
      at += count;
      if (++open == ON_THEIR_WAY) {
        checked(answer(), path);
        open--;
      }
    }
    // The rest is asked for at once, and the answers come in this order.
    boolean syncs = extensions.contains("fsync@openssh.com");
    if (syncs) {
      send(request(EXTENDED).text("fsync@openssh.com").bytes(handle, -1));
    }
    send(request(CLOSE).bytes(handle, -1));
    for (int left = open + (syncs ? 2 : 1); left > 0; left--) {
      checked(answer(), path);
    }
  }

  /** Gives a file another name, which nothing may have yet. */
  public void rename(String from, String to) throws IOException {
    try {
      ask(request(RENAME).text(from).text(to), to);
    } catch (NoSuchFileException | AccessDeniedException | Cut e) {
      throw e;
    } catch (IOException e) {
      throw find(to).isPresent() ? new FileAlreadyExistsException(to) : e;
    }
  }

  /**
   * Puts a file in the place of another one, in one step.
   *
   * @throws IOException also if the server can't do that
   */
  public void replace(String from, String to) throws IOException {
    if (!extensions.contains("posix-rename@openssh.com")) {
      throw new IOException("the server can't put a file in the place of another in one step");
    }
    ask(request(EXTENDED).text("posix-rename@openssh.com").text(from).text(to), to);
  }

  /** Deletes a file. */
  public void delete(String path) throws IOException {
    ask(request(REMOVE).text(path), path);
  }

  /** Makes a folder. */
  public void makeFolder(String path, int mode) throws IOException {
    ask(request(MKDIR).text(path).number(OF_MODE).number(mode & 07777), path);
  }

  /** Deletes a folder in which nothing is. */
  public void deleteFolder(String path) throws IOException {
    ask(request(RMDIR).text(path), path);
  }

  /** Sets permissions. */
  public void mode(String path, int mode) throws IOException {
    ask(request(SETSTAT).text(path).number(OF_MODE).number(mode & 07777), path);
  }

  /** Sets the owner, by numbers. */
  public void owner(String path, int owner, int group) throws IOException {
    ask(request(SETSTAT).text(path).number(OF_OWNER).number(owner).number(group), path);
  }

  /** Sets when a file was last written, in seconds since 1970. */
  public void modified(String path, long at) throws IOException {
    ask(request(SETSTAT).text(path).number(OF_TIMES).number((int) at).number((int) at), path);
  }

  /** How many bytes there is room for; empty if the server does not say. */
  public Optional<Long> room(String path) throws IOException {
    if (!extensions.contains("statvfs@openssh.com")) {
      return Optional.empty();
    }
    Answer answer = ask(request(EXTENDED).text("statvfs@openssh.com").text(path), path);
    if (answer.type() != EXTENDED_REPLY) {
      return Optional.empty();
    }
    ByteBuffer body = answer.body();
    body.getLong();
    long block = body.getLong();
    body.getLong();
    body.getLong();
    return Optional.of(block * body.getLong());
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
