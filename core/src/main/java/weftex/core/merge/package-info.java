/**
 * What happens to one row that has a base, a source and a target: {@link
 * weftex.core.merge.RowMerger} decides column by column, {@link weftex.core.merge.ConflictKind}
 * names what it can't decide. Knows nothing of tables, files or servers.
 */
package weftex.core.merge;
