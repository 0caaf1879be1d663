package weftex.store.ssh;

import java.io.IOException;
import java.io.InputStream;
import java.io.OutputStream;
import java.nio.ByteBuffer;
import java.nio.file.AccessDeniedException;
import java.nio.file.FileAlreadyExistsException;
import java.nio.file.NoSuchFileException;
import java.util.ArrayDeque;
import java.util.ArrayList;
import java.util.Deque;
import java.util.List;
import java.util.Optional;
import java.util.OptionalLong;

/**
 * The file transfer protocol of SSH, version 3 (draft-ietf-secsh-filexfer-02), as OpenSSH's server
 * speaks it, with that server's extensions where it has them. It runs in a channel of a line that
 * the machine's own client holds, which no library of the protocol can take over. Several requests
 * are on their way at once; the answers come in their order. Not for several threads.
 */
public final class Sftp implements AutoCloseable {
  private static final int OPEN = 3;
  private static final int CLOSE = 4;
  private static final int READ = 5;
  private static final int WRITE = 6;
  private static final int LSTAT = 7;
  private static final int SETSTAT = 9;
  private static final int FSETSTAT = 10;
  private static final int OPENDIR = 11;
  private static final int READDIR = 12;
  private static final int REMOVE = 13;
  private static final int MKDIR = 14;
  private static final int RMDIR = 15;
  private static final int REALPATH = 16;
  private static final int STAT = 17;
  private static final int RENAME = 18;
  private static final int EXTENDED = 200;

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

  private final SftpWire wire;

  private Sftp(SftpWire wire) {
    this.wire = wire;
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
    return new Sftp(SftpWire.begin(process));
  }

  /** Whether the channel is still there. */
  public boolean isUp() {
    return wire.isUp();
  }

  /** The line was cut. */
  public static final class Cut extends IOException {
    private static final long serialVersionUID = 1;

    Cut(Exception cause) {
      super("the line over SSH was cut", cause);
    }
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
    wire.send(wire.request(type).text(path));
    SftpAnswer answer = wire.answer();
    if (answer.status() == 2) {
      return Optional.empty();
    }
    SftpAnswer whole = SftpWire.checked(answer, path);
    return whole.type() == SftpWire.ATTRS
        ? Optional.of(SftpWire.attributes(whole.body()))
        : Optional.empty();
  }

  /** The path without links and dots; empty if it leads nowhere. */
  public Optional<String> real(String path) throws IOException {
    wire.send(wire.request(REALPATH).text(path));
    SftpAnswer answer = wire.answer();
    if (answer.status() == 2) {
      return Optional.empty();
    }
    SftpAnswer whole = SftpWire.checked(answer, path);
    if (whole.type() != SftpWire.NAME || whole.body().getInt() < 1) {
      return Optional.empty();
    }
    return Optional.of(SftpWire.text(whole.body()));
  }

  /** Everything directly in a folder, but for itself and the one above. */
  public List<Named> list(String path) throws IOException {
    SftpAnswer opened = wire.ask(wire.request(OPENDIR).text(path), path);
    byte[] handle = SftpWire.handle(opened);
    List<Named> all = new ArrayList<>();
    boolean ended = false;
    int open = 0;
    IOException failed = null;
    while (!ended || open > 0) {
      while (!ended && open < LISTINGS_ON_THEIR_WAY) {
        wire.send(wire.request(READDIR).bytes(handle, -1));
        open++;
      }
      SftpAnswer answer = wire.answer();
      open--;
      if (answer.type() != SftpWire.NAME) {
        ended = true;
        try {
          SftpWire.checked(answer, path);
        } catch (IOException e) {
          failed = e;
        }
        continue;
      }
      ByteBuffer body = answer.body();
      for (int i = body.getInt(); i > 0; i--) {
        String name = SftpWire.text(body);
        SftpWire.text(body);
        Attributes attributes = SftpWire.attributes(body);
        if (!name.equals(".") && !name.equals("..")) {
          all.add(new Named(name, attributes));
        }
      }
    }
    wire.sendUnheard(wire.request(CLOSE).bytes(handle, -1));
    if (failed != null) {
      throw failed;
    }
    return all;
  }

  /**
   * Reads a whole file into a stream.
   *
   * @param expected how many bytes it is likely to have
   */
  public void read(String path, long expected, OutputStream into) throws IOException {
    byte[] handle =
        SftpWire.handle(wire.ask(wire.request(OPEN).text(path).number(TO_READ).number(0), path));
    try {
      Deque<long[]> wanted = new ArrayDeque<>();
      long at = 0;
      boolean ended = false;
      while (!ended || !wanted.isEmpty()) {
        while (!ended && wanted.size() < ON_THEIR_WAY && (at <= expected || wanted.isEmpty())) {
          at = askFor(handle, at, expected, wanted);
        }
        long[] piece = wanted.removeFirst();
        SftpAnswer answer = SftpWire.checked(wire.answer(), path);
        if (answer.type() != SftpWire.DATA) {
          ended = true;
          continue;
        }
        int count = answer.into(into);
        if (count < piece[1]) {
          // A short piece is the end, mostly: what was asked for beyond it is asked for anew.
          for (int i = wanted.size(); i > 0; i--) {
            wire.answer();
          }
          wanted.clear();
          at = askFor(handle, piece[0] + count, expected, wanted);
        }
      }
      wire.sendUnheard(wire.request(CLOSE).bytes(handle, -1));
    } catch (IOException e) {
      wire.breakOff();
      throw e;
    }
  }

