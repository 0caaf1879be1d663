package weftex.cli.config;

import com.fasterxml.jackson.databind.node.TextNode;
import java.util.Optional;

/** Writes weftex.yaml with comments that explain it. */
public final class PairWriter {
  private PairWriter() {}

  /**
   * Where a copy is, as it is going to be written: a file, or else on a server.
   *
   * @param address the base address by which it knows itself
   * @param folder its folder in the file system
   */
  public record Entry(
      Optional<FileEntry> file,
      Optional<ServerEntry> server,
      String prefix,
      Optional<String> address,
      Optional<String> folder) {

    /** The same copy, with its folder in the file system. */
    public Entry withFolder(String folder) {
      return new Entry(file, server, prefix, address, Optional.of(folder));
    }

    /** The same copy, known by an address. */
    public Entry withAddress(String address) {
      return new Entry(file, server, prefix, Optional.of(address), folder);
    }

    /** The same copy, with the prefix of its tables and, on a server, the password's line. */
    public Entry with(String prefix, Optional<String> password) {
      return new Entry(file, server.map(of -> of.with(password)), prefix, address, folder);
    }
  }

  /** An SQLite file, or one of SQL. */
  public record FileEntry(String path, boolean isSql) {}

  /**
   * A database of a server.
   *
   * @param ssh the machine over which it is reached, {@code USER@HOST} or an alias
   * @param password the line under {@code password}, such as {@code variable: LIVE_PASSWORD}; empty
   *     for none
   */
  public record ServerEntry(
      Optional<String> ssh,
      String host,
      int port,
      String database,
      String user,
      Optional<String> password) {
    ServerEntry with(Optional<String> other) {
      return new ServerEntry(ssh, host, port, database, user, other);
    }
  }

  /** The text of the file. */
  public static String write(String site, String model, Entry staging, Entry live) {
    return """
        # The pair of copies that Weftex works on. Every key is explained in docs/configuration.md.

        # A name of your choice; bases, change sets and receipts remember it.
        site: %s

        # What the tables mean: plain (only what the schema says), wordpress (the CMS
        # alone), wordpress-extensions, or the path of a model file.
        model: %s

        copies:
          # Where the work is done.
          staging:
        %s
          # What visitors see. It is written only by 'weftex apply', 'undo' and 'restore'.
          live:
        %s"""
        .formatted(quoted(site), quoted(model), entry(staging), entry(live));
  }

  private static String entry(Entry entry) {
    StringBuilder text = new StringBuilder();
    entry
        .file()
        .ifPresent(
            file ->
                text.append(file.isSql() ? "    sql: " : "    sqlite: ")
                    .append(quoted(file.path()))
                    .append('\n'));
    entry.server().ifPresent(server -> addServer(server, text));
    text.append("    # What table names begin with.\n");
    text.append("    prefix: ").append(quoted(entry.prefix())).append('\n');
    if (entry.address().isPresent()) {
      text.append(
              "    # By what it knows itself; becomes the other copy's address in whatever moves.\n")
          .append("    address: ")
          .append(quoted(entry.address().get()))
          .append('\n');
    }
    if (entry.folder().isPresent()) {
      text.append("    folder: ").append(quoted(entry.folder().get())).append('\n');
    }
    return text.toString();
  }

  private static void addServer(ServerEntry entry, StringBuilder text) {
    entry
        .ssh()
        .ifPresent(
            over ->
                text.append(
                        "    # The machine over which it is reached, as your own 'ssh' knows it.\n")
                    .append("    ssh: ")
                    .append(quoted(over))
                    .append('\n'));
    text.append("    mariadb:\n");
    text.append("      host: ").append(quoted(entry.host())).append('\n');
    if (!entry.host().startsWith("/")) {
      text.append("      port: ").append(entry.port()).append('\n');
    }
    text.append("      database: ").append(quoted(entry.database())).append('\n');
    text.append("      user: ").append(quoted(entry.user())).append('\n');
    entry
        .password()
        .ifPresent(
            line ->
                text.append(
                        "      # Never the password itself: a variable, a file, or a CMS's own php-config.\n")
                    .append("      password:\n        ")
                    .append(line)
                    .append('\n'));
  }

  /** A YAML scalar: plain where that is safe, else as in JSON, which YAML reads alike. */
  public static String quoted(String text) {
    boolean safe =
        text.matches("[A-Za-z_/.][A-Za-z0-9_./-]*")
            && !text.matches("(?i)y|n|yes|no|on|off|true|false|null");
    return safe ? text : TextNode.valueOf(text).toString();
  }
}
