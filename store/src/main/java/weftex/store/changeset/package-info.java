/**
 * Change sets in files: read whole ({@code ReviewedFile}), by their outlines ({@code ChangeIndex})
 * or in passes ({@code ChangePass}), and the log of decisions at their end ({@code DecisionLog}).
 * What a line says is the core's.
 */
package weftex.store.changeset;
