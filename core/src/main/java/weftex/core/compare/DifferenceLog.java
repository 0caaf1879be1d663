package weftex.core.compare;

import java.io.IOException;

/** Keeps differences outside memory. Positions ascend in the order of appending. */
public interface DifferenceLog extends AutoCloseable {

  /** Appends a difference and returns where it can be read again. */
  long append(Difference difference) throws IOException;

  /** Reads the difference that {@link #append} put at a position. */
  Difference read(long position) throws IOException;

  @Override
  void close() throws IOException;
}
