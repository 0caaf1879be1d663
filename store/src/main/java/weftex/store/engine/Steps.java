package weftex.store.engine;

import java.io.IOException;
import java.sql.SQLException;
import java.util.List;
import weftex.store.Refusal;

/** The rows of a run, passed over a chunk at a time, as often as the engine needs. */
public interface Steps<T> {
  /** Takes some rows. */
  interface Sink<T> {
    void accept(List<Step<T>> chunk) throws SQLException, Refusal, IOException;
  }

  /** Passes over all rows that may be written, in the order of applying. */
  void each(Sink<T> sink) throws SQLException, Refusal, IOException;

  /** The same in the order of writing. */
  void eachToWrite(Sink<T> sink) throws SQLException, Refusal, IOException;
}
