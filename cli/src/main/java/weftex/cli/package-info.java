/**
 * The command line. {@link weftex.cli.Main} is the way in, {@link weftex.cli.Cli} runs one command
 * in a {@link weftex.cli.session.Session}; commands are in {@code weftex.cli.command}, what they
 * print in {@code weftex.cli.render}. Nothing here knows SQL or decides a merge.
 */
package weftex.cli;
