package weftex.store.ssh;

import java.util.HashMap;
import java.util.Map;
import weftex.store.Refusal;
import weftex.store.copy.CopySpec;
import weftex.store.copy.SshHost;

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

  /** Ends all of them. */
  public static void close() {
    synchronized (LINES) {
      LINES.values().forEach(SshLine::close);
      LINES.clear();
    }
  }
}
