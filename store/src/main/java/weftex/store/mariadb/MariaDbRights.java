package weftex.store.mariadb;

import java.sql.Connection;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Locale;
import java.util.Set;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import weftex.store.database.CopySpec;

/** Reads a user's rights on a database from what SHOW GRANTS says. */
final class MariaDbRights {
  private static final Pattern GRANT = Pattern.compile("GRANT (.+?) ON (\\S+) TO .*");

  static final List<String> READING = List.of("SELECT");
  static final List<String> WRITING =
      List.of("SELECT", "INSERT", "UPDATE", "DELETE", "CREATE", "TRIGGER");
  static final List<String> SCHEMA = List.of("CREATE", "ALTER", "DROP", "INDEX", "LOCK TABLES");

  private MariaDbRights() {}

  /**
   * Those of some rights that the user does not have on the whole database.
   *
   * @param needed in capitals
   */
  static List<String> missing(Connection connection, CopySpec.Server spec, List<String> needed)
      throws SQLException {
    Set<String> has = new HashSet<>();
    try (Statement statement = connection.createStatement();
        ResultSet rows = statement.executeQuery("SHOW GRANTS")) {
      while (rows.next()) {
        Matcher grant = GRANT.matcher(rows.getString(1));
        if (grant.matches() && covers(grant.group(2), spec.database())) {
          for (String right : grant.group(1).split(",")) {
            has.add(right.strip().toUpperCase(Locale.ROOT));
          }
        }
      }
    }
    List<String> missing = new ArrayList<>();
    for (String right : needed) {
      if (!has.contains(right) && !has.contains("ALL PRIVILEGES")) {
        missing.add(right);
      }
    }
    return missing;
  }

  /** Whether a grant's object, such as {@code `shop\_%`.*}, covers a whole database. */
  private static boolean covers(String object, String database) {
    if (object.equals("*.*")) {
      return true;
    }
    if (!object.endsWith(".*")) {
      return false;
    }
    String pattern = object.substring(0, object.length() - 2).replace("`", "");
    StringBuilder regex = new StringBuilder();
    for (int i = 0; i < pattern.length(); i++) {
      char c = pattern.charAt(i);
      if (c == '\\' && i + 1 < pattern.length()) {
        regex.append(Pattern.quote(String.valueOf(pattern.charAt(++i))));
      } else {
        regex.append(c == '%' ? ".*" : c == '_' ? "." : Pattern.quote(String.valueOf(c)));
      }
    }
    return database.matches(regex.toString());
  }
}
