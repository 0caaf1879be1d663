package weftex.core.site;

import java.util.List;
import weftex.core.row.Value;

/**
 * A reference, resolved to positions.
 *
 * @param columns positions of the referring columns
 * @param target name of the table referred to
 * @param targetColumns positions there, in the same order
 * @param unset the text of the value that refers to nothing; empty if only NULL does
 * @param enforced whether the server itself enforces it, as a foreign key
 */
public record Reference(
    List<Integer> columns,
    String target,
    List<Integer> targetColumns,
    String unset,
    boolean enforced) {

  public Reference {
    columns = List.copyOf(columns);
    targetColumns = List.copyOf(targetColumns);
  }

  /** Whether these values of the referring columns refer to nothing. */
  public boolean isUnset(List<Value> values) {
    for (Value value : values) {
      if (value.isNull() || !unset.isEmpty() && isUnset(value)) {
        return true;
      }
    }
    return false;
  }

  private boolean isUnset(Value value) {
    boolean zero = value instanceof Value.Whole whole && whole.number().signum() == 0;
    return unset.equals("0") && value instanceof Value.Whole ? zero : value.display().equals(unset);
  }
}
