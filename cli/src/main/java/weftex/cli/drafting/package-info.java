/**
 * From the base to a change set: {@link weftex.cli.drafting.MarkCommand}, {@link
 * weftex.cli.drafting.CompareCommand} and {@link weftex.cli.drafting.DraftCommand}.
 */
package weftex.cli.drafting;
