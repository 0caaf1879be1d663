package weftex.core.compare;

/**
 * A range of whole-number keys.
 *
 * @param first the lowest key
 * @param last the highest key, included
 */
public record KeyRange(long first, long last) {}
