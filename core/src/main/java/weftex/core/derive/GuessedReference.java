package weftex.core.derive;

/**
 * A column that seems to hold numbers of rows elsewhere.
 *
 * @param to the table that it refers to
 * @param unset whether some rows have 0 there, which refers to nothing
 * @param why the evidence, as a sentence without a full stop
 */
public record GuessedReference(String column, String to, boolean unset, String why) {}