  /** Asks for the next piece, up to where the end is likely to be; returns what is beyond it. */
  private long askFor(byte[] handle, long at, long expected, Deque<long[]> wanted)
      throws IOException {
    int count = (int) (at < expected ? Math.min(PIECE, expected - at) : PIECE);
    wire.send(wire.request(READ).bytes(handle, -1).large(at).number(count));
    wanted.add(new long[] {at, count});
    return at + count;
  }

  /**
   * What a file is to be like once it is written.
   *
   * @param mode permissions, as {@code chmod} takes them
   * @param modified when it was last written, in seconds since 1970, if that is known
   */
  public record Manner(int mode, OptionalLong modified) {}

  /**
   * Writes a file; it is on the disk when this returns, where the server can say so.
   *
   * @param from where to go on; empty for a new file, which must not be there
   * @param content from there on
   */
  public void write(String path, OptionalLong from, InputStream content, Manner manner)
      throws IOException {
    SftpRequest opening =
        wire.request(OPEN)
            .text(path)
            .number(from.isEmpty() ? TO_CREATE : TO_GO_ON)
            .number(SftpWire.OF_MODE)
            .number(0600);
    byte[] handle;
    try {
      handle = SftpWire.handle(wire.ask(opening, path));
    } catch (NoSuchFileException | AccessDeniedException | Cut e) {
      throw e;
    } catch (IOException e) {
      throw from.isEmpty() && find(path).isPresent() ? new FileAlreadyExistsException(path) : e;
    }
    try {
      pieces(handle, path, from.orElse(0), content, manner);
    } catch (IOException e) {
      wire.breakOff();
      throw e;
    }
  }

  private void pieces(byte[] handle, String path, long from, InputStream content, Manner manner)
      throws IOException {
    byte[] piece = new byte[PIECE];
    long at = from;
    int open = 0;
    for (int count = content.readNBytes(piece, 0, PIECE);
        count > 0;
        count = content.readNBytes(piece, 0, PIECE)) {
      wire.send(wire.request(WRITE).bytes(handle, -1).large(at).bytes(piece, count));
      at += count;
      if (++open == ON_THEIR_WAY) {
        SftpWire.checked(wire.answer(), path);
        open--;
      }
    }
    // The rest is asked for at once, and the answers come in this order.
    wire.send(attributes(wire.request(FSETSTAT).bytes(handle, -1), manner));
    open++;
    if (wire.has("fsync@openssh.com")) {
      wire.send(wire.request(EXTENDED).text("fsync@openssh.com").bytes(handle, -1));
      open++;
    }
    wire.send(wire.request(CLOSE).bytes(handle, -1));
    for (open++; open > 0; open--) {
      SftpWire.checked(wire.answer(), path);
    }
  }

  private static SftpRequest attributes(SftpRequest request, Manner manner) throws IOException {
    boolean timed = manner.modified().isPresent();
    request
        .number(SftpWire.OF_MODE | (timed ? SftpWire.OF_TIMES : 0))
        .number(manner.mode() & 07777);
    if (timed) {
      int at = (int) manner.modified().getAsLong();
      request.number(at).number(at);
    }
    return request;
  }

  /** Gives a file another name, which nothing may have yet. */
  public void rename(String from, String to) throws IOException {
    try {
      wire.ask(wire.request(RENAME).text(from).text(to), to);
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
    if (!wire.has("posix-rename@openssh.com")) {
      throw new IOException("the server can't put a file in the place of another in one step");
    }
    wire.ask(wire.request(EXTENDED).text("posix-rename@openssh.com").text(from).text(to), to);
  }

  /** Deletes a file. */
  public void delete(String path) throws IOException {
    wire.ask(wire.request(REMOVE).text(path), path);
  }

  /** Makes a folder. */
  public void makeFolder(String path, int mode) throws IOException {
    wire.ask(wire.request(MKDIR).text(path).number(SftpWire.OF_MODE).number(mode & 07777), path);
  }

  /** Deletes a folder in which nothing is. */
  public void deleteFolder(String path) throws IOException {
    wire.ask(wire.request(RMDIR).text(path), path);
  }

  /** Sets permissions. */
  public void mode(String path, int mode) throws IOException {
    wire.ask(wire.request(SETSTAT).text(path).number(SftpWire.OF_MODE).number(mode & 07777), path);
  }

  /** Sets the owner, by numbers. */
  public void owner(String path, int owner, int group) throws IOException {
    wire.ask(
        wire.request(SETSTAT).text(path).number(SftpWire.OF_OWNER).number(owner).number(group),
        path);
  }

  /** How many bytes there is room for; empty if the server does not say. */
  public Optional<Long> room(String path) throws IOException {
    if (!wire.has("statvfs@openssh.com")) {
      return Optional.empty();
    }
    SftpAnswer answer =
        wire.ask(wire.request(EXTENDED).text("statvfs@openssh.com").text(path), path);
    if (answer.type() != SftpWire.EXTENDED_REPLY) {
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
    wire.close();
  }
}
