package weftex.store.file;

import java.io.IOException;
import java.util.List;
import java.util.Optional;
import weftex.store.Refusal;
import weftex.store.database.CopySpec;
import weftex.store.ssh.FarHashes;
import weftex.store.ssh.Sftp;
import weftex.store.ssh.SshLines;

/**
 * A line to the files of another machine. What a cut interrupts is asked once more over a new one.
 */
final class FarLine implements AutoCloseable {
  private static final int TRIES = 3;

  private final CopySpec.Server server;
  private Sftp sftp;
  private FarHashes hashes;

  FarLine(CopySpec.Server server) {
    this.server = server;
  }

  /** Something that is asked of the other side. */
  interface Asking<T> {
    T of(Sftp sftp) throws IOException;
  }

  /** Asks, and once more over a new line if this one is cut meanwhile. */
  <T> T ask(Asking<T> asking) throws IOException {
    for (int tried = 1; ; tried++) {
      try {
        return asking.of(line());
      } catch (IOException e) {
        boolean cut = e instanceof Sftp.Cut || sftp != null && !sftp.isUp();
        letGo();
        if (!cut || tried == TRIES) {
          throw e;
        }
      }
    }
  }

  /** The line, opened if it is not. */
  Sftp line() throws IOException {
    if (sftp == null) {
      try {
        sftp = SshLines.sftp(server);
      } catch (Refusal e) {
        throw new IOException(e.reason(), e);
      }
    }
    return sftp;
  }

  private void letGo() {
    if (sftp != null && !sftp.isUp()) {
      sftp.close();
      sftp = null;
      if (hashes != null) {
        hashes.close();
        hashes = null;
      }
    }
  }

  /** What the other side says the SHA-256 of files are; empty if it can't. */
  Optional<List<String>> hashes(List<String> places) throws IOException {
    if (hashes == null) {
      try {
        hashes = SshLines.hashes(server);
      } catch (Refusal e) {
        throw new IOException(e.reason(), e);
      }
    }
    return hashes.of(places);
  }

  @Override
  public void close() {
    if (hashes != null) {
      hashes.close();
    }
    if (sftp != null) {
      sftp.close();
    }
  }
}
