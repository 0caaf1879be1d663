package weftex.core.base;

import java.math.BigInteger;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.stream.IntStream;
import weftex.core.model.ColumnRule;
import weftex.core.row.Row;
import weftex.core.row.Table;
import weftex.core.row.Value;
import weftex.core.site.Reference;
import weftex.core.site.TableModel;

/**
 * When two copies parted, as the rows tell that both still have alike: the highest number of each
 * table, and the latest time of change. What has a higher number was added since, what has a later
 * time was changed since.
 */
public final class Parting {
  /** In how many columns two states of a row without identity may differ. */
  private static final int MOST_DIFFERING = 2;

  /** In how many at most, where it was given another name; more, and they are two things. */
  static final int MOST_OF_ONE_THING = 3;

  private final Map<String, BigInteger> numbers = new HashMap<>();
  private final boolean isSaid;
  private String time;

  /**
   * @param said the time as a person knows it, as {@code 2026-11-01T09:00:00} in the time zone in
   *     which the site writes; empty to find it in the rows
   */
  public Parting(Optional<String> said) {
    this.isSaid = said.isPresent();
    this.time = said.map(Parting::comparable).orElse("");
  }

  /** Looks at a row that both copies have alike. */
  public void sawAlike(TableModel model, Row row) {
    List<Value> values = row.values();
    if (isSaid && isChangedSince(model, values)) {
      // Both added it, or changed it alike.
      return;
    }
    sawNumber(model, values);
    if (!isSaid) {
      String changed = changed(model, values).orElse("");
      time = changed.compareTo(time) > 0 ? changed : time;
    }
  }

  /**
   * Looks at a row that both copies have under one key and that differs: what is the same thing was
   * there when they parted.
   */
  public void sawDiffering(TableModel model, Row one, Row other) {
    if (isSame(model, one.values(), other.values())) {
      sawNumber(model, one.values());
    }
  }

  private void sawNumber(TableModel model, List<Value> row) {
    if (model.table().isNumbered()
        && row.get(model.table().number()) instanceof Value.Whole whole) {
      numbers.merge(model.table().name(), whole.number(), BigInteger::max);
    }
  }

  /**
   * Whether two rows of one number are one thing: by their identity, or, where they have none, by
   * how little differs.
   */
  static boolean isSame(TableModel model, List<Value> one, List<Value> other) {
    if (model.identity().isOf(one) && model.identity().isOf(other)) {
      return Table.pick(one, model.identity().columns())
          .equals(Table.pick(other, model.identity().columns()));
    }
    return differing(model, one, other) <= MOST_DIFFERING;
  }

  /**
   * In how many columns two rows differ, times of change and what each copy has for itself apart.
   */
  static int differing(TableModel model, List<Value> one, List<Value> other) {
    return (int)
        IntStream.range(0, one.size())
            .filter(i -> !model.isOwn(i) && model.handling().columns().get(i) != ColumnRule.NEWER)
            .filter(i -> !one.get(i).equals(other.get(i)))
            .count();
  }

  /** Whether two rows of one number are parts of different things. */
  static boolean areElsewhere(TableModel model, List<Value> one, List<Value> other) {
    return model
        .parts()
        .of()
        .map(Reference::columns)
        .filter(columns -> !Table.pick(one, columns).equals(Table.pick(other, columns)))
        .isPresent();
  }

  /** The time, as the site writes it; empty if nothing tells it. */
  public String time() {
    return time;
  }

  /**
   * Whether a row got its number after the copies parted. One that says that it was not changed
   * since was there before.
   */
  public boolean isAddedSince(TableModel model, List<Value> row) {
    boolean isOld =
        !time.isEmpty() && changed(model, row).filter(at -> at.compareTo(time) <= 0).isPresent();
    return !isOld
        && model.table().isNumbered()
        && row.get(model.table().number()) instanceof Value.Whole whole
        && whole.number().compareTo(numbers.getOrDefault(model.table().name(), BigInteger.ZERO))
            > 0;
  }

  /** Whether a row says that it was changed after the copies parted. */
  public boolean isChangedSince(TableModel model, List<Value> row) {
    return !time.isEmpty() && changed(model, row).filter(at -> at.compareTo(time) > 0).isPresent();
  }

  /** When a row was changed, as far as it says that; a time that is none does not count. */
  public static Optional<String> changed(TableModel model, List<Value> row) {
    return model.handling().columns().entrySet().stream()
        .filter(column -> column.getValue() == ColumnRule.NEWER)
        .map(column -> row.get(column.getKey()))
        .filter(value -> !value.isNull())
        .map(value -> comparable(value.display()))
        .filter(time -> time.matches("[1-9]\\d{3}-.*"))
        .findFirst();
  }

  /** Times in one form, so that their order as texts is that in time. */
  private static String comparable(String time) {
    return time.replace('T', ' ').strip();
  }
}
