package weftex.cli.page;

import java.util.LinkedHashMap;
import java.util.Map;
import weftex.core.change.Change;
import weftex.core.change.Conflict;
import weftex.core.change.RowChange;
import weftex.core.file.FileContent;
import weftex.core.file.FileRows;
import weftex.core.row.Value;

/** Changes of files as a person reads them: how large, and by the first signs of their hash. */
public final class FileChanges {
  private static final int HASH = 12;

  private FileChanges() {}

  /** What a change is of: a row by its table and key, or a file by its path. */
  public static String place(Change change) {
    return (FileRows.isFile(change) ? "file" : change.table()) + " " + change.keyText();
  }

  /** A change with the content of a file in words; that of a row as it is. */
  public static RowChange shown(RowChange change) {
    if (!FileRows.isFile(change)) {
      return change;
    }
    return new RowChange(
        change.head(),
        shown(change.before()),
        shown(change.after()),
        shown(change.drafted()),
        change.conflicts().stream()
            .map(
                conflict ->
                    new Conflict(
                        conflict.kind(),
                        conflict.binding(),
                        conflict.columns(),
                        shown(conflict.base()),
                        shown(conflict.source()),
                        shown(conflict.target()),
                        shown(conflict.otherwise()),
                        conflict.places(),
                        conflict.reason()))
            .toList());
  }

  private static Map<String, Value> shown(Map<String, Value> values) {
    Map<String, Value> shown = new LinkedHashMap<>(values);
    shown.remove(FileRows.PATH);
    shown.computeIfPresent(
        FileRows.CONTENT,
        (name, value) ->
            FileContent.of(value)
                .map(
                    content ->
                        Value.text(
                            Sizes.shown(content.bytes())
                                + ", SHA-256 "
                                + content.sha256().substring(0, HASH)
                                + "…"))
                .orElse(value));
    return shown;
  }
}
