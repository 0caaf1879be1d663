/**
 * The review on a whole terminal. {@link weftex.cli.screen.Desk} knows what is listed, chosen and
 * decided, and nothing of terminals; {@link weftex.cli.screen.ThingText} writes a thing down in
 * lines; {@link weftex.cli.screen.ReviewScreen} reads keys and draws both.
 */
package weftex.cli.screen;
