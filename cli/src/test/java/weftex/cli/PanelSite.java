package weftex.cli;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.InputStream;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardCopyOption;
import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.SQLException;
import java.util.Optional;
import weftex.demo.DemoSite;
import weftex.store.sqltext.SqlStatements;

/** The demo's site, of which live is reached by a panel alone, which exports and imports files. */
final class PanelSite {
  final DemoSite site;
  private final Path folder;

  PanelSite(Path folder) throws Exception {
    this.folder = folder;
    site = new DemoSite(folder);
    site.build();
    // What the panel sees.
    assertThat(DemoPair.pair(folder, "panel.yaml", "sqlite:live.db").status()).isZero();
    export();
    Program.Ran paired = DemoPair.pair(folder, "weftex.yaml", "live.sql.gz");
    assertThat(paired.status()).as(paired.err()).isZero();
    assertThat(paired.out()).contains("SQL file", "live.sql.gz");
  }

  void export() throws Exception {
    Path file = folder.resolve("export.sql.gz");
    Files.deleteIfExists(file);
    Program.Ran saved =
        new Program(folder).run("save", "live", "--config", "panel.yaml", "-o", "export.sql.gz");
    assertThat(saved.status()).as(saved.err()).isZero();
    Files.move(file, folder.resolve("live.sql.gz"), StandardCopyOption.REPLACE_EXISTING);
  }

  /** A connection of the panel's own to live. */
  Connection connection() throws SQLException {
    return DriverManager.getConnection(
        "jdbc:sqlite:" + folder.resolve("live.db") + "?busy_timeout=20");
  }

  /** Takes a statement. */
  interface Sender {
    void send(String statement) throws SQLException;
  }

  /** The statements of a file, one by one. */
  void each(String file, Sender sender) throws Exception {
    try (InputStream in = Files.newInputStream(folder.resolve(file))) {
      SqlStatements statements = new SqlStatements(in, false);
      for (Optional<SqlStatements.Statement> next = statements.next();
          next.isPresent();
          next = statements.next()) {
        sender.send(next.get().text());
      }
    }
  }
}
