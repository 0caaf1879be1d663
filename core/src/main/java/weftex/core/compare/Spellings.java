package weftex.core.compare;

import java.util.ArrayList;
import java.util.List;
import weftex.core.row.Row;
import weftex.core.row.Value;

/** What a row says in other words: with addresses mapped, and as they come from the source. */
final class Spellings {
  private final RowMapping mapping;
  private final int table;
  private final Row row;
  private final Row mapped;
  private final boolean comesOtherwise;

  /** Unpacked when they are asked for. */
  private List<Value> own;

  private List<Value> ofMapped;

  /**
   * @param mapping puts the source's rows into the target's terms
   */
  Spellings(RowMapping mapping, int table, Row row) {
    this.mapping = mapping;
    this.table = table;
    this.row = row;
    this.mapped = mapping.ownOfOther(table, row);
    this.comesOtherwise = mapping.mayComeOtherwise(table, row);
  }

  /** Whether there is one way alone to say it. */
  boolean isOne() {
    return !comesOtherwise && isSame(mapped, row);
  }

  /** Whether a value is the row's own in other words. */
  private boolean isOther(int column, Value value) {
    return value.equals(ofMapped().get(column))
        || comesOtherwise && value.equals(mapping.thereAndBack(table, own(), column));
  }

  /** A value with this copy's own addresses wherever the row has the other's. */
  private Value withOwn(int column) {
    return comesOtherwise
        ? mapping.thereAndBack(table, ofMapped(), column)
        : ofMapped().get(column);
  }

  private List<Value> ofMapped() {
    if (ofMapped == null) {
      ofMapped = mapped == row ? own() : mapped.values();
    }
    return ofMapped;
  }

  private List<Value> own() {
    if (own == null) {
      own = row.values();
    }
    return own;
  }

  /** A row in this one's words; an absent one stays so. */
  Row spelled(Row other) {
    // Not unpacked without need: it may be long.
    return !other.isPresent() || isOne() ? other : Row.of(other.key(), spelled(other.values()));
  }

  List<Value> spelled(List<Value> others) {
    List<Value> spelled = new ArrayList<>(others);
    for (int i = 0; i < spelled.size(); i++) {
      if (!spelled.get(i).equals(own().get(i)) && isOther(i, spelled.get(i))) {
        spelled.set(i, own().get(i));
      }
    }
    return spelled;
  }

  /** This row in the words of others. */
  List<Value> as(List<Value> others) {
    List<Value> values = new ArrayList<>(own());
    for (int i = 0; i < values.size(); i++) {
      if (!values.get(i).equals(others.get(i)) && isOther(i, others.get(i))) {
        values.set(i, others.get(i));
      }
    }
    return values;
  }

  /**
   * A base in this row's words, if this is the target's: that it put its own address where the base
   * has the source's is no edit of its either, also where it edited the value beside it. The source
   * has the target's address there in any case.
   */
  Row base(Row base) {
    Row spelled = spelled(base);
    if (!spelled.isPresent() || isSame(spelled, row)) {
      return spelled;
    }
    Spellings ofBase = new Spellings(mapping, table, spelled);
    if (ofBase.isOne()) {
      return spelled;
    }
    List<Value> values = ofBase.as(own());
    for (int i = 0; i < values.size(); i++) {
      boolean edited = !values.get(i).equals(own().get(i));
      if (edited && withOwn(i).equals(own().get(i))) {
        values.set(i, ofBase.withOwn(i));
      }
    }
    return Row.of(spelled.key(), values);
  }

  /**
   * This row, if it is the base, in the words of a side: where it has the source's address in a
   * value, since the target had, and that side the target's, that is no edit of that side.
   */
  Row meant(Row side) {
    return isOne() ? row : Row.of(row.key(), as(side.values()));
  }

  private static boolean isSame(Row one, Row other) {
    return one == other || one.sameValues(other);
  }
}
