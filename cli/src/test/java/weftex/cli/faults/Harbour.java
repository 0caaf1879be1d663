package weftex.cli.faults;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import weftex.cli.Program;
import weftex.store.testing.MariaDbServer;
import weftex.store.testing.SshServer;

/**
 * A site with an approved change set that does some of everything: a new table, a new column, 500
 * rows added, edited and removed. The program reaches live over a {@link FaultyLine}.
 */
final class Harbour implements AutoCloseable {
  static final int ROWS = 500;

  final MariaDbServer server;
  final FaultyLine line;
  final String live;
  final Path folder;
  private final String staging;

  Harbour(MariaDbServer server, Path folder) throws IOException {
    this.server = server;
    this.folder = folder;
    this.line = new FaultyLine(server.port());
    this.live = server.newDatabase();
    this.staging = server.newDatabase();
    for (String database : List.of(live, staging)) {
      server.sql(
          database,
          "CREATE TABLE tides (id INT AUTO_INCREMENT PRIMARY KEY, height VARCHAR(40), note TEXT);"
              + "INSERT INTO tides SELECT seq, CONCAT('low ', seq), REPEAT('ebb ', 90) FROM seq_1_to_"
              + ROWS
              + ";CREATE TABLE buoys (id INT PRIMARY KEY, name VARCHAR(20)); INSERT INTO buoys VALUES (7, 'Skerrow');"
              + "CREATE TABLE visits (id INT AUTO_INCREMENT PRIMARY KEY, who VARCHAR(20));");
    }
    Files.writeString(
        folder.resolve("weftex.yaml"),
        """
        site: skerrow
        model: plain
        roles: {tides: content, buoys: content, gauges: content}
        copies:
          staging:
            mariadb: {host: 127.0.0.1, port: %d, database: %s, user: root}
          live:
            mariadb: {host: 127.0.0.1, port: %d, database: %s, user: root}
        """
            .formatted(server.port(), staging, line.port(), live));
  }

  /** Leads live's line through a server of SSH. */
  Harbour over(SshServer ssh) throws IOException {
    Path file = folder.resolve("weftex.yaml");
    String said = Files.readString(file);
    Files.writeString(
        file,
        said.replace(
            "  live:\n",
            "  live:\n    ssh: {host: 127.0.0.1, user: "
                + System.getProperty("user.name")
                + ", port: "
                + ssh.port()
                + ", key: "
                + ssh.file("user")
                + ", known-hosts: "
                + ssh.file("known")
                + "}\n"));
    return this;
  }

  /** Drafts and approves a week's work on staging. */
  Harbour drafted() {
    weftex("mark");
    server.sql(
        staging,
        "UPDATE tides SET height = CONCAT('high ', id) WHERE id <= 400; DELETE FROM tides WHERE id > 450;"
            + "INSERT INTO tides (height, note) SELECT CONCAT('new ', seq), 'spring' FROM seq_1_to_50;"
            + "ALTER TABLE buoys ADD COLUMN gauge VARCHAR(9) NOT NULL DEFAULT 'pier';"
            + "UPDATE buoys SET gauge = 'bell' WHERE id = 7;"
            + "CREATE TABLE gauges (name VARCHAR(9) NOT NULL PRIMARY KEY);"
            + "INSERT INTO gauges VALUES ('pier'), ('buoy');");
    weftex("draft");
    Program.Ran approved = weftex("review", "--approve", "--by", "Mira");
    if (approved.status() != 0) {
      throw new AssertionError(approved.err());
    }
    return this;
  }

  Program.Ran weftex(String... arguments) {
    return finish(start(arguments));
  }

  Process start(String... arguments) {
    return new Program(folder).start(arguments);
  }

  static Program.Ran finish(Process process) {
    return Program.finish(process);
  }

  /** Everything that live has, our own ledger and counters of rows aside. */
  String dump() {
    StringBuilder all = new StringBuilder();
    String tables = server.sql(live, "SHOW TABLES;");
    for (String table : tables.lines().filter(name -> !name.startsWith("weftex")).toList()) {
      all.append(
          server
              .sql(live, "SHOW CREATE TABLE " + table + ";")
              .replaceAll(" AUTO_INCREMENT=\\d+", ""));
      if (!table.equals("visits")) {
        all.append(server.sql(live, "SELECT * FROM " + table + " ORDER BY 1;"));
      }
    }
    return all.toString();
  }

  @Override
  public void close() throws IOException {
    line.close();
    server.sql("", "DROP DATABASE " + live + "; DROP DATABASE " + staging + ";");
  }
}
