package weftex.store.file;

import java.io.IOException;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;

/** Places in a folder of another machine, out of which no link may lead. */
final class FarPlaces {
  private final FarLine far;
  private final String root;
  private final List<String> doors;
  private final String words;
  private final Map<String, Boolean> within = new HashMap<>();

  /**
   * @param root the folder, from the root of the other side
   * @param doors folders in it that may be links to elsewhere
   * @param words how a person names the folder
   */
  FarPlaces(FarLine far, String root, List<String> doors, String words) {
    this.far = far;
    this.root = root;
    this.doors = doors;
    this.words = words;
  }

  /** Forgets what is known of links. */
  void forget() {
    within.clear();
  }

  /** Takes in that a folder is no link, so that it leads nowhere else. */
  void isNoLink(String folder) {
    within.put(folder, true);
  }

  /** Whether a folder may be a link to elsewhere. */
  boolean isDoor(String folder) {
    return doors.contains(folder);
  }

  /**
   * Where a path is on the other side.
   *
   * @throws IOException if a link on the way leads out
   */
  String at(String path) throws IOException {
    int slash = path.lastIndexOf('/');
    String folder = slash < 0 ? "" : path.substring(0, slash);
    Boolean known = within.get(folder);
    if (known == null) {
      known = isWithin(folder);
      within.put(folder, known);
    }
    if (!known) {
      throw new IOException(root + "/" + path + " leads out of " + words + " by a link");
    }
    return root + "/" + path;
  }

  private boolean isWithin(String folder) throws IOException {
    String base = "";
    for (String door : doors) {
      if ((folder + "/").startsWith(door + "/")
          && far.ask(s -> s.follow(root + "/" + door)).isPresent()) {
        base = door;
      }
    }
    String door = base;
    Optional<String> real = far.ask(s -> s.real(door.isEmpty() ? root : root + "/" + door));
    String there = folder;
    while (!there.isEmpty()) {
      String place = root + "/" + there;
      if (far.ask(s -> s.follow(place)).isPresent()) {
        break;
      }
      int slash = there.lastIndexOf('/');
      there = slash < 0 ? "" : there.substring(0, slash);
    }
    String place = there.isEmpty() ? root : root + "/" + there;
    Optional<String> at = far.ask(s -> s.real(place));
    return real.isPresent() && at.isPresent() && ((at.get() + "/").startsWith(real.get() + "/"));
  }
}
