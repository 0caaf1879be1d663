package weftex.store.ssh;

import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import weftex.store.database.CopySpec;
import weftex.store.database.SshHost;

/** The command that opens a line. */
final class LineCommand {

  /**
   * Waits beside the client for the end of its own input, which comes with the end of this process.
   * An interrupt is this process's affair: what it is just writing comes to its end.
   */
  private static final String KEEPER =
      "trap '' INT; exec 3<&0; \"$@\" 3<&- </dev/null & p=$!;"
          + " (cat <&3; kill $p) >/dev/null 2>&1 & c=$!; exec 3<&-;"
          + " wait $p; s=$?; kill $c 2>/dev/null; exit $s";

  private LineCommand() {}

  static List<String> command(CopySpec.Server spec, Path socket, boolean asks) {
    SshHost over = spec.ssh().orElseThrow();
    List<String> words = new ArrayList<>(List.of("sh", "-c", KEEPER, "sh", "ssh", "-v", "-N"));
    // What the user's configuration says of sharing a connection would leave it to another process.
    for (String option :
        List.of(
            "ExitOnForwardFailure=yes",
            "Compression=yes",
            "ServerAliveInterval=15",
            "ServerAliveCountMax=3",
            "ControlMaster=yes",
            "ControlPath=" + socket.resolveSibling(SshLine.CONTROL),
            "ControlPersist=no",
            "StreamLocalBindMask=0177",
            "PermitLocalCommand=no",
            asks ? "StrictHostKeyChecking=ask" : "StrictHostKeyChecking=yes",
            asks ? "BatchMode=no" : "BatchMode=yes")) {
      words.addAll(List.of("-o", option));
    }
    over.knownHosts().ifPresent(file -> words.addAll(List.of("-o", "UserKnownHostsFile=" + file)));
    over.key()
        .ifPresent(file -> words.addAll(List.of("-o", "IdentitiesOnly=yes", "-i", "" + file)));
    over.port().ifPresent(port -> words.addAll(List.of("-p", "" + port)));
    over.user().ifPresent(user -> words.addAll(List.of("-l", user)));
    String host = spec.host().contains(":") ? "[" + spec.host() + "]" : spec.host();
    words.addAll(List.of("-L", socket + ":" + (spec.isSocket() ? host : host + ":" + spec.port())));
    words.addAll(List.of("--", over.host()));
    return words;
  }
}
