package weftex.core.change;

import java.util.Map;
import java.util.Optional;
import weftex.core.row.RowName;
import weftex.core.row.Value;

/**
 * Which change it is, of which row, and what it is about: what a change has at every stage.
 *
 * @param id its number in the change set, from 1
 * @param table without prefix
 * @param key the row's key on the target, in the table's column order; for an added row, the key
 *     that it has on the source
 * @param fresh the name by which other changes refer to this added, numbered row
 * @param renumbered whether the row's own number is taken on the target
 * @param item the thing that the row is or belongs to, if the site model names one
 * @param trace where its thing is seen, and who last worked on it
 */
public record Head(
    int id,
    Action action,
    String table,
    Map<String, Value> key,
    Optional<RowName> fresh,
    boolean renumbered,
    Ties ties,
    Optional<Item> item,
    Trace trace) {

  /** One that stands for itself: not a numbered row, tied to nothing, of no thing with a name. */
  public static Head of(int id, Action action, String table, Map<String, Value> key) {
    return new Head(
        id, action, table, key, Optional.empty(), false, Ties.NONE, Optional.empty(), Trace.NONE);
  }

  /** The same with other ties. */
  public Head with(Ties others) {
    return new Head(id, action, table, key, fresh, renumbered, others, item, trace);
  }
}
