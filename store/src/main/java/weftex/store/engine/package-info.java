/**
 * The one way of making changes: {@link weftex.store.engine.Engine} locks, compares, writes and
 * reads again, for an apply and for an undo. What they make is a list of {@link
 * weftex.store.engine.Steps}; where rows moved, a {@link weftex.store.engine.Policy} is asked.
 */
package weftex.store.engine;
