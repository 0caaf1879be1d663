/**
 * What all commands stand on: the pair that they work on ({@link weftex.cli.workplace.Workplace}),
 * its folders, keys and claims, and the options that several of them have. A {@link
 * weftex.cli.workplace.Command} takes options and gives a {@link weftex.cli.workplace.Result}.
 */
package weftex.cli.workplace;
