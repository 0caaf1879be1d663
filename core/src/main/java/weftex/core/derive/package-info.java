/**
 * Guesses what tables mean that no site model names, and says why: {@link
 * weftex.core.derive.ModelDeriver}. A guess is a start for a person, never used by itself.
 */
package weftex.core.derive;
