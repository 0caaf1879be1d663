package weftex.cli.config;

import java.nio.file.Path;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import java.util.Set;
import java.util.regex.Pattern;
import java.util.stream.Stream;
import weftex.store.Refusal;
import weftex.store.database.CopySpec;
import weftex.store.database.SshHost;
import weftex.store.database.Tls;
import weftex.store.dump.SqlFile;
import weftex.store.seal.AtRest;

/** Reads what weftex.yaml says of a copy. */
final class CopyReader {
  /** Anything else would be read by the driver as a part of its address. */
  private static final Pattern HOST =
      Pattern.compile("[A-Za-z0-9]([A-Za-z0-9._-]*[A-Za-z0-9])?|\\[?[0-9a-fA-F:.]+]?");

  /** Nor here: a comma would end the value. */
  private static final Pattern SOCKET = Pattern.compile("/[^,;&?]+");

  private static final Pattern SSH_WORD = Pattern.compile("[\\p{L}\\p{N}_][\\p{L}\\p{N}_.:%-]*");

  private final Path file;
  private final Map<String, String> environment;
  private final Problems problems;

  /** Says what is wrong with the file. */
  interface Problems {
    Refusal wrong(String what);
  }

  /**
   * @param file weftex.yaml, from whose folder paths are meant
   * @param environment where passwords may be
   */
  CopyReader(Path file, Map<String, String> environment, Problems problems) {
    this.file = file;
    this.environment = environment;
    this.problems = problems;
  }

  /** weftex.yaml. */
  Path file() {
    return file;
  }

  Map<String, String> environment() {
    return environment;
  }

  /** Where a copy is. */
  CopySpec read(String name, PairFile said, List<String> shared) throws Refusal {
    boolean live = name.equals("live");
    PairFile.CopyEntry entry = live ? said.copies().live() : said.copies().staging();
    String prefix = entry.prefix() == null ? "" : entry.prefix();
    long kinds =
        Stream.of(entry.sqlite(), entry.mariadb(), entry.sql()).filter(Objects::nonNull).count();
    if (kinds != 1) {
      throw wrong("copy '" + name + "' needs one of 'sqlite', 'mariadb' and 'sql'");
    }
    if (entry.ssh() != null && entry.mariadb() == null) {
      throw wrong(
          "copy '" + name + "' has 'ssh', which leads to a server, and is a file on this machine");
    }
    Path folder = file.toAbsolutePath().getParent();
    if (entry.ssh() != null && entry.mariadb().tls() != null) {
      throw wrong(
          "copy '"
              + name
              + "' has 'ssh', which protects the line, and 'tls', which is then not asked for; leave 'tls' out");
    }
    if (entry.sqlite() != null) {
      return new CopySpec.SqliteFile(
          name, prefix, folder.resolve(entry.sqlite()).normalize(), shared, Optional.empty());
    }
    return entry.mariadb() != null
        ? server(
            name,
            prefix,
            entry.mariadb(),
            shared,
            new Beside(ssh(name, entry.ssh(), said), said.passwordVariables()))
        : new FileCopies(this, said)
            .read(
                new FileCopies.CopyOfFile(name, prefix, name, AtRest.CLEAR),
                folder.resolve(entry.sql()).normalize());
  }

  /**
   * A copy as it was, in a file beside it: one of SQL, or an SQLite database.
   *
   * @param sql where the file is
   * @param atRest how it may be kept
   */
  CopySpec earlier(String name, PairFile said, List<String> shared, Path sql, AtRest atRest)
      throws Refusal {
    PairFile.CopyEntry entry = name.equals("live") ? said.copies().live() : said.copies().staging();
    String prefix = entry.prefix() == null ? "" : entry.prefix();
    if (SqlFile.isDatabase(sql)) {
      return new CopySpec.SqliteFile(name, prefix, sql, shared, Optional.empty());
    }
    return new FileCopies(this, said)
        .read(new FileCopies.CopyOfFile(name, prefix, FileCopies.BACKUP, atRest), sql);
  }

  /**
   * What else is known of a server.
   *
   * @param secrets variables that hold passwords
   */
  record Beside(Optional<SshHost> ssh, Set<String> secrets) {}

  CopySpec server(
      String name, String prefix, PairFile.ServerEntry server, List<String> shared, Beside beside)
      throws Refusal {
    Optional<SshHost> ssh = beside.ssh();
    Path folder = file.toAbsolutePath().getParent();
    if (server.host() == null && ssh.isEmpty()) {
      required("copies." + name + ".mariadb.host", server.host());
    }
    // Behind a line the server mostly is on the machine that the line leads to.
    String host = server.host() == null ? "127.0.0.1" : server.host();
    if (!HOST.matcher(host).matches() && !SOCKET.matcher(host).matches()) {
      throw wrong(
          "'"
              + host
              + "' of copy '"
              + name
              + "' is no name or number of a host, nor the whole path of a socket; write an international name in its 'xn--' form");
    }
    required("copies." + name + ".mariadb.database", server.database());
    required("copies." + name + ".mariadb.user", server.user());
    int port = server.port() == null ? CopySpec.Server.DEFAULT_PORT : server.port();
    if (port < 1 || port > 65535) {
      throw wrong("port " + port + " of copy '" + name + "' is not between 1 and 65535");
    }
    return new CopySpec.Server(
        name,
        prefix,
        new CopySpec.Server.Line(
            host, port, ssh.isPresent() ? Tls.OFF : tls(name, server, folder), ssh),
        server.database(),
        new CopySpec.Server.Login(
            server.user(), password(name, server.password(), folder, beside.secrets())),
        shared,
        Optional.empty());
  }

