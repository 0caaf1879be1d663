/** Looks through one copy, as {@link weftex.store.scan.CopyScan} does. */
package weftex.store.scan;
