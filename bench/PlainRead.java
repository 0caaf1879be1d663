import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.PreparedStatement;
import java.sql.ResultSet;

/** The yardstick: reads every cell of some tables as JDBC hands them out, in the order of the first column. */
class PlainRead {
  public static void main(String[] args) throws Exception {
    long cells = 0;
    try (Connection connection = DriverManager.getConnection(args[0])) {
      for (int i = 1; i < args.length; i++) {
        try (PreparedStatement statement = connection.prepareStatement("SELECT * FROM " + args[i] + " ORDER BY 1")) {
          statement.setFetchSize(2000);
          try (ResultSet rows = statement.executeQuery()) {
            int columns = rows.getMetaData().getColumnCount();
            while (rows.next()) {
              for (int c = 1; c <= columns; c++) {
                cells += rows.getString(c) == null ? 0 : 1;
              }
            }
          }
        }
      }
    }
    System.out.println(cells + " cells");
  }
}
