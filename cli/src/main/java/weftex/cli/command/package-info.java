/**
 * The commands by name ({@link weftex.cli.command.CommandName}), those about the pair itself and
 * those beside the merge; and how a command goes over many sites ({@link weftex.cli.command.Roof}).
 */
package weftex.cli.command;
