/**
 * Change sets in files: {@code ChangeSetFile} reads them, {@code ChangePass} passes over what was
 * decided, {@code DecisionLog} appends decisions at their end. What a line says is the core's.
 */
package weftex.store.changeset;
