/**
 * What writes into a copy, and takes it back: {@link weftex.cli.applying.ApplyCommand}, {@link
 * weftex.cli.applying.UndoCommand}, {@link weftex.cli.applying.SaveCommand}, {@link
 * weftex.cli.applying.RestoreCommand}; and what was left behind by that.
 */
package weftex.cli.applying;
