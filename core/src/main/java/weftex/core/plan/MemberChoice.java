package weftex.core.plan;

import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import weftex.core.match.Sides;
import weftex.core.merge.StandIns;
import weftex.core.row.Table;
import weftex.core.row.Value;
import weftex.core.select.MemberFilter;
import weftex.core.value.Grafting;
import weftex.core.value.Structure;

/**
 * A row of which only some members are chosen. What is not chosen counts as if the source had left
 * it as it was, so that it is neither merged now nor taken as settled later.
 */
final class MemberChoice {
  private final Table table;
  private final MemberFilter filter;

  MemberChoice(Table table, MemberFilter filter) {
    this.table = table;
    this.filter = filter;
  }

  /** The sides with the source's row as if it had nothing but what is chosen. */
  Sides of(Sides sides) {
    if (!sides.inSource()) {
      return sides;
    }
    List<Value> before =
        sides.base().isPresent()
            ? sides.base().values()
            : sides.target().isPresent() ? sides.target().values() : List.of();
    List<Value> source = new ArrayList<>(sides.source());
    List<Value> raw = new ArrayList<>(sides.rawSource());
    for (int i = 0; i < source.size(); i++) {
      if (table.key().contains(i)) {
        continue;
      }
      boolean isStructured = isStructured(raw.get(i));
      if (isStructured) {
        Optional<Value> was = before.isEmpty() ? Optional.empty() : Optional.of(before.get(i));
        source.set(i, grafted(was, source.get(i)));
        raw.set(i, grafted(Optional.empty(), raw.get(i)));
      } else if (filter.picks() && !before.isEmpty()) {
        source.set(i, before.get(i));
      }
    }
    return new Sides(sides.base(), source, raw, sides.target(), sides.fresh());
  }

  /** Whether anything of an added row is chosen. */
  boolean isAny(Sides added) {
    return !filter.picks()
        || added.rawSource().stream()
            .filter(MemberChoice::isStructured)
            .map(value -> ((Value.Text) value).utf8())
            .flatMap(bytes -> Grafting.graft(Optional.empty(), bytes, filter).stream())
            .flatMap(bytes -> Structure.detect(bytes).stream())
            .anyMatch(chosen -> !chosen.root().values().isEmpty());
  }

  private static boolean isStructured(Value value) {
    return value instanceof Value.Text text && Structure.detect(text.utf8()).isPresent();
  }

  /** Where nothing can be taken out of a value, it stays as it was. */
  private Value grafted(Optional<Value> was, Value source) {
    StandIns standIns = new StandIns();
    Optional<byte[]> bytes = standIns.bytes(source);
    Optional<byte[]> below = was.flatMap(standIns::bytes);
    Optional<byte[]> grafted =
        bytes.isEmpty() || was.isPresent() && below.isEmpty()
            ? Optional.empty()
            : Grafting.graft(below, bytes.get(), filter);
    return grafted.map(standIns::putBack).orElseGet(() -> was.orElse(Value.text("")));
  }
}
