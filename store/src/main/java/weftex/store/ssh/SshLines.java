package weftex.store.ssh;

import java.io.IOException;
import java.util.HashMap;
import java.util.Map;
import weftex.store.Refusal;
import weftex.store.database.CopySpec;
import weftex.store.database.SshHost;

/**
 * The lines of this process. A line carries all connections to one server; one that was cut is made
 * anew for the next connection. Questions of the SSH client come one after the other.
 */
public final class SshLines {
  private static final Map<Place, SshLine> LINES = new HashMap<>();

  private SshLines() {}

  /** What a line leads to. */
  private record Place(SshHost over, String host, int port) {}

  /**
   * The line to a server, made if it is not there.
   *
   * @throws Refusal if the machine can't be reached or lets nobody in, in a sentence of its own
   */
  public static SshLine to(CopySpec.Server spec) throws Refusal {
    synchronized (LINES) {
      Place place = new Place(spec.ssh().orElseThrow(), spec.host(), spec.port());
      SshLine line = LINES.get(place);
      if (line != null && line.isUp()) {
        return line;
      }
      if (line != null) {
        line.close();
      }
      LINES.remove(place);
      SshLine made = SshLine.open(spec);
      LINES.put(place, made);
      return made;
    }
  }

  /**
   * A channel of the line to a server in which files go.
   *
   * @throws Refusal as {@link #to}
   * @throws NoSftp if the other side has none
   */
  public static Sftp sftp(CopySpec.Server spec) throws Refusal, IOException {
    try {
      return begun(spec);
    } catch (Sftp.Cut e) {
      // It was ending already, which nobody had noticed.
      return begun(spec);
    }
  }

  private static Sftp begun(CopySpec.Server spec) throws Refusal, IOException {
    SshLine line = to(spec);
    Process channel = line.channel(spec.ssh().orElseThrow(), true, "sftp");
    try {
      return Sftp.begin(channel);
    } catch (Sftp.Cut e) {
      throw line.endsSoon() ? e : new NoSftp(spec.ssh().orElseThrow().words(), e);
    }
  }

  /** The other side offers no SFTP, or forbids it. */
  public static final class NoSftp extends IOException {
    private static final long serialVersionUID = 1;

    NoSftp(String where, Exception cause) {
      super(where + " offers no SFTP to this user", cause);
    }
  }

  /**
   * A channel of the line to a server in which hashes of files come.
   *
   * @throws Refusal as {@link #to}
   */
  public static FarHashes hashes(CopySpec.Server spec) throws Refusal, IOException {
    return new FarHashes(to(spec).channel(spec.ssh().orElseThrow(), false, FarHashes.command()));
  }

  /** Ends all of them. */
  public static void close() {
    synchronized (LINES) {
      LINES.values().forEach(SshLine::close);
      LINES.clear();
    }
  }
}
