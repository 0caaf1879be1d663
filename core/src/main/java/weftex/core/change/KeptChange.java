package weftex.core.change;

import java.util.Map;
import weftex.core.row.Value;

/**
 * A change of which a person decided that the target stays as it is.
 *
 * @param own the source's values that are settled by that, in the target's terms: a whole added
 *     row, of an updated one the columns in which the source loses
 */
public record KeptChange(Head head, Map<String, Value> own) implements Change {}
