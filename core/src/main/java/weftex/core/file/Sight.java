package weftex.core.file;

import java.io.IOException;
import java.util.List;
import java.util.Map;
import weftex.core.row.Value;

/**
 * What is to be seen of the files of two copies, and of what both had when they were last one.
 * Paths are the target's; content is read only where it must be.
 */
public interface Sight {
  boolean isOnSource(String path) throws IOException;

  boolean isOnTarget(String path) throws IOException;

  /** Whether it is known what the file was when both copies were last one. */
  boolean isKnown(String path);

  /** Whether the source's file is not as it was then; it may be gone or new. */
  boolean sourceMoved(String path) throws IOException;

  /** Whether the target's file is not as it was then; it may be gone or new. */
  boolean targetMoved(String path) throws IOException;

  /** Whether both copies have the same file. */
  boolean areAlike(String path) throws IOException;

  FileContent onSource(String path) throws IOException;

  FileContent onTarget(String path) throws IOException;

  /** Where the file is on the source. */
  String sourcePath(String path);

  /** Whether a name is free on both copies. */
  boolean isFree(String path) throws IOException;

  /**
   * Files that both had, and of which the source's is not as it was then, in the order of their
   * names.
   */
  List<String> movedOnSource() throws IOException;

  /**
   * Whether rows of the target name a file, beyond some that are going to be gone or changed.
   *
   * @param by those, by table and key
   */
  boolean isNamedOnTarget(String path, List<Namer> by) throws IOException;

  /**
   * A row that names a file.
   *
   * @param table without prefix
   * @param key its key's values, joined by a tab
   */
  record Namer(String table, String key) {
    /** The row of a key, by column. */
    public static Namer of(String table, Map<String, Value> key) {
      return new Namer(
          table, String.join("\t", key.values().stream().map(Value::display).toList()));
    }
  }
}
