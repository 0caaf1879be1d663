/**
 * What a run of the program has from outside: its folder, clock, streams and terminal, and how it
 * ends. Everything else of the command line may need it; it needs none of that.
 */
package weftex.cli.session;
