package weftex.store.state;

import java.io.IOException;
import java.io.InterruptedIOException;
import java.nio.ByteBuffer;
import java.nio.channels.FileChannel;
import java.nio.channels.OverlappingFileLockException;
import java.nio.charset.StandardCharsets;
import java.nio.file.AccessDeniedException;
import java.nio.file.NoSuchFileException;
import java.nio.file.Path;
import java.nio.file.StandardOpenOption;
import java.util.Optional;

/**
 * A small file that one process at a time holds, by a lock that the system lets go when the process
 * ends. It says who holds it, and stays, empty, afterwards: removed, it could be locked twice under
 * one name. Nothing else may open the file, since a system lets go of a process's locks as soon as
 * that closes the file anywhere. A link in its place is never followed.
 */
public final class FileClaim implements AutoCloseable {
  private static final int LONGEST = 1024;
  private static final int PAUSE_MILLIS = 50;

  private final FileChannel channel;

  private FileClaim(FileChannel channel) {
    this.channel = channel;
  }

  /** The file that says who is at another file. */
  public static Path beside(Path file) {
    return file.resolveSibling("." + file.getFileName() + ".open");
  }

  /**
   * A claim, or why there is none.
   *
   * @param holder who else holds the file; empty if it is held here, or if its folder can't be
   *     written to
   */
  public record Attempt(Optional<FileClaim> claim, Optional<String> holder) {
    private static final Attempt NOT_WRITABLE = new Attempt(Optional.empty(), Optional.empty());
  }

  /**
   * Tries to hold a file.
   *
   * @param who what others are told meanwhile, on one line
   */
  public static Attempt attempt(Path file, String who) throws IOException {
    FileChannel channel;
    try {
      channel =
          Files0600.open(
              file, StandardOpenOption.CREATE, StandardOpenOption.READ, StandardOpenOption.WRITE);
    } catch (AccessDeniedException | NoSuchFileException e) {
      return Attempt.NOT_WRITABLE;
    }
    if (!lock(channel)) {
      String holder = content(channel);
      channel.close();
      return new Attempt(Optional.empty(), Optional.of(holder.isEmpty() ? "somebody" : holder));
    }
    channel.truncate(0);
    String line = who.replace('\n', ' ') + "\n";
    channel.write(ByteBuffer.wrap(line.getBytes(StandardCharsets.UTF_8)), 0);
    return new Attempt(Optional.of(new FileClaim(channel)), Optional.empty());
  }

  /**
   * Holds a file as soon as nobody else does; empty if its folder can't be written to.
   *
   * @param who what others are told meanwhile, on one line
   * @param waiting run once if somebody else holds it
   */
  public static Optional<FileClaim> awaited(Path file, String who, Runnable waiting)
      throws IOException {
    for (int attempts = 0; ; attempts++) {
      Attempt attempt = attempt(file, who);
      if (attempt.claim().isPresent() || attempt.holder().isEmpty()) {
        return attempt.claim();
      }
      if (attempts == 0) {
        waiting.run();
      }
      try {
        Thread.sleep(PAUSE_MILLIS);
      } catch (InterruptedException e) {
        Thread.currentThread().interrupt();
        throw new InterruptedIOException("interrupted while waiting for " + file);
      }
    }
  }

  private static boolean lock(FileChannel channel) throws IOException {
    try {
      return channel.tryLock() != null;
    } catch (OverlappingFileLockException e) {
      return false;
    }
  }

  private static String content(FileChannel channel) throws IOException {
    ByteBuffer buffer = ByteBuffer.allocate(LONGEST);
    channel.read(buffer, 0);
    return new String(buffer.array(), 0, buffer.position(), StandardCharsets.UTF_8).strip();
  }

  @Override
  public void close() throws IOException {
    try (channel) {
      channel.truncate(0);
    }
  }
}
