package weftex.store.placing;

import java.time.Instant;
import java.util.LinkedHashMap;
import java.util.Map;
import java.util.Optional;
import weftex.core.change.Action;
import weftex.core.change.DecidedChange;
import weftex.core.file.FileContent;
import weftex.core.file.FileRows;
import weftex.core.row.Value;
import weftex.store.receipt.ReceiptRows;

/**
 * One file of a run.
 *
 * @param change the number of its change
 * @param path on the target
 * @param from where its content is on the source
 * @param before what must be there; empty for one that is added
 * @param after what is to be there; empty for one that is removed
 * @param modified when what comes back was last written; empty for what is new
 * @param folder the outermost folder that the apply made for it, which goes with it if it is empty
 */
public record FileStep(
    int change,
    Action action,
    String path,
    String from,
    Optional<FileContent> before,
    Optional<FileContent> after,
    Optional<Instant> modified,
    Optional<String> folder) {
  private static final String FOLDER = "folder";

  public static FileStep of(DecidedChange change) {
    String path = change.key().get(FileRows.PATH).display();
    Value from = change.drafted().get(FileRows.FROM);
    return new FileStep(
        change.id(),
        change.action(),
        path,
        from == null ? path : from.display(),
        change.action() == Action.ADD ? Optional.empty() : FileRows.content(change.before()),
        change.action() == Action.REMOVE ? Optional.empty() : FileRows.content(change.after()),
        Optional.empty(),
        Optional.empty());
  }

  /** What takes back what a receipt tells. */
  public static FileStep inverse(ReceiptRows.Touched file) {
    String path = file.key().get(FileRows.PATH).display();
    return new FileStep(
        file.change(),
        file.action().inverse(),
        path,
        path,
        file.action() == Action.REMOVE ? Optional.empty() : FileRows.content(file.after()),
        file.action() == Action.ADD ? Optional.empty() : FileRows.content(file.before()),
        text(file.before(), FileRows.MODIFIED).map(Instant::parse),
        text(file.after(), FOLDER));
  }

  /** What a receipt tells that a run was going to do. */
  public static FileStep of(ReceiptRows.Touched file) {
    String path = file.key().get(FileRows.PATH).display();
    return new FileStep(
        file.change(),
        file.action(),
        path,
        text(file.after(), FileRows.FROM).orElse(path),
        file.action() == Action.ADD ? Optional.empty() : FileRows.content(file.before()),
        file.action() == Action.REMOVE ? Optional.empty() : FileRows.content(file.after()),
        text(file.after(), FileRows.MODIFIED).map(Instant::parse),
        text(file.action() == Action.REMOVE ? file.before() : file.after(), FOLDER));
  }

  private static Optional<String> text(Map<String, Value> row, String column) {
    return Optional.ofNullable(row.get(column)).filter(v -> !v.isNull()).map(Value::display);
  }

  /** The same, for which such a folder is made. */
  FileStep making(Optional<String> made) {
    return new FileStep(change, action, path, from, before, after, modified, made);
  }

  /**
   * The file before, as a receipt has it.
   *
   * @param when it was last written
   */
  Map<String, Value> rowBefore(Instant when) {
    Map<String, Value> row = new LinkedHashMap<>(FileRows.row(path, before.orElseThrow()));
    row.put(FileRows.MODIFIED, Value.text(when.toString()));
    folder.ifPresent(made -> row.put(FOLDER, Value.text(made)));
    return row;
  }

  /** The file after, as a receipt has it; nothing of one that is removed. */
  Map<String, Value> rowAfter() {
    Map<String, Value> row = new LinkedHashMap<>();
    if (after.isPresent()) {
      row.putAll(FileRows.row(path, after.get()));
      if (!from.equals(path)) {
        row.put(FileRows.FROM, Value.text(from));
      }
      modified.ifPresent(at -> row.put(FileRows.MODIFIED, Value.text(at.toString())));
      folder.ifPresent(made -> row.put(FOLDER, Value.text(made)));
    }
    return row;
  }
}
