/**
 * A database server of a pair's own, for the rows of files. Door: {@link
 * weftex.store.scratch.PrivateServer}.
 */
package weftex.store.scratch;
