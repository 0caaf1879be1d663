/**
 * Finds what differs between base, source and target in one pass over three ordered streams. Start
 * at {@link weftex.core.compare.Comparison}; the sides are reached through the port {@link
 * weftex.core.compare.Side}, and what differs is kept in a {@link
 * weftex.core.compare.DifferenceLog}, not in memory.
 */
package weftex.core.compare;
