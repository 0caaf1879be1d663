/**
 * What a person does with a change set before it is made: {@link
 * weftex.cli.reviewing.ReviewCommand} and {@link weftex.cli.reviewing.ReportCommand}.
 */
package weftex.cli.reviewing;
