package weftex.store.engine;

import java.sql.SQLException;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import weftex.core.row.Column;
import weftex.core.row.Value;
import weftex.core.row.ValueKind;
import weftex.core.site.Counter;
import weftex.store.Refusal;
import weftex.store.database.WriteTable;
import weftex.store.rows.WriteTransaction;

/** Counts anew what a counter counts, for the rows that changed. */
final class Recounting {

  private final Effects effects;
  private final WriteTransaction transaction;

  Recounting(Effects effects, WriteTransaction transaction) {
    this.effects = effects;
    this.transaction = transaction;
  }

  void recount(AfterEffects.Counting counting) throws SQLException, Refusal {
    Counter counter = counting.counter();
    Optional<WriteTable> of = effects.table(counter.of());
    Optional<WriteTable> own = effects.table(counting.model().table().name());
    Optional<WriteTable> through = counter.through().flatMap(way -> effects.table(way.to()));
    if (of.isEmpty() || own.isEmpty() || through.isPresent() != counter.through().isPresent()) {
      return;
    }
    for (List<Value> some : inParts(counting.throughs())) {
      counting.owners().addAll(transaction.derived().owners(of.get(), counter, some));
    }
    Column column = counting.model().table().columns().get(counter.column());
    for (List<Value> some : inParts(counting.owners())) {
      Map<Value, Long> counts = transaction.derived().counts(of.get(), counter, through, some);
      Map<List<Value>, Optional<Value>> now =
          effects.read(own.get(), column.name(), some.stream().map(List::of).toList());
      for (Map.Entry<List<Value>, Optional<Value>> row : now.entrySet()) {
        long count = counts.getOrDefault(row.getKey().get(0), 0L);
        Value counted =
            column.kind() == ValueKind.TEXT
                ? Value.text(String.valueOf(count))
                : Value.whole(count);
        if (row.getValue().isPresent() && !counted.equals(row.getValue().get())) {
          effects.change(own.get(), row.getKey(), column.name(), row.getValue().get(), counted);
        }
      }
    }
  }

  static List<List<Value>> inParts(Set<Value> keys) {
    List<Value> all = List.copyOf(keys);
    List<List<Value>> parts = new ArrayList<>();
    for (int i = 0; i < all.size(); i += AfterEffects.AT_ONCE) {
      parts.add(all.subList(i, Math.min(all.size(), i + AfterEffects.AT_ONCE)));
    }
    return parts;
  }
}
