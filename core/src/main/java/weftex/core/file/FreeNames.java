package weftex.core.file;

import java.io.IOException;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeMap;
import java.util.TreeSet;

/**
 * Finds names on the target, by their paths on the source, for new files whose own names the target
 * has given to others: {@code pier-1.jpg} for {@code pier.jpg}. Files that belong together, as a
 * picture and its sizes do, get one stem.
 */
public final class FreeNames {
  private static final int MOST_TRIED = 10_000;

  private final Taken taken;

  /** Says which names are taken. */
  public interface Taken {
    boolean isFree(String path) throws IOException;
  }

  /** Those that belong together, by each of them. */
  private final Map<String, Set<String>> families = new HashMap<>();

  private final Set<String> colliding = new TreeSet<>();

  public FreeNames(Taken taken) {
    this.taken = taken;
  }

  /** Says that one row names some files as its own. */
  void together(Set<String> paths) {
    Set<String> family = new LinkedHashSet<>(paths);
    for (String path : paths) {
      family.addAll(families.getOrDefault(path, Set.of()));
    }
    for (String path : family) {
      families.put(path, family);
    }
  }

  /** Says that a file's name is taken by another one. */
  public void collide(String path) {
    colliding.add(path);
  }

  /**
   * Says the same of several files of which no row tells how they belong together: those whose
   * names begin like another one's do.
   */
  public void collideAll(Set<String> paths) {
    for (String path : paths) {
      String stem = folder(path) + stem(Set.of(path));
      Set<String> family = new TreeSet<>();
      paths.stream().filter(other -> other.startsWith(stem)).forEach(family::add);
      together(family);
      collide(path);
    }
  }

  /** The new names, by the old ones. */
  public Map<String, String> renames() throws IOException {
    Map<String, String> renames = new TreeMap<>();
    Set<String> given = new HashSet<>();
    for (String path : colliding) {
      if (!renames.containsKey(path)) {
        Set<String> family = new TreeSet<>(families.getOrDefault(path, Set.of(path)));
        String folder = folder(path);
        family.removeIf(other -> !folder(other).equals(folder));
        String stem = stem(family);
        if (stem.isEmpty()) {
          family = Set.of(path);
          stem = stem(family);
        }
        rename(family, folder, stem, renames, given);
      }
    }
    return renames;
  }

  private void rename(
      Set<String> family,
      String folder,
      String stem,
      Map<String, String> renames,
      Set<String> given)
      throws IOException {
    for (int n = 1; n < MOST_TRIED; n++) {
      Map<String, String> tried = new TreeMap<>();
      for (String path : family) {
        tried.put(path, folder + stem + "-" + n + path.substring(folder.length() + stem.length()));
      }
      boolean free = true;
      for (String name : tried.values()) {
        free &= !given.contains(name) && taken.isFree(name);
      }
      if (free) {
        renames.putAll(tried);
        given.addAll(tried.values());
        return;
      }
    }
    throw new IOException("no free name for " + folder + stem + " was found");
  }

  private static String folder(String path) {
    return path.substring(0, path.lastIndexOf('/') + 1);
  }

  /** How all names begin, at most up to an ending. */
  private static String stem(Set<String> family) {
    List<String> names = new ArrayList<>();
    for (String path : family) {
      String name = path.substring(path.lastIndexOf('/') + 1);
      int point = name.lastIndexOf('.');
      names.add(point > 0 ? name.substring(0, point) : name);
    }
    String stem = names.get(0);
    for (String name : names) {
      int same = 0;
      while (same < Math.min(stem.length(), name.length())
          && stem.charAt(same) == name.charAt(same)) {
        same++;
      }
      stem = stem.substring(0, same);
    }
    return stem;
  }
}
