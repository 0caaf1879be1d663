package weftex.core.change;

import java.util.List;
import java.util.Map;
import java.util.Optional;
import weftex.core.merge.ConflictKind;

/**
 * How a change hangs together with others of its change set, and with rows of the target.
 *
 * @param offered whether the change was not chosen but is needed by one that was: it is left out
 *     until somebody decides to bring it along
 * @param with the change of the thing that this row is a part of or goes with; if that is not made,
 *     this one is left out without a question
 * @param withAny changes of which at least one must be made for this one to be made, such as those
 *     of the rows that name a file; none if that does not matter
 * @param alongWith the chosen change that needs this one, if nobody chose this one by itself
 * @param needs changes without which this one can't be made
 * @param hangers for a removed row: how many rows of the target refer to it and stay, by reference
 */
public record Ties(
    boolean offered,
    Optional<Integer> with,
    List<Integer> withAny,
    Optional<Integer> alongWith,
    List<Need> needs,
    Map<Hanger, Long> hangers) {

  /** Those of a change that stands for itself. */
  public static final Ties NONE =
      new Ties(false, Optional.empty(), List.of(), Optional.empty(), List.of(), Map.of());

  public Ties {
    needs = List.copyOf(needs);
    withAny = List.copyOf(withAny);
  }

  /** Those of a change that is made if one of some others is. */
  public static Ties withAny(List<Integer> others) {
    return new Ties(false, Optional.empty(), others, Optional.empty(), List.of(), Map.of());
  }

  /**
   * A change without which another can't be made.
   *
   * @param change its id
   * @param orElse what the other one is in conflict with if it is left out
   * @param columns the columns of the other one that need it; empty if all of it does
   */
  public record Need(int change, ConflictKind orElse, List<String> columns) {
    public Need {
      columns = List.copyOf(columns);
    }
  }

  /**
   * A reference by which rows hang on a removed one, written {@code comments.post_id=ID}.
   *
   * @param table the table that refers
   * @param columns its columns
   * @param targetColumns the columns of the removed row that they equal, in the same order
   */
  public record Hanger(String table, List<String> columns, List<String> targetColumns) {

    /** Reads the written form. */
    public static Hanger parse(String text) {
      int equals = text.indexOf('=');
      int dot = text.indexOf('.');
      if (dot < 1 || equals < dot) {
        throw new IllegalArgumentException("not a reference: " + text);
      }
      return new Hanger(
          text.substring(0, dot),
          List.of(text.substring(dot + 1, equals).split("\\+")),
          List.of(text.substring(equals + 1).split("\\+")));
    }

    @Override
    public String toString() {
      return table + "." + String.join("+", columns) + "=" + String.join("+", targetColumns);
    }
  }
}
