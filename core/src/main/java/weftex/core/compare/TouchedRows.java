package weftex.core.compare;

import java.io.IOException;
import java.util.HashMap;
import java.util.HashSet;
import java.util.Map;
import java.util.Set;
import java.util.stream.LongStream;
import weftex.core.row.SortKey;

/** The rows of the target that are new or changed there since both copies were last one. */
public final class TouchedRows {
  private final Comparison comparison;
  private final Map<Integer, Set<SortKey>> byTable = new HashMap<>();

  public TouchedRows(Comparison comparison) {
    this.comparison = comparison;
  }

  /** Their keys. */
  public Set<SortKey> of(int table) throws IOException {
    Set<SortKey> touched = byTable.get(table);
    if (touched == null) {
      touched = new HashSet<>();
      for (long at :
          LongStream.concat(comparison.byTargetOnly(table), comparison.bySource(table)).toArray()) {
        Difference row = comparison.log().read(at);
        boolean meant =
            !row.base().isPresent()
                || row.target().isPresent()
                    && !comparison
                        .tables()
                        .get(table)
                        .meanTheSame(row.base().values(), row.target().values());
        if (row.byTarget() && row.target().isPresent() && meant) {
          touched.add(row.target().key());
        }
      }
      byTable.put(table, touched);
    }
    return touched;
  }
}
