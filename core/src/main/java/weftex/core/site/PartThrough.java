package weftex.core.site;

/**
 * Rows that are a part of something by a row of a table of links, such as the entries of a menu.
 *
 * @param when tells these rows
 * @param table the table of links
 * @param from position there of the column that holds the part's key
 * @param to the reference there to what it is a part of
 * @param word what such a part is called
 */
public record PartThrough(Condition when, String table, int from, Reference to, String word) {}
