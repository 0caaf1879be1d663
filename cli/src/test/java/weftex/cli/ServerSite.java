package weftex.cli;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import weftex.demo.DemoSite;
import weftex.store.testing.MariaDbServer;

/** The made-up site on the private server, with a weftex.yaml in a folder. */
final class ServerSite {
  final MariaDbServer server = MariaDbServer.get();
  final String live = server.newDatabase();
  final String staging = server.newDatabase();
  private final Path folder;

  ServerSite(Path folder) throws IOException {
    this.folder = folder;
    new DemoSite(folder).writeScripts();
    for (String database : List.of(live, staging)) {
      server.sql(database, Files.readString(folder.resolve("site.sql")));
    }
    configure("root", "");
  }

  /**
   * Writes weftex.yaml for a user of live; the password is in the variable LIVE_PASSWORD if there
   * is one.
   */
  void configure(String user, String more) throws IOException {
    Files.writeString(
        folder.resolve("weftex.yaml"),
        """
        site: skerrow
        model: %s
        copies:
          staging:
            mariadb: {host: 127.0.0.1, port: %d, database: %s, user: root}
            prefix: skf_
          live:
            mariadb: {host: 127.0.0.1, port: %d, database: %s, user: %s%s}
            prefix: skf_
        """
            .formatted(DemoSite.MODEL, server.port(), staging, server.port(), live, user, more));
  }

  /** Lets the week pass. */
  void week() throws IOException {
    server.sql(staging, Files.readString(folder.resolve("week-staging.sql")));
    server.sql(live, Files.readString(folder.resolve("week-live.sql")));
  }

  /** Everything that live holds of some tables, as the server's own client prints it. */
  String dump() {
    StringBuilder all = new StringBuilder();
    for (String table :
        List.of(
            "accounts",
            "bookings",
            "comments",
            "fares",
            "harbours",
            "menu_entries",
            "pages",
            "pictures",
            "sailings",
            "settings")) {
      all.append(server.sql(live, "SELECT * FROM skf_" + table + " ORDER BY 1, 2;"));
    }
    return all.toString();
  }
}
