package weftex.core.change;

import java.util.List;
import java.util.Map;
import java.util.Optional;
import weftex.core.row.RowName;
import weftex.core.row.Value;

/**
 * A change of a row of the target, at one of its stages. What it touches is an {@link Outline},
 * what was drafted a {@link RowChange}, what was decided to be made a {@link DecidedChange}, and
 * what was decided to stay a {@link KeptChange}. Only a decided one can be made.
 */
public sealed interface Change permits Outline, RowChange, DecidedChange, KeptChange {
  /** What stands in the place of a table for a file of the copy's folder; no table is called so. */
  String FILES = "//files";

  Head head();

  default int id() {
    return head().id();
  }

  default Action action() {
    return head().action();
  }

  default String table() {
    return head().table();
  }

  default Map<String, Value> key() {
    return head().key();
  }

  default Optional<RowName> fresh() {
    return head().fresh();
  }

  default boolean renumbered() {
    return head().renumbered();
  }

  default boolean offered() {
    return head().ties().offered();
  }

  default Optional<Integer> with() {
    return head().ties().with();
  }

  default List<Integer> withAny() {
    return head().ties().withAny();
  }

  default Optional<Integer> alongWith() {
    return head().ties().alongWith();
  }

  default List<Ties.Need> needs() {
    return head().ties().needs();
  }

  default Map<Ties.Hanger, Long> hangers() {
    return head().ties().hangers();
  }

  default Optional<Item> item() {
    return head().item();
  }

  default Trace trace() {
    return head().trace();
  }

  /** The thing that the row is or belongs to; if no model names one, the row by its table. */
  default Item thing() {
    return item().orElseGet(() -> new Item("row of " + table(), keyText(), ""));
  }

  /** The key as a person writes it: {@code 12} or {@code 12, 4}. */
  default String keyText() {
    return Value.display(key().values());
  }
}
