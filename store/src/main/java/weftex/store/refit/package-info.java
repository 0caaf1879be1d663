/**
 * One copy's tables as they take the other copy's place: its names and addresses, and what it keeps
 * of its own. It changes rows on their way into a file and writes to no copy.
 */
package weftex.store.refit;
