package weftex.core.moving;

/**
 * A moving value that claims a format and is not well-formed; nothing inside of it is touched.
 *
 * @param key of its row on the source
 * @param offset the byte at which it breaks
 * @param what what is wrong there, in a few words
 */
public record Malformed(String table, String key, String column, int offset, String what) {}
