/**
 * The commands, one class each: options in, {@link weftex.cli.command.Result} out. {@link
 * weftex.cli.command.CommandName} lists them; {@link weftex.cli.command.Workplace} is the pair that
 * they work on.
 */
package weftex.cli.command;
