package weftex.store.placing;

import java.io.IOException;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import weftex.core.file.FileContent;
import weftex.store.Refusal;
import weftex.store.file.Folder;

/** Whether a folder can take what is staged in it: the room, and what is missing there. */
final class StageRoom {

  private final List<FileStep> steps;
  private final Folder target;

  StageRoom(List<FileStep> steps, Folder target) {
    this.steps = steps;
    this.target = target;
  }

  void checkRoom() throws IOException, Refusal {
    long needed = steps.stream().mapToLong(s -> s.after().map(FileContent::bytes).orElse(0L)).sum();
    long room = target.room().orElse(Long.MAX_VALUE);
    if (needed > room) {
      throw new Refusal(
          Refusal.Kind.PROTECTED,
          "There is no room for the files in "
              + target.words()
              + ": they need "
              + needed
              + " bytes, and "
              + room
              + " are free.",
          "Make room, or leave the files out with 'weftex review --skip'.");
    }
  }

  /**
   * The outermost folder on the way to a file that is not there.
   *
   * @param present folders that are known to be there, to which others are added
   */
  Optional<String> firstMissing(String path, Set<String> present) throws IOException {
    for (int at = path.indexOf('/'); at >= 0; at = path.indexOf('/', at + 1)) {
      String folder = path.substring(0, at);
      if (!present.contains(folder) && !target.isTaken(folder)) {
        return Optional.of(folder);
      }
      present.add(folder);
    }
    return Optional.empty();
  }
}
