package weftex.core.change;

import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.stream.IntStream;
import weftex.core.merge.ConflictKind;
import weftex.core.merge.Passages;
import weftex.core.row.Value;
import weftex.core.signoff.Decision;

/**
 * Why a change needs a decision.
 *
 * @param binding whether the database itself would refuse the source's side, so that only the
 *     target's is an answer
 * @param columns the columns in question; empty if it is about the whole row
 * @param base their values in the base, as far as there is one
 * @param source their values on the source, in the target's terms
 * @param target their values on the target
 * @param otherwise what stands there if the target wins, where that is more than what it has: the
 *     source's other changes inside the value
 * @param places where inside of the values both clash, if everything else in them is merged:
 *     members by their path, passages by their words
 * @param reason one sentence for a person
 */
public record Conflict(
    ConflictKind kind,
    boolean binding,
    List<String> columns,
    Map<String, Value> base,
    Map<String, Value> source,
    Map<String, Value> target,
    Map<String, Value> otherwise,
    List<String> places,
    String reason) {
  public Conflict {
    columns = List.copyOf(columns);
    places = List.copyOf(places);
  }

  /** What stands in a column if the target wins. */
  public Optional<Value> ifTarget(String column) {
    return Optional.ofNullable(otherwise.getOrDefault(column, target.get(column)));
  }

  /** The passages of a text that can be decided one by one; empty if only the whole can. */
  public Optional<Passages> passages(String column) {
    boolean merged =
        kind.isClash()
            && columns.contains(column)
            && source.containsKey(column)
            && ifTarget(column).isPresent();
    return merged
        ? Passages.between(source.get(column), ifTarget(column).get())
            .filter(found -> found.open() > 0)
        : Optional.empty();
  }

  /** The same, as decisions name them, from the first to the last. */
  public List<Decision.Passage> allPassages(String column) {
    int open = passages(column).map(Passages::open).orElse(0);
    return IntStream.rangeClosed(1, open)
        .mapToObj(number -> new Decision.Passage(number, open))
        .toList();
  }
}
