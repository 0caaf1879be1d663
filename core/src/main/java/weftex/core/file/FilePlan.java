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
import weftex.core.change.Item;
import weftex.core.change.RowChange;
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
    FileMaking making = new FileMaking(sight, choice, names, first);
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
    return making.made();
  }
}
