package weftex.core.schema;

import java.util.Optional;

/**
 * What is said of a table behind its columns.
 *
 * @param engine on a server; empty where there is only one
 * @param versioned whether the server keeps its history
 * @param withoutRowNumber SQLite's {@code WITHOUT ROWID}
 */
public record TableOptions(
    Optional<String> engine,
    Collated collated,
    Optional<String> rowFormat,
    String comment,
    boolean versioned,
    boolean withoutRowNumber) {

  public TableOptions {
    engine.ifPresent(Shapes::word);
    rowFormat.ifPresent(Shapes::word);
  }
}
