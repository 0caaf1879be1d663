package weftex.core.plan;

import weftex.core.site.Role;

/**
 * Changes that are not chosen because of whose their rows are.
 *
 * @param role whose they are
 * @param kind what they are called, or their table's name
 * @param changes how many
 */
public record LeftOut(Role role, String kind, long changes) {}
