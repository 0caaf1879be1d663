package weftex.store.copy;

import java.sql.Connection;
import java.sql.SQLException;
import java.util.Optional;
import weftex.store.Refusal;
import weftex.store.database.Connecting;
import weftex.store.rows.WriteTransaction;

/**
 * The right to write to a copy, which one run at a time has. The database itself holds it for the
 * connection in which the run's transactions are, so it ends with the run, however that ends, and
 * no transaction of a run goes on without it.
 */
public final class Claim implements AutoCloseable {
  private final Copy copy;
  private final Connection connection;
  private final AutoCloseable lock;

  private Claim(Copy copy, Connection connection, AutoCloseable lock) {
    this.copy = copy;
    this.connection = connection;
    this.lock = lock;
  }

  /**
   * Claims a copy.
   *
   * @param seconds how long to wait for another run to end
   * @return empty if another run is still at work
   */
  static Optional<Claim> of(Copy copy, int seconds) throws Refusal {
    Connection connection = Connecting.open(copy.spec());
    try {
      Optional<AutoCloseable> lock = copy.dialect().claim(connection, copy.spec(), seconds);
      if (lock.isEmpty()) {
        Connecting.close(connection);
      }
      return lock.map(held -> new Claim(copy, connection, held));
    } catch (SQLException e) {
      Connecting.close(connection);
      throw copy.notWritable(e);
    }
  }

  /** Begins a transaction that writes, one after the other. */
  public WriteTransaction begin() throws Refusal {
    return begin(copy);
  }

  /**
   * The same.
   *
   * @param now the same copy, with its tables as they are now
   */
  public WriteTransaction begin(Copy now) throws Refusal {
    try {
      return new WriteTransaction(connection, now.dialect(), now.spec());
    } catch (SQLException e) {
      throw copy.notWritable(e);
    }
  }

  @Override
  public void close() {
    try {
      lock.close();
    } catch (Exception e) {
      // The database lets go when the connection ends.
    }
    Connecting.close(connection);
  }
}
