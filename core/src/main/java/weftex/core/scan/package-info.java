/**
 * Looks through one copy for what is wrong in it: leftovers of the other copy's address, references
 * that point nowhere, things that are there twice, values that are not well-formed, files that are
 * missing. Start at {@link weftex.core.scan.Scanner}.
 */
package weftex.core.scan;
