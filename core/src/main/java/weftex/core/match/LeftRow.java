package weftex.core.match;

import java.io.IOException;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import weftex.core.compare.Comparison;
import weftex.core.row.Row;
import weftex.core.row.SortKey;
import weftex.core.row.Table;
import weftex.core.row.Value;

/** Puts rows as an earlier merge left them together from what is known of them. */
final class LeftRow {
  private final Comparison comparison;
  private final PastMerges past;
  private final References references;

  /** Puts the references of a row of the source into the target's terms. */
  interface References {

    /**
     * @param onTarget the target's row, if the source has removed its own; else empty
     */
    List<Value> mapped(int table, List<Value> values, List<Value> onTarget) throws IOException;
  }

  LeftRow(Comparison comparison, PastMerges past, References references) {
    this.comparison = comparison;
    this.past = past;
    this.references = references;
  }

  /** What is known of a row by its key on the target. */
  Optional<PastMerges.Left> known(int table, List<Value> key) throws IOException {
    return isKnown(key) ? past.left(name(table), named(table, key)) : Optional.empty();
  }

  /** Whether the source has a row and the target has not, as somebody decided. */
  boolean wasKept(int table, List<Value> key) throws IOException {
    return isKnown(key) && past.wasKept(name(table), named(table, key));
  }

  /** Whether the target has a row and the source has not, as somebody decided. */
  boolean wasLeft(int table, List<Value> key) throws IOException {
    return isKnown(key) && past.wasLeft(name(table), named(table, key));
  }

  private static boolean isKnown(List<Value> key) {
    return !key.isEmpty() && key.stream().noneMatch(Value::isOpen);
  }

  private String name(int table) {
    return comparison.tables().get(table).table().name();
  }

  private Map<String, Value> named(int table, List<Value> key) {
    Table shape = comparison.tables().get(table).table();
    Map<String, Value> named = new LinkedHashMap<>();
    for (int i = 0; i < key.size(); i++) {
      named.put(shape.columns().get(shape.key().get(i)).name(), key.get(i));
    }
    return named;
  }

  /** The key of a row. */
  List<Value> key(int table, List<Value> row) {
    return Table.pick(row, comparison.tables().get(table).table().key());
  }

  /** The same, if it is all of the row. */
  Optional<PastMerges.Left> whole(int table, List<Value> key) throws IOException {
    return known(table, key).filter(PastMerges.Left::whole);
  }

  /**
   * A row as it was left, in the target's terms.
   *
   * @param raw the source's row, its references in its own terms; empty if it has none
   * @param source the same in the target's terms
   * @param now the target's row; empty if it has none
   */
  Row of(
      int table,
      SortKey key,
      PastMerges.Left left,
      List<Value> raw,
      List<Value> source,
      List<Value> now)
      throws IOException {
    Table shape = comparison.tables().get(table).table();
    List<Value> values = new ArrayList<>();
    for (int i = 0; i < shape.columns().size(); i++) {
      Value on = now.isEmpty() ? Value.NULL : now.get(i);
      // A column that came later has not been merged yet: the target's value stands for it.
      Value value = left.onTarget().getOrDefault(shape.columns().get(i).name(), on);
      if (value instanceof Value.Digest) {
        boolean asOnSource = !source.isEmpty() && value.matches(source.get(i));
        value = asOnSource ? source.get(i) : ofDigest(value, on);
      }
      values.add(value);
    }
    return Row.of(key, over(table, values, left.onSource(), raw, raw.isEmpty() ? now : List.of()));
  }

  /**
   * A row of the base with what merges left in the source's terms put into the target's.
   *
   * @param raw the source's row, its references in its own terms; empty if it has none
   * @param onTarget the target's row, if the source has removed its own; else empty
   */
  Row base(int table, Row base, List<Value> raw, List<Value> onTarget) throws IOException {
    Table shape = comparison.tables().get(table).table();
    if (!base.isPresent() || !shape.hasKey()) {
      return base;
    }
    List<Value> values = base.values();
    Optional<PastMerges.Left> left = known(table, Table.pick(values, shape.key()));
    return left.isEmpty() || left.get().onSource().isEmpty()
        ? base
        : Row.of(base.key(), over(table, values, left.get().onSource(), raw, onTarget));
  }

  private static Value ofDigest(Value known, Value now) {
    // Of what is unlike that, nobody can show more.
    return known.matches(now) ? now : Value.text(known.display());
  }

  /**
   * Values with some of the source's over them.
   *
   * @param raw the source's row, its references in its own terms; empty if it has none
   * @param onTarget the target's row, if the source has removed its own; else empty
   */
  private List<Value> over(
      int table,
      List<Value> values,
      Map<String, Value> onSource,
      List<Value> raw,
      List<Value> onTarget)
      throws IOException {
    if (onSource.isEmpty()) {
      return values;
    }
    Table shape = comparison.tables().get(table).table();
    List<Value> row = new ArrayList<>(raw.isEmpty() ? values : raw);
    for (int i = 0; i < row.size(); i++) {
      Value value = onSource.getOrDefault(shape.columns().get(i).name(), row.get(i));
      row.set(i, value instanceof Value.Digest ? ofDigest(value, row.get(i)) : value);
    }
    Row addressed = comparison.mapped(table, Row.of(new SortKey(new byte[0]), row));
    List<Value> mapped = references.mapped(table, addressed.values(), onTarget);
    List<Value> over = new ArrayList<>(values);
    for (int i = 0; i < over.size(); i++) {
      if (onSource.containsKey(shape.columns().get(i).name())) {
        Value value = mapped.get(i);
        // A reference to something new has no number yet, and is nothing that was merged.
        over.set(i, value.isOpen() && !value.isNull() ? Value.text(value.display()) : value);
      }
    }
    return over;
  }
}
