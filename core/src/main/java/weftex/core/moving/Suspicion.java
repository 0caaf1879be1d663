package weftex.core.moving;

/**
 * A number in a moving value that equals the number of a row that gets another one, at a place that
 * no rule declares.
 *
 * @param table of the row that moves
 * @param key its key on the source
 * @param column where the number stands
 * @param place keys on the way to it within the value, or the words around it; empty if it is the
 *     whole value
 * @param number the number
 * @param row the renumbered row that it may mean
 * @param rule what declares it, for the table's entry in a site model; empty for running text
 */
public record Suspicion(
    String table,
    String key,
    String column,
    String place,
    String number,
    String row,
    String rule) {}
