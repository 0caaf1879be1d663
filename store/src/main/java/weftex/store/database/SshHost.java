package weftex.store.database;

import java.nio.file.Path;
import java.util.Optional;
import java.util.Set;

/**
 * A machine that is reached by SSH. What is empty is left to the user's own configuration of
 * OpenSSH.
 *
 * @param host its name, its number, or an alias of that configuration
 * @param key a file with a private key
 * @param knownHosts a file with the keys of hosts, instead of the user's own
 * @param withheld variables of the environment that hold passwords: the SSH client does not get
 *     them
 */
public record SshHost(
    String host,
    Optional<String> user,
    Optional<Integer> port,
    Optional<Path> key,
    Optional<Path> knownHosts,
    Set<String> withheld) {
  public SshHost {
    withheld = Set.copyOf(withheld);
  }

  /** As a person writes it. */
  public String words() {
    return user.map(name -> name + "@").orElse("") + host + port.map(n -> ":" + n).orElse("");
  }

  /** The command by which a person logs in there. */
  public String command() {
    return "ssh "
        + port.map(n -> "-p " + n + " ").orElse("")
        + key.map(file -> "-i " + file + " ").orElse("")
        + user.map(name -> name + "@").orElse("")
        + host;
  }
}
