package weftex.core.file;

import java.io.IOException;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.TreeMap;
import weftex.core.change.Action;
import weftex.core.change.Alike;
import weftex.core.change.Conflict;
import weftex.core.change.Head;
import weftex.core.change.Item;
import weftex.core.change.RowChange;
import weftex.core.change.Ties;
import weftex.core.change.Trace;
import weftex.core.merge.ConflictKind;
import weftex.core.row.Value;

/** Makes the changes of files that go along. */
final class FileMaking {
  private final Sight sight;
  private final FileChoice choice;
  private final FreeNames names;
  private final List<RowChange> changes = new ArrayList<>();
  private final List<Alike> alike = new ArrayList<>();
  private final List<String> missing = new ArrayList<>();
  private final Map<String, String> refused = new TreeMap<>();
  private int next;
  private long bytes;

  /**
   * Of what is seen.
   *
   * @param first the number of the first change
   */
  FileMaking(Sight sight, FileChoice choice, FreeNames names, int first) {
    this.sight = sight;
    this.choice = choice;
    this.names = names;
    this.next = first;
  }

  /**
   * Looks at a file.
   *
   * @param needed whether a row of the change set names it
   */
  void look(String path, NamedFile by, boolean needed) throws IOException {
    boolean here = sight.isOnTarget(path);
    if (!sight.isOnSource(path)) {
      if (needed && !here) {
        missing.add(path);
      } else if (!needed && here && sight.isKnown(path) && sight.sourceMoved(path)) {
        gone(path, by);
      }
      return;
    }
    if (!here) {
      // What a new thing brings is new, whatever had its name before.
      boolean removedHere = !by.isNew() && sight.isKnown(path) && sight.targetMoved(path);
      if (removedHere && sight.sourceMoved(path)) {
        add(path, by, true);
      } else if (!removedHere || needed) {
        add(path, by, false);
      }
    } else if (!sight.isKnown(path) || sight.sourceMoved(path) || isOldDifference(path)) {
      both(path, by);
    }
  }

  /** Whether a file that is asked for by name is each copy's own since before the base. */
  private boolean isOldDifference(String path) throws IOException {
    return choice.asksFor(path)
        && !sight.sourceMoved(path)
        && !sight.targetMoved(path)
        && !sight.areAlike(path);
  }

  private void gone(String path, NamedFile by) throws IOException {
    if (!mayTravel(path, -1)) {
      return;
    }
    Map<String, Value> before = FileRows.row(path, sight.onTarget(path));
    List<Conflict> conflicts =
        sight.targetMoved(path)
            ? List.of(
                conflict(
                    ConflictKind.GONE_EDITED,
                    List.of(),
                    Map.of(),
                    before,
                    "the file was removed on one copy and replaced on the other"))
            : List.of();
    write(Action.REMOVE, path, by, before, Map.of(), conflicts);
  }

  private void add(String path, NamedFile by, boolean contested) throws IOException {
    FileContent content = sight.onSource(path);
    if (!mayTravel(path, content.bytes())) {
      return;
    }
    Map<String, Value> after = FileRows.row(path, content);
    List<Conflict> conflicts =
        contested
            ? List.of(
                conflict(
                    ConflictKind.EDITED_GONE,
                    List.of(),
                    after,
                    Map.of(),
                    "the file was replaced on one copy and removed on the other"))
            : List.of();
    bytes += content.bytes();
    write(Action.ADD, path, by, Map.of(), after, conflicts);
  }

  private void both(String path, NamedFile by) throws IOException {
    if (sight.areAlike(path)) {
      if (!sight.isKnown(path) || sight.targetMoved(path) || sight.sourceMoved(path)) {
        alike.add(
            new Alike(
                FileRows.TABLE, FileRows.key(path), FileRows.row(path, sight.onSource(path))));
      }
      return;
    }
    FileContent content = sight.onSource(path);
    if (!mayTravel(path, content.bytes())) {
      return;
    }
    if (by.isNew()) {
      // Also where the other thing goes: somebody may decide that it stays.
      names.collide(sight.sourcePath(path));
    }
    Map<String, Value> before = FileRows.row(path, sight.onTarget(path));
    Map<String, Value> after = new LinkedHashMap<>();
    after.put(FileRows.CONTENT, content.value());
    boolean old = sight.isKnown(path) && isOldDifference(path);
    boolean clash = !sight.isKnown(path) || sight.targetMoved(path) || old;
    List<Conflict> conflicts =
        clash
            ? List.of(
                conflict(
                    old
                        ? ConflictKind.NO_BASE
                        : sight.isKnown(path) ? ConflictKind.BOTH_EDITED : ConflictKind.BOTH_ADDED,
                    List.of(FileRows.CONTENT),
                    after,
                    Map.of(FileRows.CONTENT, before.get(FileRows.CONTENT)),
                    old
                        ? "the copies had different files already when the base was recorded"
                        : sight.isKnown(path)
                            ? "both copies replaced the file, each by another one"
                            : "both copies have a file of this name, each another one"))
            : List.of();
    bytes += content.bytes();
    write(Action.UPDATE, path, by, before, clash ? Map.of() : after, conflicts);
  }

  private Conflict conflict(
      ConflictKind kind,
      List<String> columns,
      Map<String, Value> source,
      Map<String, Value> target,
      String reason) {
    return new Conflict(
        kind, false, columns, Map.of(), source, target, Map.of(), List.of(), reason);
  }

  /**
   * @param size in bytes; negative for a file that goes
   */
  private boolean mayTravel(String path, long size) {
    Optional<String> why = choice.refusal(path, size);
    why.ifPresent(reason -> refused.put(path, reason));
    return why.isEmpty();
  }

  private void write(
      Action action,
      String path,
      NamedFile by,
      Map<String, Value> before,
      Map<String, Value> after,
      List<Conflict> conflicts) {
    String name = path.substring(path.lastIndexOf('/') + 1);
    Item item =
        by.item
            .map(thing -> new Item(thing.kind(), thing.name(), "file '" + name + "'"))
            .orElseGet(() -> new Item("file", path, ""));
    Head head =
        new Head(
            next++,
            action,
            FileRows.TABLE,
            FileRows.key(path),
            Optional.empty(),
            false,
            Ties.withAny(List.copyOf(by.changes)),
            Optional.of(item),
            Trace.NONE);
    String from = action == Action.REMOVE ? path : sight.sourcePath(path);
    changes.add(
        new RowChange(
            head,
            before,
            after,
            from.equals(path) ? Map.of() : Map.of(FileRows.FROM, Value.text(from)),
            conflicts));
  }

  /** What was made of all that was looked at. */
  FilePlan.Files made() throws IOException {
    return new FilePlan.Files(changes, alike, bytes, missing, refused, names.renames());
  }
}
