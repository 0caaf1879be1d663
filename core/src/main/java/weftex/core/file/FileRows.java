package weftex.core.file;

import java.util.LinkedHashMap;
import java.util.Map;
import java.util.Optional;
import weftex.core.change.Change;
import weftex.core.row.Value;

/**
 * A file of a copy's folder as a change set and a receipt have it: as a row of a table that no
 * database has, with the path as its key.
 */
public final class FileRows {
  public static final String TABLE = Change.FILES;

  /** From the copy's folder, in the target's terms. */
  public static final String PATH = "path";

  /** See {@link FileContent#value}. */
  public static final String CONTENT = "content";

  /** The path on the source where it is another. */
  public static final String FROM = "from";

  /** When the target's file was last written, in a receipt: an ISO 8601 instant. */
  public static final String MODIFIED = "modified";

  private FileRows() {}

  /** Whether a change is one of a file. */
  public static boolean isFile(Change change) {
    return change.table().equals(TABLE);
  }

  /** The key of a path. */
  public static Map<String, Value> key(String path) {
    return Map.of(PATH, Value.text(path));
  }

  /** A whole row. */
  public static Map<String, Value> row(String path, FileContent content) {
    Map<String, Value> row = new LinkedHashMap<>();
    row.put(PATH, Value.text(path));
    row.put(CONTENT, content.value());
    return row;
  }

  /** The content that a row says; empty if it says none. */
  public static Optional<FileContent> content(Map<String, Value> row) {
    return Optional.ofNullable(row.get(CONTENT)).flatMap(FileContent::of);
  }
}
