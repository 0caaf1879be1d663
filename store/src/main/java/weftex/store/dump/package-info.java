/**
 * Copies as plain SQL: written so that any client can load them, read statement by statement, and
 * put back. Doors: {@link weftex.store.dump.CopySaver}, {@link weftex.store.dump.SavedCopy}, {@link
 * weftex.store.dump.Restorer}.
 */
package weftex.store.dump;
