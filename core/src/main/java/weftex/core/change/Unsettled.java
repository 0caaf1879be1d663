package weftex.core.change;

import java.util.List;
import java.util.Optional;
import weftex.core.merge.ValueMerger;
import weftex.core.row.Value;

/**
 * What the base has of a value of which a rule kept the target's side where both clash, and took
 * the rest: the target's side is nobody's decision and must not look like what both once had.
 */
final class Unsettled {
  private Unsettled() {}

  /**
   * The base's value with the source's other changes. Where that can't be told it is the base's;
   * without a base it is the source's, so that nothing of the target is overwritten.
   */
  static Value of(Conflict conflict, String column) {
    Value source = conflict.source().get(column);
    Value base = conflict.base().get(column);
    if (base == null) {
      return source;
    }
    Value target = conflict.target().get(column);
    Value made = conflict.otherwise().get(column);
    return target instanceof Value.Text from
            && made instanceof Value.Text to
            && base instanceof Value.Text of
        ? merged(from, to, of).orElse(base)
        : base;
  }

  /** The way from one text to another, gone by a third; empty if it can't be. */
  private static Optional<Value> merged(Value.Text from, Value.Text to, Value.Text of) {
    return new ValueMerger(List.of(), List.of())
        .merge(from.utf8(), to.utf8(), of.utf8())
        .filter(merged -> merged.clashes().isEmpty())
        .map(merged -> new Value.Text(merged.ifSource()));
  }
}
