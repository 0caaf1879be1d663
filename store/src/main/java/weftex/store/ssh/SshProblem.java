package weftex.store.ssh;

import java.util.List;
import java.util.Optional;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import weftex.store.Refusal;
import weftex.store.database.Connecting;
import weftex.store.database.CopySpec;

/** What the SSH client says, told apart and in words of our own. */
final class SshProblem {
  private static final Pattern HOST_KEY =
      Pattern.compile("Server host key: (\\S+) (SHA256:[A-Za-z0-9+/=]+)");
  private static final Pattern OPEN_FAILED = Pattern.compile("open failed: (.*)");
  private static final Pattern KEY = Pattern.compile("Load key \"([^\"]*)\": (.*)");
  private static final Pattern ACCEPTED = Pattern.compile("Server accepts key: (\\S+)");
  private static final Pattern NO_KEY = Pattern.compile("Identity file (\\S+) not accessible");

  private SshProblem() {}

  static Refusal noClient(CopySpec.Server spec, String why, Exception cause) {
    return Connecting.refusal(
        spec,
        "the SSH client could not be run (" + why + ")",
        "Install OpenSSH's client, so that 'ssh' is found.",
        cause);
  }

  /**
   * Why there is no line.
   *
   * @param said what the client wrote
   * @param silent whether it is still at work and nothing came of it
   */
  static Refusal of(CopySpec.Server spec, List<String> said, boolean silent) {
    String over = spec.ssh().orElseThrow().words();
    String command = spec.ssh().orElseThrow().command();
    String keys = " of " + spec.name() + " in weftex.yaml";
    String all = String.join("\n", said);
    if (all.contains("REMOTE HOST IDENTIFICATION HAS CHANGED")) {
      return refusal(
          spec,
          over
              + " shows another host key than the one that is known"
              + hostKey(all)
              + ": somebody may be in between, or it was set up anew",
          "Ask whoever runs it; if the new key is right, remove the old one from known_hosts with"
              + " 'ssh-keygen -R'.");
    }
    if (all.contains("Host key verification failed")
        || all.contains("you have requested strict checking")) {
      return refusal(
          spec,
          "the host key of " + over + " is not known" + hostKey(all),
          "Compare it with what its operator says, and log in once with '" + command + "'.");
    }
    if (all.contains("Could not resolve hostname")) {
      return refusal(
          spec,
          "no host is called '" + spec.ssh().get().host() + "', here or in your SSH configuration",
          "Correct 'ssh'" + keys + ".");
    }
    if (all.contains("Permission denied") || all.contains("Too many authentication failures")) {
      return denied(spec, all);
    }
    return silence(spec, said, silent, keys, all);
  }

  private static Refusal silence(
      CopySpec.Server spec, List<String> said, boolean silent, String keys, String all) {
    String over = spec.ssh().orElseThrow().words();
    String command = spec.ssh().orElseThrow().command();
    if (all.contains("Connection refused")) {
      return refusal(
          spec,
          "nothing answers by SSH at " + over,
          "Correct the port under 'ssh'" + keys + ", or start it there.");
    }
    if (silent || all.contains("timed out") || all.contains("No route to host")) {
      return refusal(
          spec,
          over + " does not answer by SSH",
          "Correct 'ssh'" + keys + ". A firewall may stand between.");
    }
    return refusal(
        spec,
        "the SSH client ended: " + last(said),
        "See what '" + command + "' says, and mend that.");
  }

  /** Whoever asks is not let in: says by which key. */
  private static Refusal denied(CopySpec.Server spec, String all) {
    String over = spec.ssh().orElseThrow().words();
    String command = spec.ssh().orElseThrow().command();
    String keys = " of " + spec.name() + " in weftex.yaml";
    Matcher broken = KEY.matcher(all);
    if (broken.find()) {
      return refusal(
          spec,
          "the key "
              + broken.group(1)
              + " can't be used for "
              + over
              + " ("
              + broken.group(2)
              + ")",
          "Add it to your agent with 'ssh-add', which asks for its passphrase, or correct 'key'"
              + keys
              + ".");
    }
    Matcher accepted = ACCEPTED.matcher(all);
    if (accepted.find()) {
      return refusal(
          spec,
          over
              + " would let the key "
              + accepted.group(1)
              + " in, but it can't be used here without its passphrase",
          "Add it to your agent with 'ssh-add', which asks for the passphrase.");
    }
    Matcher missing = NO_KEY.matcher(all);
    if (missing.find() && spec.ssh().get().key().isPresent()) {
      return refusal(
          spec, "there is no key " + missing.group(1), "Correct 'key' under 'ssh'" + keys + ".");
    }
    return refusal(
        spec,
        over + " is there, but lets nobody in with this user and these keys",
        "Correct 'ssh'" + keys + ": its user or key; '" + command + "' must work without it.");
  }

  /** Why nothing answers behind a line; empty if the client says nothing of it. */
  static Optional<Refusal> behind(
      CopySpec.Server spec, List<String> said, boolean up, Exception cause) {
    String over = spec.ssh().orElseThrow().words();
    String keys = " of " + spec.name() + " in weftex.yaml.";
    if (!up) {
      return Optional.of(
          Connecting.refusal(
              spec,
              "the line over SSH to " + over + " was cut (" + last(said) + ")",
              "Run the command again.",
              cause));
    }
    Matcher failed = OPEN_FAILED.matcher(String.join("\n", said));
    if (!failed.find()) {
      return Optional.empty();
    }
    String why = failed.group(1);
    if (why.contains("administratively prohibited")) {
      return Optional.of(
          Connecting.refusal(
              spec,
              over + " lets you in, but forbids lines to other places (AllowTcpForwarding)",
              "Ask its operator to allow a line to " + spec.address() + ".",
              cause));
    }
    return Optional.of(
        Connecting.refusal(
            spec,
            over
                + " is reached, but from there nothing answers at "
                + spec.address()
                + " ("
                + why
                + ")",
            "Correct 'host' or 'port'" + keys + " They are meant as seen from " + over + ".",
            cause));
  }

  private static Refusal refusal(CopySpec.Server spec, String what, String next) {
    return Connecting.refusal(spec, what, next, null);
  }

  private static String hostKey(String all) {
    Matcher key = HOST_KEY.matcher(all);
    return key.find() ? " (" + key.group(1) + " " + key.group(2) + ")" : "";
  }

  private static String last(List<String> said) {
    for (int i = said.size() - 1; i >= 0; i--) {
      String text = said.get(i).strip();
      if (!text.isEmpty() && !text.startsWith("debug")) {
        return text.length() > 200 ? text.substring(0, 200) : text;
      }
    }
    return "it said nothing";
  }
}
