/**
 * Which rows of both copies are the same thing. {@link weftex.core.match.Matching} is the door: it
 * finds out what becomes of the rows that the source has added, and puts references to them into
 * the target's terms. {@link weftex.core.match.Knowledge} is what it is told besides the rows:
 * earlier merges, what somebody said, and on what a worked-out base stands.
 */
package weftex.core.match;
