package weftex.store.compare;

import java.io.IOException;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeSet;
import weftex.core.file.FileNameMap;
import weftex.core.file.FreeNames;
import weftex.store.file.CopyFiles;
import weftex.store.file.PairFolders;
import weftex.store.receipt.MergedRows;

/**
 * Which files have another name on the target.
 *
 * @param source its name
 * @param target its name
 */
record MergedNames(String source, String target, PairFolders folders) {

  /** The names that merges gave to files, and further ones. */
  FileNameMap of(List<MergedRows> merged, Map<String, String> further) throws IOException {
    Map<String, String> toTarget = new FileSteps(merged).names();
    toTarget.putAll(further);
    if (folders.areOpen()) {
      toTarget.putAll(shadowed(toTarget));
    }
    return toTarget.isEmpty() ? FileNameMap.SAME : new FileNameMap(toTarget);
  }

  /** Names for files of the source whose own names others of its files have on the target. */
  private Map<String, String> shadowed(Map<String, String> toTarget) throws IOException {
    CopyFiles there = folders.of(source);
    CopyFiles here = folders.of(target);
    Set<String> shadowed = new TreeSet<>();
    for (String path : toTarget.values()) {
      if (!toTarget.containsKey(path) && there.find(path).isPresent()) {
        shadowed.add(path);
      }
    }
    FreeNames free =
        new FreeNames(
            name ->
                there.find(name).isEmpty()
                    && here.find(name).isEmpty()
                    && !toTarget.containsKey(name)
                    && !toTarget.containsValue(name));
    free.collideAll(shadowed);
    return free.renames();
  }
}
