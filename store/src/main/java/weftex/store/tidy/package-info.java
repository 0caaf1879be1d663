/**
 * What of a pair's state nobody needs any more. Start at {@link weftex.store.tidy.Leftovers}, which
 * finds it; {@link weftex.store.tidy.Leftover#remove} takes one away.
 */
package weftex.store.tidy;
