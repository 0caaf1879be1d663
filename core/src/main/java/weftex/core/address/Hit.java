package weftex.core.address;

/**
 * An address that was found, and what takes its place.
 *
 * @param from where it begins in the text
 * @param to where it ends
 * @param form how it is written
 */
record Hit(int from, int to, Form form, byte[] replacement) {}
