package weftex.cli.session;

import java.io.Console;
import java.io.IOException;
import java.io.InputStream;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.util.Arrays;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Stream;
import org.apache.commons.cli.Option;
import weftex.store.seal.Keyring;

/** Where the user's private keys are, and who is asked for their passphrases. */
public final class OwnKeys {
  /** The option that names keys. */
  public static final String OPTION = "open-with";

  /** The variable that names keys, if the option does not. */
  private static final String VARIABLE = "WEFTEX_OPEN_WITH";

  /** A program that asks in a window, as other programs of SSH use it. */
  private static final String ASKING = "SSH_ASKPASS";

  /** That program needs no password of a database. */
  private static final Set<String> HANDED_ON =
      Set.of(
          "PATH",
          "HOME",
          "USER",
          "LANG",
          "LC_ALL",
          "DISPLAY",
          "XAUTHORITY",
          "WAYLAND_DISPLAY",
          "XDG_RUNTIME_DIR",
          "DBUS_SESSION_BUS_ADDRESS");

  private OwnKeys() {}

  /** The option that names private keys. */
  public static Option option() {
    return Option.builder()
        .longOpt(OPTION)
        .hasArg()
        .argName("KEY")
        .desc(
            "open what is sealed with this private key of SSH or age (default: what"
                + " WEFTEX_OPEN_WITH names, or your SSH keys)")
        .get();
  }

  /**
   * The user's keys.
   *
   * @param named on the command line; if there are none, the environment says, or else those of SSH
   *     are looked at
   * @param terminal whether somebody sits before it
   */
  public static Keyring of(
      List<String> named, Path folder, Map<String, String> environment, Terminal terminal) {
    List<String> said =
        named.isEmpty()
            ? Arrays.stream(environment.getOrDefault(VARIABLE, "").split(":"))
                .filter(path -> !path.isBlank())
                .toList()
            : named;
    return new Keyring(
        said.stream().map(path -> folder.resolve(path).normalize()).toList(),
        usual(environment),
        key -> passphrase(key, environment, terminal));
  }

  private static List<Path> usual(Map<String, String> environment) {
    return Optional.ofNullable(environment.get("HOME"))
        .map(home -> Path.of(home, ".ssh"))
        .map(ssh -> Stream.of("id_ed25519", "id_rsa").map(ssh::resolve).toList())
        .orElse(List.of());
  }

  private static Optional<String> passphrase(
      Path key, Map<String, String> environment, Terminal terminal) {
    String question = "Passphrase of " + key + ": ";
    Console console = terminal.in() ? System.console() : null;
    if (console != null) {
      return Optional.ofNullable(console.readPassword("%s", question)).map(String::new);
    }
    String asking = environment.getOrDefault(ASKING, "");
    return asking.isEmpty() ? Optional.empty() : asked(asking, question, environment);
  }

  private static Optional<String> asked(
      String program, String question, Map<String, String> environment) {
    ProcessBuilder builder = new ProcessBuilder(program, question);
    builder.environment().clear();
    environment.forEach(
        (name, value) -> {
          if (HANDED_ON.contains(name)) {
            builder.environment().put(name, value);
          }
        });
    builder.redirectError(ProcessBuilder.Redirect.DISCARD);
    try {
      Process process = builder.start();
      process.getOutputStream().close();
      String said;
      try (InputStream in = process.getInputStream()) {
        said = new String(in.readAllBytes(), StandardCharsets.UTF_8);
      }
      return process.waitFor() == 0 ? Optional.of(said.replaceFirst("\\R$", "")) : Optional.empty();
    } catch (IOException e) {
      return Optional.empty();
    } catch (InterruptedException e) {
      Thread.currentThread().interrupt();
      return Optional.empty();
    }
  }
}
