package weftex.store.apply;

import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.channels.FileChannel;
import java.nio.channels.OverlappingFileLockException;
import java.nio.charset.StandardCharsets;
import java.nio.file.AccessDeniedException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardOpenOption;
import java.nio.file.attribute.PosixFilePermissions;
import java.util.List;
import java.util.Optional;
import java.util.Set;

/**
 * The open end of a change set, to which decisions and approvals are appended. One process at a
 * time holds it, by a lock on a file beside it that the system lets go when the process ends.
 */
public final class DecisionLog implements AutoCloseable {
  private final Path file;
  private final FileChannel lockChannel;

  private DecisionLog(Path file, FileChannel lockChannel) {
    this.file = file;
    this.lockChannel = lockChannel;
  }

  /**
   * A log, or why there is none.
   *
   * @param holder who else has it open; empty if it is open here, or can't be written to at all
   */
  public record Opened(Optional<DecisionLog> log, Optional<String> holder) {}

  /**
   * Opens the end of a change set.
   *
   * @param who what others are told while it is open, such as {@code Mira, since 14:05}
   * @return without a log if somebody else has it open, or if the file or its folder can't be
   *     written to
   */
  public static Opened open(Path file, String who) throws IOException {
    if (!Files.isWritable(file)) {
      return new Opened(Optional.empty(), Optional.empty());
    }
    Path lockFile =
        file.toAbsolutePath().resolveSibling("." + file.getFileName().toString() + ".open");
    FileChannel channel;
    try {
      channel =
          FileChannel.open(
              lockFile,
              Set.of(StandardOpenOption.CREATE, StandardOpenOption.READ, StandardOpenOption.WRITE),
              PosixFilePermissions.asFileAttribute(PosixFilePermissions.fromString("rw-------")));
    } catch (AccessDeniedException e) {
      return new Opened(Optional.empty(), Optional.empty());
    }
    if (!lock(channel)) {
      String holder = read(channel);
      channel.close();
      return new Opened(Optional.empty(), Optional.of(holder.isEmpty() ? "somebody" : holder));
    }
    channel.truncate(0);
    channel.write(ByteBuffer.wrap((who + "\n").getBytes(StandardCharsets.UTF_8)), 0);
    return new Opened(Optional.of(new DecisionLog(file, channel)), Optional.empty());
  }

  private static boolean lock(FileChannel channel) throws IOException {
    try {
      return channel.tryLock() != null;
    } catch (OverlappingFileLockException e) {
      return false;
    }
  }

  private static String read(FileChannel channel) throws IOException {
    ByteBuffer buffer = ByteBuffer.allocate(256);
    channel.read(buffer, 0);
    return new String(buffer.array(), 0, buffer.position(), StandardCharsets.UTF_8).strip();
  }

  /**
   * Appends lines and waits until they are on the disk.
   *
   * @return how long the file is now
   */
  public long append(List<byte[]> lines) throws IOException {
    int length = lines.stream().mapToInt(line -> line.length).sum();
    ByteBuffer all = ByteBuffer.allocate(length);
    lines.forEach(all::put);
    all.flip();
    try (FileChannel channel =
        FileChannel.open(file, StandardOpenOption.WRITE, StandardOpenOption.APPEND)) {
      while (all.hasRemaining()) {
        channel.write(all);
      }
      channel.force(true);
      return channel.size();
    }
  }

  /** Lets go. The file beside stays, empty: removed, it could be locked twice under one name. */
  @Override
  public void close() throws IOException {
    lockChannel.truncate(0);
    lockChannel.close();
  }
}
