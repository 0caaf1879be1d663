package weftex.store.state;

import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.channels.FileChannel;
import java.nio.channels.OverlappingFileLockException;
import java.nio.charset.StandardCharsets;
import java.nio.file.AccessDeniedException;
import java.nio.file.Files;
import java.nio.file.NoSuchFileException;
import java.nio.file.Path;
import java.nio.file.StandardOpenOption;
import java.util.Arrays;
import java.util.Optional;

/**
 * A small file that one process at a time holds, by a lock that the system lets go when the process
 * ends. It says who holds it, and is gone when it is let go. A link in its place is never followed.
 */
public final class FileClaim implements AutoCloseable {
  private static final int LONGEST = 1024;

  private final Path file;
  private final FileChannel channel;

  private FileClaim(Path file, FileChannel channel) {
    this.file = file;
    this.channel = channel;
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
    byte[] content =
        (who.replace('\n', ' ') + "\n" + ProcessHandle.current().pid() + " " + System.nanoTime())
            .getBytes(StandardCharsets.UTF_8);
    while (true) {
      FileChannel channel;
      try {
        channel =
            Files0600.open(
                file, StandardOpenOption.CREATE, StandardOpenOption.READ, StandardOpenOption.WRITE);
      } catch (AccessDeniedException | NoSuchFileException e) {
        return Attempt.NOT_WRITABLE;
      }
      if (!lock(channel)) {
        String holder = firstLine(channel);
        channel.close();
        return new Attempt(Optional.empty(), Optional.of(holder.isEmpty() ? "somebody" : holder));
      }
      channel.truncate(0);
      channel.write(ByteBuffer.wrap(content), 0);
      if (isStill(file, content)) {
        return new Attempt(Optional.of(new FileClaim(file, channel)), Optional.empty());
      }
      // Whoever held it removed it in between: what was locked has no name any more.
      channel.close();
    }
  }

  private static boolean lock(FileChannel channel) throws IOException {
    try {
      return channel.tryLock() != null;
    } catch (OverlappingFileLockException e) {
      return false;
    }
  }

  private static boolean isStill(Path file, byte[] content) throws IOException {
    try {
      return Arrays.equals(Files.readAllBytes(file), content);
    } catch (NoSuchFileException e) {
      return false;
    }
  }

  private static String firstLine(FileChannel channel) throws IOException {
    ByteBuffer buffer = ByteBuffer.allocate(LONGEST);
    channel.read(buffer, 0);
    String text = new String(buffer.array(), 0, buffer.position(), StandardCharsets.UTF_8);
    return text.lines().findFirst().orElse("").strip();
  }

  @Override
  public void close() throws IOException {
    try (channel) {
      Files.deleteIfExists(file);
    }
  }
}
