package weftex.store.mariadb;

import java.util.Set;
import weftex.core.row.ValueKind;

/** What kind of values a column of a type holds. */
final class MariaDbKinds {

  private static final Set<String> WHOLE =
      Set.of("tinyint", "smallint", "mediumint", "int", "bigint", "year");
  private static final Set<String> BYTES =
      Set.of(
          "binary",
          "varbinary",
          "tinyblob",
          "blob",
          "mediumblob",
          "longblob",
          "bit",
          "geometry",
          "point",
          "linestring",
          "polygon",
          "multipoint",
          "multilinestring",
          "multipolygon",
          "geometrycollection");

  /** Character sets from which every stored byte comes back through Unicode unharmed. */
  private static final Set<String> UNICODE_SAFE = Set.of("utf8mb4", "utf8mb3", "utf8", "latin1");

  private MariaDbKinds() {}

  static ValueKind kind(String type, String charset) {
    if (WHOLE.contains(type)) {
      return ValueKind.WHOLE;
    }
    if (type.equals("decimal")) {
      return ValueKind.DECIMAL;
    }
    if (type.equals("float") || type.equals("double")) {
      return ValueKind.FLOATING;
    }
    return BYTES.contains(type) || charset != null && !UNICODE_SAFE.contains(charset)
        ? ValueKind.BINARY
        : ValueKind.TEXT;
  }
}
