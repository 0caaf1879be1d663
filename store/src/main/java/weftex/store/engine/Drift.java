package weftex.store.engine;

/**
 * A row that is not as the reviewer saw it.
 *
 * @param change the change's id; 0 for an undo
 * @param table without prefix
 * @param key as a person writes it
 * @param what a clause, such as {@code post_title was edited on live since}
 */
public record Drift(int change, String table, String key, String what) {}
