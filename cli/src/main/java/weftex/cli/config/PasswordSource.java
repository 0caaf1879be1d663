package weftex.cli.config;

import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Map;
import weftex.cli.siteconfig.PhpConfig;
import weftex.store.Refusal;
import weftex.store.database.CopySpec;
import weftex.store.state.Files0600;

/** The places that a password may be in. It is fetched for each connection and kept nowhere. */
final class PasswordSource {
  private PasswordSource() {}

  private interface Fetch {
    String fetch() throws Refusal;
  }

  private record Source(String source, Fetch how) implements CopySpec.Password {
    @Override
    public String fetch() throws Refusal {
      return how.fetch();
    }
  }

  static CopySpec.Password none() {
    return new Source("nowhere", () -> "");
  }

  static CopySpec.Password variable(String name, Map<String, String> environment) {
    return new Source(
        "the variable " + name,
        () -> {
          String password = environment.get(name);
          if (password == null) {
            throw missing(
                "The variable " + name + ", which should hold a password, is not set",
                "Set it, and run the command again.");
          }
          return password;
        });
  }

  static CopySpec.Password file(Path file) {
    return new Source(
        "the file " + file,
        () -> {
          refuseIfOthersRead(file);
          try {
            return new String(Files.readAllBytes(file), StandardCharsets.UTF_8)
                .replaceFirst("\\R\\z", "");
          } catch (IOException e) {
            throw missing(
                "The file " + file + ", which should hold a password, can't be read",
                "Make it, readable by you alone.");
          }
        });
  }

  static CopySpec.Password phpConfig(Path file, Map<String, String> environment) {
    return new Source(
        "the config file " + file, () -> PhpConfig.read(file, environment).password());
  }

  private static void refuseIfOthersRead(Path file) throws Refusal {
    if (Files0600.isReadByOthers(file)) {
      throw missing(
          "Others on this machine can read the file " + file + ", which holds a password",
          "Take it away from them with 'chmod 600 " + file + "'.");
    }
  }

  private static Refusal missing(String what, String next) {
    return new Refusal(Refusal.Kind.WRONG_INPUT, what + ". Nothing was changed.", next);
  }
}
