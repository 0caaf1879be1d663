package weftex.core.changeset;

import java.util.List;
import java.util.Map;
import weftex.core.merge.ConflictKind;
import weftex.core.row.Value;

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
    String reason) {
  public Conflict {
    columns = List.copyOf(columns);
  }
}
