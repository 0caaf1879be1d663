package weftex.cli;

import java.nio.file.Path;
import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.ResultSet;
import java.sql.Statement;
import java.util.ArrayList;
import java.util.List;

/** A copy in a file, as a test looks at it and changes it. */
record SqliteFile(Path file) {

  void run(String statement) throws Exception {
    try (Connection connection = open();
        Statement each = connection.createStatement()) {
      each.execute(statement);
    }
  }

  /** The first column of the answer. */
  List<String> ask(String query) throws Exception {
    List<String> answer = new ArrayList<>();
    try (Connection connection = open();
        Statement each = connection.createStatement();
        ResultSet rows = each.executeQuery(query)) {
      while (rows.next()) {
        answer.add(rows.getString(1));
      }
    }
    return answer;
  }

  private Connection open() throws Exception {
    return DriverManager.getConnection("jdbc:sqlite:" + file);
  }
}
