package weftex.core.change;

import java.util.List;
import java.util.Set;
import weftex.core.merge.ConflictKind;

/**
 * What a change touches, without a value but those of its key.
 *
 * @param written the columns that are written if nothing is decided otherwise, in the table's order
 * @param contests what is in conflict
 */
public record Outline(Head head, Set<String> written, List<Contest> contests) implements Change {

  /** What taking it back touches. */
  public Outline inverse() {
    return new Outline(
        new Head(
            head.id(),
            head.action().inverse(),
            head.table(),
            head.key(),
            head.fresh(),
            head.renumbered(),
            head.ties(),
            head.item(),
            head.trace()),
        written,
        contests);
  }

  /**
   * What a conflict is about.
   *
   * @param binding whether the database would refuse the source's side
   * @param columns those in question; empty if it is about the whole row
   * @param otherwise those in which something else is written if the target wins
   */
  public record Contest(
      ConflictKind kind, boolean binding, Set<String> columns, Set<String> otherwise) {}
}
