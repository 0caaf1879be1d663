package weftex.core.file;

import java.io.IOException;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeMap;
import java.util.stream.Collectors;
import weftex.core.change.Action;
import weftex.core.change.Alike;
import weftex.core.change.Conflict;
import weftex.core.change.Head;
import weftex.core.change.Item;
import weftex.core.change.RowChange;
import weftex.core.change.Ties;
import weftex.core.change.Trace;
import weftex.core.merge.ConflictKind;
import weftex.core.row.Table;
import weftex.core.row.Value;
import weftex.core.site.SiteMap;
import weftex.core.site.TableModel;

/**
 * Makes the changes of files that go with the changes of rows: three-way, as rows are. A file comes
 * along with whatever row names it, and stays out if none of them is made. One that the source has
 * removed is removed with the row that named it, unless another row of the target names it.
 */
public final class FilePlan {
  private final SiteMap site;
  private final NamedFiles finder;
  private final FreeNames names;
  private final Sight sight;
  private final FileChoice choice;

  /** The changes of rows that name a file once they are made, by path. */
  private final Map<String, NamedFile> named = new TreeMap<>();

  /** The changes by which a row stops naming a file. */
  private final Map<String, NamedFile> letGo = new TreeMap<>();

  /** Files of which a row of no change tells whose they are. */
  private final Map<String, Optional<Item>> alone = new TreeMap<>();

  /**
   * @param site what the target's tables mean
   */
  public FilePlan(SiteMap site, NamedFiles names, Sight sight, FileChoice choice) {
    this.site = site;
    this.finder = names;
    this.names = new FreeNames(sight::isFree);
    this.sight = sight;
    this.choice = choice;
  }

  /** Sees a change of a row, chosen or offered. */
  public void see(RowChange change) {
    Optional<TableModel> model = site.find(change.table());
    if (model.isEmpty()) {
      return;
    }
    Table table = model.get().table();
    Sight.Namer row = Sight.Namer.of(table.name(), change.key());
    Set<String> before = Set.of();
    if (change.action() != Action.ADD) {
      before = finder.in(model.get(), values(table, change.before()));
    }
    Set<String> after = new LinkedHashSet<>();
    if (change.action() != Action.REMOVE) {
      List<Value> values = values(table, change.values());
      Set<String> own = finder.ownOf(model.get(), values);
      after.addAll(finder.in(model.get(), values));
      for (Conflict conflict : change.conflicts()) {
        Map<String, Value> other = new LinkedHashMap<>(change.values());
        other.putAll(conflict.source());
        after.addAll(finder.in(model.get(), values(table, other)));
      }
      names.together(own.stream().map(sight::sourcePath).collect(Collectors.toSet()));
      for (String path : after) {
        named.computeIfAbsent(path, unused -> new NamedFile()).add(change, row, own.contains(path));
      }
    }
    for (String path : before) {
      if (!after.contains(path)) {
        letGo.computeIfAbsent(path, unused -> new NamedFile()).add(change, row, true);
      }
    }
  }

  private static List<Value> values(Table table, Map<String, Value> of) {
    List<Value> values = new ArrayList<>();
    table.columns().forEach(column -> values.add(of.getOrDefault(column.name(), Value.NULL)));
    return values;
  }

  /**
   * Says that a file is to be looked at that no change of a row names.
   *
   * @param item the thing that it belongs to; empty if none does
   */
  public void seeAlone(String path, Optional<Item> item) {
    alone.put(path, item);
  }

  /** Whether a change of a row names a file already. */
  public boolean isSeen(String path) {
    return named.containsKey(path) || letGo.containsKey(path);
  }

  /**
   * What becomes of the files.
   *
   * @param changes in the order of their paths, numbered
   * @param alike files that both copies have alike, though they were not when they were last one
   * @param bytes how many are brought
   * @param missing files that rows name and that the source does not have
   * @param refused files that do not travel, and why
   * @param renames files that need another name on the target, by their paths on the source, since
   *     another file has theirs there: the comparison is to be made again with these names
   */
  public record Files(
      List<RowChange> changes,
      List<Alike> alike,
      long bytes,
      List<String> missing,
      Map<String, String> refused,
      Map<String, String> renames) {
    /** None. */
    public static final Files NONE =
        new Files(List.of(), List.of(), 0, List.of(), Map.of(), Map.of());
  }

  /**
   * Makes the changes.
   *
   * @param first the number of the first one
   */
  public Files files(int first) throws IOException {
    Making making = new Making(first);
    for (Map.Entry<String, NamedFile> file : named.entrySet()) {
      making.look(file.getKey(), file.getValue(), true);
    }
    for (Map.Entry<String, NamedFile> file : letGo.entrySet()) {
      if (!named.containsKey(file.getKey())
          && !sight.isOnSource(file.getKey())
          && !sight.isNamedOnTarget(file.getKey(), file.getValue().rows)) {
        making.look(file.getKey(), file.getValue(), false);
      }
    }
    for (Map.Entry<String, Optional<Item>> file : alone.entrySet()) {
      NamedFile nobody = new NamedFile();
      nobody.item = file.getValue();
      boolean stays =
          !sight.isOnSource(file.getKey()) && sight.isNamedOnTarget(file.getKey(), List.of());
      if (!stays) {
        making.look(file.getKey(), nobody, false);
      }
    }
    return new Files(
        making.changes,
        making.alike,
        making.bytes,
        making.missing,
        making.refused,
        names.renames());
  }

  private final class Making {
    private final List<RowChange> changes = new ArrayList<>();
    private final List<Alike> alike = new ArrayList<>();
    private final List<String> missing = new ArrayList<>();
    private final Map<String, String> refused = new TreeMap<>();
    private int next;
    private long bytes;

    private Making(int first) {
      this.next = first;
    }

    private void look(String path, NamedFile by, boolean needed) throws IOException {
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
                          : sight.isKnown(path)
                              ? ConflictKind.BOTH_EDITED
                              : ConflictKind.BOTH_ADDED,
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
  }
}
