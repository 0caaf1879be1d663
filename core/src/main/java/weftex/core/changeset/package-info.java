/**
 * The change set: one file of JSON Lines with a header, the row changes, the decisions and the
 * approvals. {@link weftex.core.changeset.ChangeSetWriter} and {@link
 * weftex.core.changeset.ChangeSetReader} stream it, {@link weftex.core.changeset.Review} says what
 * the decisions make of it. The format is described in docs/formats.md.
 */
package weftex.core.changeset;
