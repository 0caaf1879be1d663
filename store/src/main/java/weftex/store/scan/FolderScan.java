package weftex.store.scan;

import java.io.IOException;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeMap;
import weftex.core.file.FileContent;
import weftex.store.file.CopyFiles;
import weftex.store.file.Folder;

/**
 * What is in the folders of a copy that hold files which rows name.
 *
 * @param files how many there are
 * @param bytes of all of them
 * @param unused files that no row names, in order; at most as many as are kept
 * @param unusedFiles how many there are of them
 * @param unusedBytes of all of them
 * @param duplicates paths of files that hold the same, each group in order; at most as many groups
 *     as are kept
 * @param duplicateGroups how many groups there are
 * @param duplicateBytes what all but one of each group take
 */
public record FolderScan(
    long files,
    long bytes,
    List<String> unused,
    long unusedFiles,
    long unusedBytes,
    List<List<String>> duplicates,
    long duplicateGroups,
    long duplicateBytes) {

  /**
   * Looks through the folders. Only files of one size are read.
   *
   * @param named what rows name
   * @param folders below the copy's
   * @param kept how many of each sort are kept
   */
  static FolderScan of(CopyFiles copy, List<String> folders, Set<String> named, int kept)
      throws IOException {
    Map<Long, List<String>> bySize = new TreeMap<>();
    List<String> unused = new ArrayList<>();
    long[] counts = new long[4];
    for (String folder : folders) {
      copy.walk(
          folder,
          path -> {
            Optional<Folder.Entry> entry = copy.find(path);
            long size = entry.map(Folder.Entry::bytes).orElse(0L);
            counts[0]++;
            counts[1] += size;
            if (!named.contains(path)) {
              counts[2]++;
              counts[3] += size;
              if (unused.size() < kept) {
                unused.add(path);
              }
            }
            if (size > 0) {
              bySize.computeIfAbsent(size, unusedKey -> new ArrayList<>()).add(path);
            }
          });
    }
    List<List<String>> duplicates = new ArrayList<>();
    long groups = 0;
    long again = 0;
    for (Map.Entry<Long, List<String>> same : bySize.entrySet()) {
      for (List<String> group : byContent(copy, same.getValue())) {
        groups++;
        again += same.getKey() * (group.size() - 1);
        if (duplicates.size() < kept) {
          duplicates.add(group);
        }
      }
    }
    return new FolderScan(
        counts[0], counts[1], unused, counts[2], counts[3], duplicates, groups, again);
  }

  private static List<List<String>> byContent(CopyFiles copy, List<String> paths)
      throws IOException {
    if (paths.size() < 2) {
      return List.of();
    }
    Map<String, List<String>> groups = new TreeMap<>();
    for (String path : paths) {
      Optional<FileContent> content = copy.content(path);
      if (content.isPresent()) {
        groups.computeIfAbsent(content.get().sha256(), key -> new ArrayList<>()).add(path);
      }
    }
    return groups.values().stream().filter(group -> group.size() > 1).toList();
  }
}