  Optional<SshHost> ssh(String name, PairFile.SshEntry said, PairFile whole) throws Refusal {
    if (said == null) {
      return Optional.empty();
    }
    required("copies." + name + ".ssh.host", said.host());
    for (String word : new String[] {said.host(), said.user() == null ? "x" : said.user()}) {
      // Anything else could be read by the client as an option.
      if (!SSH_WORD.matcher(word).matches()) {
        throw wrong(
            "'" + word + "' under 'ssh' of copy '" + name + "' is no name of a host or user");
      }
    }
    if (said.port() != null && (said.port() < 1 || said.port() > 65535)) {
      throw wrong(
          "port " + said.port() + " of 'ssh' of copy '" + name + "' is not between 1 and 65535");
    }
    return Optional.of(
        new SshHost(
            said.host(),
            Optional.ofNullable(said.user()),
            Optional.ofNullable(said.port()),
            Optional.ofNullable(said.key()).map(this::userPath),
            Optional.ofNullable(said.knownHosts()).map(this::userPath),
            whole.passwordVariables()));
  }

  /** A path, {@code ~/} in front of which means the user's own folder. */
  private Path userPath(String said) {
    return said.startsWith("~/")
        ? Path.of(environment.getOrDefault("HOME", ""), said.substring(2))
        : file.toAbsolutePath().getParent().resolve(said).normalize();
  }

  private Tls tls(String name, PairFile.ServerEntry server, Path folder) throws Refusal {
    PairFile.TlsEntry said = server.tls();
    if (said == null) {
      return Tls.byDefault(server.host());
    }
    String verify = said.verify() == null ? PairFile.TlsEntry.FULL : said.verify();
    Optional<Path> authority = Optional.ofNullable(said.ca()).map(folder::resolve);
    if (said.fingerprint() != null) {
      String hex = said.fingerprint().replaceFirst("(?i)^SHA-?256:?", "").replaceAll("[: ]", "");
      if (!hex.matches("[0-9a-fA-F]{64}") || said.ca() != null || said.verify() != null) {
        throw wrong(
            "'tls' of copy '"
                + name
                + "' needs either 'fingerprint', 64 hexadecimal digits, or 'verify' and 'ca'");
      }
      return new Tls(
          Tls.Verify.PINNED, Optional.empty(), Optional.of(hex.toLowerCase(Locale.ROOT)));
    }
    return switch (verify) {
      case PairFile.TlsEntry.FULL -> new Tls(Tls.Verify.FULL, authority, Optional.empty());
      case PairFile.TlsEntry.NONE -> Tls.UNVERIFIED;
      case PairFile.TlsEntry.OFF, "false" -> Tls.OFF;
      default ->
          throw wrong(
              "'verify' of 'tls' of copy '" + name + "' is 'full' or 'none', not '" + verify + "'");
    };
  }

  private CopySpec.Password password(
      String name, PairFile.PasswordEntry entry, Path folder, Set<String> secrets) throws Refusal {
    if (entry == null) {
      return PasswordSource.none();
    }
    long given =
        java.util.stream.Stream.of(
                entry.variable(), entry.file(), entry.phpConfig(), entry.command())
            .filter(java.util.Objects::nonNull)
            .count();
    if (given != 1) {
      throw wrong(
          "the password of copy '"
              + name
              + "' needs one of 'variable', 'file', 'php-config' and 'command'");
    }
    if (entry.command() != null) {
      return command(name, entry.command(), folder, secrets);
    }
    if (entry.variable() != null) {
      return PasswordSource.variable(entry.variable(), environment);
    }
    return entry.file() != null
        ? PasswordSource.file(folder.resolve(entry.file()))
        : PasswordSource.phpConfig(folder.resolve(entry.phpConfig()), environment);
  }

  private CopySpec.Password command(
      String name, List<String> words, Path folder, Set<String> secrets) throws Refusal {
    if (words.isEmpty() || words.contains(null) || words.get(0).isBlank()) {
      throw wrong(
          "'command' of the password of copy '" + name + "' is a list of words, the program first");
    }
    List<String> command = new java.util.ArrayList<>(words);
    if (words.get(0).contains("/")) {
      command.set(0, folder.resolve(words.get(0)).normalize().toString());
    }
    return PasswordCommand.password(command, environment, secrets);
  }

  private void required(String key, Object value) throws Refusal {
    if (value == null) {
      throw wrong("'" + key + "' is missing");
    }
  }

  /** What is wrong with the file. */
  Refusal wrong(String what) {
    return problems.wrong(what);
  }
}
