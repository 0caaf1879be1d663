package weftex.core.scan;

import weftex.core.site.Role;

/**
 * One thing that is wrong.
 *
 * @param table without prefix
 * @param key the row's key
 * @param column empty if the row as a whole is meant
 * @param what the address's form, the row referred to, what is malformed and where, …
 * @param role whose the row is: what is wrong in noise hurts nobody
 */
public record Finding(
    FindingKind kind, String table, String key, String column, String what, Role role) {}
