package weftex.core.changeset;

import java.security.MessageDigest;
import java.security.NoSuchAlgorithmException;
import java.util.ArrayList;
import java.util.HexFormat;
import java.util.List;
import java.util.concurrent.ExecutionException;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.Future;

/**
 * The SHA-256 of the lines of a file, each with its line feed. Beyond the first megabyte a second
 * thread computes it while the lines are parsed, since that takes as long as the parsing.
 */
final class LineDigest implements AutoCloseable {
  private static final int BATCH = 1 << 20;

  private final boolean wanted;
  private final MessageDigest digest = sha256();
  private List<byte[]> batch = new ArrayList<>();
  private int bytes;
  private ExecutorService thread;
  private Future<?> running;

  /**
   * @param wanted whether it is computed at all
   */
  LineDigest(boolean wanted) {
    this.wanted = wanted;
  }

  /** Whether a hash is the one that a file claims; nobody says no if it is not computed. */
  boolean fits(String claimed, String computed) {
    return !wanted || claimed.equals(computed);
  }

  static MessageDigest sha256() {
    try {
      return MessageDigest.getInstance("SHA-256");
    } catch (NoSuchAlgorithmException e) {
      throw new IllegalStateException("every Java has SHA-256", e);
    }
  }

  void add(byte[] line) {
    if (!wanted) {
      return;
    }
    batch.add(line);
    bytes += line.length;
    if (bytes > BATCH) {
      handOver();
    }
  }

  private void handOver() {
    if (thread == null) {
      thread =
          Executors.newSingleThreadExecutor(
              task -> {
                Thread own = new Thread(task, "digest");
                own.setDaemon(true);
                return own;
              });
    }
    await();
    List<byte[]> own = batch;
    running = thread.submit(() -> own.forEach(this::digest));
    batch = new ArrayList<>();
    bytes = 0;
  }

  private void digest(byte[] line) {
    digest.update(line);
    digest.update((byte) '\n');
  }

  private void await() {
    try {
      if (running != null) {
        running.get();
        running = null;
      }
    } catch (InterruptedException e) {
      Thread.currentThread().interrupt();
      throw new IllegalStateException("interrupted while a file was read", e);
    } catch (ExecutionException e) {
      throw new IllegalStateException(e.getCause());
    }
  }

  /** Of all lines so far, in hexadecimal; empty if it is not wanted. */
  String soFar() {
    if (!wanted) {
      return "";
    }
    await();
    batch.forEach(this::digest);
    batch = new ArrayList<>();
    bytes = 0;
    try {
      return HexFormat.of().formatHex(((MessageDigest) digest.clone()).digest());
    } catch (CloneNotSupportedException e) {
      throw new IllegalStateException("SHA-256 can be cloned", e);
    }
  }

  @Override
  public void close() {
    if (thread != null) {
      thread.shutdownNow();
    }
  }
}
