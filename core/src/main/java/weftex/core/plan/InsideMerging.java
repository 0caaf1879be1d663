package weftex.core.plan;

import java.math.BigInteger;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import weftex.core.merge.RowMerger;
import weftex.core.merge.ValueMerger;
import weftex.core.row.RowName;
import weftex.core.row.Value;
import weftex.core.site.ColumnRule;
import weftex.core.site.Inside;
import weftex.core.site.TableModel;
import weftex.core.value.Format;
import weftex.core.value.Place;
import weftex.core.value.Rewriting;
import weftex.core.value.Weaver;

/**
 * Merges inside the values of a row. A number that is not known yet is merged as a number that
 * stands nowhere else, and put back afterwards.
 */
final class InsideMerging implements RowMerger.InsideMerge {
  /** Stand-ins have nineteen digits, more than any number that a CMS hands out. */
  private static final BigInteger FIRST_STAND_IN = new BigInteger("7310000000000000000");

  /**
   * Bytes beyond which a value is one thing. To merge takes many times as much memory as a value
   * has, and who edited megabytes by hand on both sides is better asked.
   */
  private static final int LONGEST = 2 * 1024 * 1024;

  private final TableModel model;
  private final List<Value> raw;

  /**
   * @param raw the row as it is on the source
   */
  InsideMerging(TableModel model, List<Value> raw) {
    this.model = model;
    this.raw = raw;
  }

  @Override
  public Optional<RowMerger.Partly> merge(
      int position, Optional<Value> base, Value source, Value target) {
    if (model.columns().get(position) == ColumnRule.NEWER) {
      Value newer = isNewer(source, target) ? source : target;
      return Optional.of(new RowMerger.Partly(newer, newer, List.of()));
    }
    boolean texts =
        target instanceof Value.Text && base.map(b -> b instanceof Value.Text).orElse(true);
    Map<RowName, BigInteger> standIns = new HashMap<>();
    Optional<byte[]> bytes = texts ? source(source, standIns) : Optional.empty();
    if (bytes.isPresent() && isLong(base, bytes.get(), ((Value.Text) target).utf8())) {
      return Optional.empty();
    }
    if (!texts || bytes.isEmpty() || model.format(position, raw) == Format.BASE64) {
      return Optional.empty();
    }
    ValueMerger merger = new ValueMerger(sets(position));
    byte[] there = ((Value.Text) target).utf8();
    return (base.isPresent()
            ? merger.merge(((Value.Text) base.get()).utf8(), bytes.get(), there)
            : merger.mergeAdded(bytes.get(), there))
        .map(
            merged ->
                new RowMerger.Partly(
                    woven(merged.ifSource(), standIns),
                    woven(merged.ifTarget(), standIns),
                    merged.clashes()));
  }

  private static boolean isLong(Optional<Value> base, byte[] source, byte[] target) {
    int longest = Math.max(source.length, target.length);
    return Math.max(longest, base.map(b -> ((Value.Text) b).utf8().length).orElse(0)) > LONGEST;
  }

  /** Times are written so that the later one sorts behind, or as a whole number. */
  private static boolean isNewer(Value one, Value other) {
    if (one instanceof Value.Whole a && other instanceof Value.Whole b) {
      return a.number().compareTo(b.number()) > 0;
    }
    return one.display().compareTo(other.display()) > 0;
  }

  private static Optional<byte[]> source(Value source, Map<RowName, BigInteger> standIns) {
    if (source instanceof Value.Pending pending) {
      return Optional.of(
          pending
              .settled(
                  row ->
                      standIns.computeIfAbsent(
                          row, r -> FIRST_STAND_IN.add(BigInteger.valueOf(standIns.size()))))
              .utf8());
    }
    return source instanceof Value.Text text ? Optional.of(text.utf8()) : Optional.empty();
  }

  private List<String> sets(int position) {
    List<String> sets = new ArrayList<>();
    for (Inside inside : model.inside()) {
      if (inside.column() == position && inside.holdsFor(raw)) {
        sets.addAll(inside.sets());
      }
    }
    return sets;
  }

  private static Value woven(byte[] merged, Map<RowName, BigInteger> standIns) {
    Value text = new Value.Text(merged);
    if (standIns.isEmpty()) {
      return text;
    }
    Map<String, RowName> rows = new HashMap<>();
    standIns.forEach((row, number) -> rows.put(number.toString(), row));
    Rewriting.Visitor back =
        new Rewriting.Visitor() {
          @Override
          public boolean mayTouch(byte[] bytes) {
            return true;
          }

          @Override
          public Optional<Weaver> text(Place place, byte[] bytes) {
            return putBack(bytes, rows);
          }

          @Override
          public Optional<Weaver> number(Place place, byte[] digits) {
            return putBack(digits, rows);
          }
        };
    return Rewriting.rewrite(merged, back).map(woven -> woven.toValue(text)).orElse(text);
  }

  private static Optional<Weaver> putBack(byte[] bytes, Map<String, RowName> rows) {
    String text = new String(bytes, StandardCharsets.ISO_8859_1);
    Weaver woven = new Weaver();
    int at = 0;
    boolean found = false;
    int digits = FIRST_STAND_IN.toString().length();
    for (int i = 0; i + digits <= text.length(); i++) {
      RowName row = rows.get(text.substring(i, i + digits));
      if (row != null) {
        woven.add(bytes, at, i).add(row);
        at = i + digits;
        i = at - 1;
        found = true;
      }
    }
    return found ? Optional.of(woven.add(bytes, at, bytes.length)) : Optional.empty();
  }
}
