package weftex.core.compare;

import java.util.ArrayList;
import java.util.List;

/** Keeps differences in memory, for tests. */
public final class MemoryLog implements DifferenceLog {
  private final List<Difference> differences = new ArrayList<>();

  @Override
  public long append(Difference difference) {
    differences.add(difference);
    return differences.size() - 1;
  }

  @Override
  public Difference read(long position) {
    return differences.get((int) position);
  }

  @Override
  public void close() {}
}
