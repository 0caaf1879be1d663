package weftex.store.capture;

import java.util.List;

/**
 * What a capture says of itself.
 *
 * @param weftex always {@code capture}
 * @param format the format's version
 * @param site the site's name in weftex.yaml
 * @param copy the copy that was recorded
 * @param place where that copy was
 * @param marked when, as an ISO 8601 instant
 * @param tool the version that recorded it
 * @param tables one entry a table
 */
record Manifest(
    String weftex,
    int format,
    String site,
    String copy,
    String place,
    String marked,
    String tool,
    List<Entry> tables) {

  static final int FORMAT = 1;

  /**
   * A recorded table.
   *
   * @param file the Avro file's name in the folder
   * @param rows how many
   * @param columns names, in the order of the file's fields
   * @param key how the key columns are ordered
   */
  record Entry(String name, String file, long rows, List<String> columns, List<String> key) {}
}
