package weftex.store.engine;

import java.io.IOException;
import java.sql.SQLException;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import weftex.core.row.Value;
import weftex.store.Refusal;

/**
 * What a run makes of what the engine finds: an apply refuses whatever moved, an undo leaves it
 * alone. {@link #looked}, {@link #verified} and {@link #wrong} are called on a thread beside the
 * one that speaks with the server, one row at a time and in order, so they ask the server nothing.
 */
public interface Policy<T> {
  /** Whether long values of a row must be known whole before it is written. */
  default boolean needsWhole(Step<T> step) {
    return false;
  }

  /**
   * A row was looked at, and is locked.
   *
   * @param now what is there, long values as digests unless they are needed whole; empty if nothing
   *     is
   * @param moved the columns in which it is not what must be there
   */
  void looked(Step<T> step, Optional<Map<String, Value>> now, List<String> moved)
      throws IOException, Refusal;

  /** A row of a table without a key can't be looked at before it is written. */
  void unseen(Step<T> step) throws IOException;

  /** A chunk is looked at; the server may be asked what else there is to know of it. */
  default void lookedAround(List<Step<T>> chunk) throws SQLException, Refusal, IOException {}

  /** All rows were looked at; says whether any are to be written. */
  boolean goesOn() throws SQLException, Refusal, IOException;

  /** References that can't be written before the rows are there to which they lead. */
  default Map<String, Value> postponed(Step<T> step) throws Refusal {
    return Map.of();
  }

  /** What must be so before a row is written. */
  default void beforeWriting(Step<T> step) throws SQLException, Refusal {}

  /** A row of a table without a key that was to be removed is not there. */
  void missed(Step<T> step) throws Refusal;

  /** A unique value is taken; {@code said} is what the server says of it. */
  Refusal taken(String said);

  /** All rows are written. */
  default void written() throws SQLException, IOException {}

  /**
   * A row is as it was to be where it was written.
   *
   * @param key where it stands now
   * @param now the row, values whole where the step knows them; empty if it is removed
   * @param others columns that hold something else than before though they were not written
   */
  void verified(Step<T> step, List<Value> key, Map<String, Value> now, List<String> others)
      throws IOException, Refusal;

  /**
   * A written row is not as it was to be.
   *
   * @param column which holds something else; empty if it is about the whole row
   * @return a refusal; empty if it is put up with
   */
  Optional<Refusal> wrong(Step<T> step, Optional<String> column, String what);
}
