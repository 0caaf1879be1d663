package weftex.store.rows;

import java.sql.ResultSet;
import java.sql.SQLException;
import java.util.ArrayList;
import java.util.List;
import weftex.core.row.Column;
import weftex.core.row.Row;
import weftex.core.row.Table;
import weftex.core.row.Value;
import weftex.store.database.Dialect;
import weftex.store.database.WriteTable;

/**
 * Reads rows with digests in place of long values, which the server computes and need not travel.
 */
final class DigestedColumns {
  private final Dialect dialect;
  private final String realName;
  private final List<String> expressions = new ArrayList<>();
  private final List<Integer> digested = new ArrayList<>();

  /**
   * @param wholeUpTo bytes up to which a value is read whole
   */
  DigestedColumns(WriteTable write, Dialect dialect, long wholeUpTo) {
    Table table = write.table();
    this.dialect = dialect;
    this.realName = write.realName();
    List<String> digests = new ArrayList<>();
    for (int i = 0; i < table.columns().size(); i++) {
      Column column = table.columns().get(i);
      String value = dialect.readExpression(column);
      var digest =
          wholeUpTo == Long.MAX_VALUE || table.key().contains(i)
              ? java.util.Optional.<String>empty()
              : dialect.sha256Expression(column, write.plainUnicode());
      if (digest.isPresent()) {
        String isLong = "LENGTH(" + value + ") > " + wholeUpTo;
        expressions.add("IF(" + isLong + ", NULL, " + value + ")");
        digests.add("IF(" + isLong + ", " + digest.get() + ", NULL)");
        digested.add(i);
      } else {
        expressions.add(value);
      }
    }
    expressions.addAll(digests);
  }

  String select() {
    return "SELECT " + String.join(", ", expressions) + " FROM " + dialect.quote(realName);
  }

  /** The values of the current row, of which {@code row} was made. */
  List<Value> values(Row row, ResultSet rows) throws SQLException {
    List<Value> values = row.values();
    for (int i = 0; i < digested.size(); i++) {
      String digest = rows.getString(values.size() + i + 1);
      if (digest != null) {
        String[] parts = digest.split(" ");
        values.set(digested.get(i), new Value.Digest(parts[0], Long.parseLong(parts[1])));
      }
    }
    return values;
  }
}
