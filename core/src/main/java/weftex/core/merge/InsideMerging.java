package weftex.core.merge;

import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.function.Function;
import weftex.core.model.ColumnRule;
import weftex.core.row.Value;
import weftex.core.site.Inside;
import weftex.core.site.TableModel;
import weftex.core.value.Format;

/**
 * Merges inside the values of a row. A number that is not known yet is merged as a number that
 * stands nowhere else, and put back afterwards.
 */
public final class InsideMerging implements RowMerger.InsideMerge {
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
  public InsideMerging(TableModel model, List<Value> raw) {
    this.model = model;
    this.raw = raw;
  }

  @Override
  public Optional<RowMerger.Partly> merge(
      int position, Optional<Value> base, Value source, Value target) {
    if (model.handling().columns().get(position) == ColumnRule.NEWER) {
      Value newer = isNewer(source, target) ? source : target;
      return Optional.of(new RowMerger.Partly(newer, newer, List.of()));
    }
    boolean texts =
        target instanceof Value.Text && base.map(b -> b instanceof Value.Text).orElse(true);
    StandIns standIns = new StandIns();
    Optional<byte[]> bytes = texts ? standIns.bytes(source) : Optional.empty();
    if (bytes.isPresent() && isLong(base, bytes.get(), ((Value.Text) target).utf8())) {
      return Optional.empty();
    }
    if (!texts || bytes.isEmpty() || model.contents().format(position, raw) == Format.BASE64) {
      return Optional.empty();
    }
    ValueMerger merger =
        new ValueMerger(paths(position, Inside::sets), paths(position, Inside::units));
    byte[] there = ((Value.Text) target).utf8();
    return (base.isPresent()
            ? merger.merge(((Value.Text) base.get()).utf8(), bytes.get(), there)
            : merger.mergeAdded(bytes.get(), there))
        .map(
            merged ->
                new RowMerger.Partly(
                    standIns.putBack(merged.ifSource()),
                    standIns.putBack(merged.ifTarget()),
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

  private List<String> paths(int position, Function<Inside, List<String>> kind) {
    List<String> paths = new ArrayList<>();
    for (Inside inside : model.contents().inside()) {
      if (inside.column() == position && inside.holdsFor(raw)) {
        paths.addAll(kind.apply(inside));
      }
    }
    return paths;
  }
}
