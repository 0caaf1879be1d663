package weftex.store.compare;

import java.io.IOException;
import java.util.HashSet;
import java.util.List;
import java.util.Set;
import weftex.core.compare.Comparison;
import weftex.core.compare.Difference;
import weftex.core.row.SortKey;
import weftex.core.row.Table;
import weftex.core.row.Value;

/** The keys of rows that were merged before. */
final class MergedKeys {

  private MergedKeys() {}

  /** The keys of the rows that the source seems to have added. */
  static Set<List<Value>> added(Comparison comparison, int at) throws IOException {
    Set<List<Value>> keys = new HashSet<>();
    for (long position : comparison.bySource(at).toArray()) {
      Difference row = comparison.log().read(position);
      if (!row.base().isPresent()) {
        keys.add(Table.pick(row.source().values(), comparison.tables().get(at).table().key()));
      }
    }
    return keys;
  }

  /** The places of the rows that the source is known to have removed. */
  static Set<SortKey> removed(Comparison comparison, int at) throws IOException {
    Set<SortKey> keys = new HashSet<>();
    for (long position : comparison.bySource(at).toArray()) {
      Difference row = comparison.log().read(position);
      if (!row.source().isPresent() && row.target().isPresent()) {
        keys.add(row.target().key());
      }
    }
    return keys;
  }
}
