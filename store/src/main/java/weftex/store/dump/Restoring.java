package weftex.store.dump;

import java.sql.SQLException;
import java.util.List;
import java.util.Map;
import weftex.store.Refusal;
import weftex.store.sqltext.SavedStatement;

/**
 * Builds a saved copy beside the present one and puts it in its place. The tables before are set
 * aside, and come back by {@link #back}.
 */
public interface Restoring extends AutoCloseable {

  /**
   * What can't be put back here, as sentences; the first steps of {@link #execute} are allowed only
   * if there is none.
   *
   * @param tables the tables that the file has
   */
  List<String> obstacles(List<String> tables) throws SQLException;

  /** Makes room for the tables, and takes away what an earlier run left. */
  void begin(List<String> tables) throws SQLException, Refusal;

  /** Executes a statement of the file in that room; views and triggers at the switch. */
  void execute(SavedStatement statement) throws SQLException;

  /** The rows of each table as they were loaded. */
  Map<String, Long> counts() throws SQLException;

  /** What the present copy has and what was loaded has not; tables that are alike are left out. */
  Map<String, Since> since() throws SQLException;

  /**
   * What became of a table since it was saved.
   *
   * @param added rows that only the present copy has
   * @param edited rows that both have, with other values
   */
  record Since(long added, long edited) {
    /** Whether nothing did. */
    public boolean isNothing() {
      return added <= 0 && edited <= 0;
    }
  }

  /** Puts the loaded tables into the place of the present ones. */
  void switchOver() throws SQLException, Refusal;

  /** Whether tables are set aside. */
  boolean hasAside() throws SQLException;

  /** Puts the tables that are set aside back in their place. */
  void back() throws SQLException, Refusal;

  /** Drops what is set aside. */
  void dropAside() throws SQLException;

  /** Takes away what was loaded and not switched to. */
  @Override
  void close() throws SQLException;
}
