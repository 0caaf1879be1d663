package weftex.store.changeset;

import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.channels.FileChannel;
import java.nio.file.Files;
import java.nio.file.LinkOption;
import java.nio.file.Path;
import java.nio.file.StandardOpenOption;
import java.util.List;
import java.util.Optional;
import weftex.store.FailureWords;
import weftex.store.Refusal;
import weftex.store.seal.Keyring;
import weftex.store.state.FileClaim;

/**
 * The open end of a change set, to which decisions and approvals are appended. One process at a
 * time holds it, by a lock on a file beside it that the system lets go when the process ends.
 */
public final class DecisionLog implements AutoCloseable {
  private final Path file;
  private final Content content;
  private final FileClaim claim;

  private DecisionLog(Path file, Content content, FileClaim claim) {
    this.file = file;
    this.content = content;
    this.claim = claim;
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
   * @param keys by which it is seen for whom a sealed one is sealed: what is appended is sealed for
   *     them, too
   * @return without a log if somebody else has it open, or if the file or its folder can't be
   *     written to
   * @throws Refusal if there is no such file, or it is no change set
   */
  public static Opened open(Path file, String who, Keyring keys) throws Refusal, IOException {
    // Whoever names a link means the file that it leads to; what is beside that is ours.
    Path real = Unreadable.refusing(file, file::toRealPath);
    if (!Files.isWritable(file)) {
      return new Opened(Optional.empty(), Optional.empty());
    }
    Path beside = FileClaim.beside(real.resolveSibling(file.getFileName()));
    FileClaim.Attempt attempt = FileClaim.attempt(beside, who);
    if (attempt.claim().isEmpty()) {
      return new Opened(Optional.empty(), attempt.holder());
    }
    try {
      return new Opened(
          Optional.of(
              new DecisionLog(real, Unreadable.appendable(file, keys), attempt.claim().get())),
          attempt.holder());
    } catch (Refusal e) {
      attempt.claim().get().close();
      throw e;
    }
  }

  /**
   * Takes away a last line that was cut off while it was written: whoever wrote it was not told
   * that it is written. A line that lacks nothing but its line feed gets that.
   *
   * @param who as for {@link #open}
   * @return whether a line was taken away. A file that was cut short in its drafted part, or that
   *     somebody else has open, stays as it is
   */
  public static boolean mend(Path file, String who, Keyring keys) throws Refusal, IOException {
    if (!Files.isRegularFile(file)
        || Unreadable.refusing(file, () -> Content.of(file, keys).torn()).isEmpty()) {
      return false;
    }
    Opened opened = open(file, who, keys);
    if (opened.log().isEmpty()) {
      return false;
    }
    try (DecisionLog log = opened.log().get()) {
      Optional<LastLine.Torn> torn = log.content.torn();
      if (torn.isEmpty()) {
        return false;
      }
      if (torn.get().onlyLineFeed()) {
        log.append(List.of(new byte[] {'\n'}));
        return false;
      }
      log.cut(torn.get().before());
      return true;
    }
  }

  private void cut(long length) throws IOException {
    try (FileChannel channel =
        FileChannel.open(file, StandardOpenOption.WRITE, LinkOption.NOFOLLOW_LINKS)) {
      channel.truncate(length);
      channel.force(true);
    }
  }

  /**
   * Appends lines and waits until they are on the disk.
   *
   * @return how long the file is now
   * @throws Refusal if they can't be written; the file is then as it was
   */
  public long append(List<byte[]> lines) throws Refusal, IOException {
    if (lines.isEmpty()) {
      return Files.size(file);
    }
    ByteArrayOutputStream clear = new ByteArrayOutputStream();
    lines.forEach(clear::writeBytes);
    ByteBuffer all = ByteBuffer.wrap(content.appended(clear.toByteArray()));
    long before = Files.size(file);
    try (FileChannel channel =
        FileChannel.open(
            file, StandardOpenOption.WRITE, StandardOpenOption.APPEND, LinkOption.NOFOLLOW_LINKS)) {
      while (all.hasRemaining()) {
        channel.write(all);
      }
      channel.force(true);
      return channel.size();
    } catch (IOException e) {
      // What was written of them would be half a decision.
      cut(before);
      throw new Refusal(
          Refusal.Kind.PROTECTED,
          "The decision could not be written to "
              + file
              + ": "
              + FailureWords.of(e)
              + ". The file is as it was before.",
          "Make room on the disk, and decide it again.",
          e);
    }
  }

  @Override
  public void close() throws IOException {
    claim.close();
  }
}
