/**
 * Guesses what tables mean that no site model names, and says why: {@link
 * weftex.core.derive.ModelDeriver}. Of such guesses only references are followed without being
 * confirmed, and each is said; the others are a start for a person.
 */
package weftex.core.derive;
