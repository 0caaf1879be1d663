/**
 * The file of a change set: JSON Lines with a header, the changes, the decisions and the approvals.
 * {@link weftex.core.changeset.ChangeSetWriter} and {@link weftex.core.changeset.ChangeSetReader}
 * stream it. The format is described in docs/formats.md.
 */
package weftex.core.changeset;
