package weftex.store.rows;

import java.io.IOException;
import java.sql.PreparedStatement;
import java.sql.ResultSet;
import java.sql.SQLException;
import weftex.core.row.Row;
import weftex.core.row.RowStream;
import weftex.core.row.SortKey;
import weftex.store.FailureWords;

/** Streams the rows of a query, checking that they come in order. */
final class JdbcRowStream implements RowStream {
  private final PreparedStatement statement;
  private final ResultSet rows;
  private final RowReader reader;
  private final String place;
  private final boolean unique;

  /** The key of the row before; null before the first. */
  private SortKey last;

  private boolean exhausted;

  JdbcRowStream(PreparedStatement statement, RowReader reader, String place, boolean unique)
      throws SQLException {
    this.statement = statement;
    this.rows = statement.executeQuery();
    this.reader = reader;
    this.place = place;
    this.unique = unique;
  }

  @Override
  public Row next() throws IOException {
    try {
      if (!rows.next()) {
        exhausted = true;
        return Row.ABSENT;
      }
      Row row = reader.read(rows);
      if (last != null) {
        int order = last.compareTo(row.key());
        if (order > 0 || order == 0 && unique) {
          throw new IOException(
              "the rows of " + place + " did not come in the order of their keys");
        }
      }
      last = row.key();
      return row;
    } catch (SQLException e) {
      throw new IOException("reading " + place + " broke off: " + FailureWords.of(e), e);
    }
  }

  @Override
  public void close() throws IOException {
    try (statement) {
      if (!exhausted) {
        statement.cancel();
      }
      rows.close();
    } catch (SQLException e) {
      throw new IOException("closing " + place + " failed: " + FailureWords.of(e), e);
    }
  }
}
