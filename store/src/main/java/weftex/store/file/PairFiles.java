package weftex.store.file;

import java.io.IOException;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import weftex.core.file.FileContent;
import weftex.core.file.FileNameMap;
import weftex.core.file.Sight;

/** The files of two copies as a comparison sees them. */
public final class PairFiles implements Sight {
  private final String sourceName;
  private final String targetName;
  private final CopyFiles source;
  private final CopyFiles target;
  private final NamingRows onTarget;
  private final FileNameMap renamed;

  /** What both copies had, by path and copy. */
  private final Map<String, Map<String, Optional<FileContent>>> settled = new LinkedHashMap<>();

  /**
   * A copy and its files.
   *
   * @param name the copy's
   */
  public record Side(String name, CopyFiles files) {}

  /**
   * @param recorded what the files were when the base was recorded
   * @param renamed files that have another name on the target
   * @param onTarget the rows that name files on the target
   */
  public PairFiles(
      Side source, Side target, FileRecord recorded, FileNameMap renamed, NamingRows onTarget) {
    this.renamed = renamed;
    this.sourceName = source.name();
    this.targetName = target.name();
    this.source = source.files();
    this.target = target.files();
    this.onTarget = onTarget;
    for (String path : recorded.paths()) {
      settled.put(path, new HashMap<>(recorded.of(path).orElseThrow()));
    }
  }

  /**
   * Takes in what a merge settled of a file, in the order of merges.
   *
   * @param content what the copy that it came from had; empty if it had removed it
   * @param kept whether the other copy kept its own
   * @param from the copy that it came from
   */
  public void settle(String path, Optional<FileContent> content, boolean kept, String from) {
    Map<String, Optional<FileContent>> of =
        settled.computeIfAbsent(path, unused -> new HashMap<>());
    if (kept) {
      of.put(from, content);
    } else {
      of.put(sourceName, content);
      of.put(targetName, content);
    }
  }

  @Override
  public boolean isOnSource(String path) throws IOException {
    return there(path).isPresent();
  }

  @Override
  public boolean isOnTarget(String path) throws IOException {
    return target.find(path).isPresent();
  }

  @Override
  public boolean isKnown(String path) {
    return settled.containsKey(path);
  }

  @Override
  public boolean sourceMoved(String path) throws IOException {
    return moved(path, sourceName, there(path), () -> content(path));
  }

  @Override
  public boolean targetMoved(String path) throws IOException {
    return moved(path, targetName, target.find(path), () -> target.content(path));
  }

  private interface Reading {
    Optional<FileContent> content() throws IOException;
  }

  /** The source's file, under whatever name. */
  private Optional<Folder.Entry> there(String path) throws IOException {
    Optional<String> from = renamed.onSource(path);
    return from.isPresent() ? source.find(from.get()) : Optional.empty();
  }

  private Optional<FileContent> content(String path) throws IOException {
    Optional<String> from = renamed.onSource(path);
    return from.isPresent() ? source.content(from.get()) : Optional.empty();
  }

  private boolean moved(String path, String name, Optional<Folder.Entry> is, Reading reading)
      throws IOException {
    Map<String, Optional<FileContent>> of = settled.get(path);
    if (of == null || !of.containsKey(name)) {
      return true;
    }
    Optional<FileContent> was = of.get(name);
    if (was.isEmpty() || is.isEmpty() || was.get().bytes() != is.get().bytes()) {
      return was.isPresent() || is.isPresent();
    }
    return !reading.content().equals(was);
  }

  @Override
  public boolean areAlike(String path) throws IOException {
    Optional<Folder.Entry> one = there(path);
    Optional<Folder.Entry> other = target.find(path);
    return one.isPresent()
        && other.isPresent()
        && one.get().bytes() == other.get().bytes()
        && content(path).equals(target.content(path));
  }

  @Override
  public FileContent onSource(String path) throws IOException {
    return content(path).orElseThrow(() -> new IOException(path + " went away"));
  }

  @Override
  public FileContent onTarget(String path) throws IOException {
    return target.content(path).orElseThrow(() -> new IOException(path + " went away"));
  }

  @Override
  public String sourcePath(String path) {
    return renamed.onSource(path).orElse(path);
  }

  @Override
  public boolean isFree(String path) throws IOException {
    return source.find(path).isEmpty()
        && target.find(path).isEmpty()
        && renamed.onTarget(path).equals(path)
        && renamed.onSource(path).filter(path::equals).isPresent();
  }

  @Override
  public List<String> movedOnSource() throws IOException {
    List<String> moved = new ArrayList<>();
    for (String path : settled.keySet()) {
      if (isOnSource(path) && sourceMoved(path)) {
        moved.add(path);
      }
    }
    return moved;
  }

  /** Files that both had and the source has no more. */
  public List<String> goneOnSource() throws IOException {
    List<String> gone = new ArrayList<>();
    for (String path : settled.keySet()) {
      if (!isOnSource(path) && sourceMoved(path)) {
        gone.add(path);
      }
    }
    return gone;
  }

  @Override
  public boolean isNamedOnTarget(String path, List<Namer> by) throws IOException {
    return onTarget.of(path).stream().anyMatch(row -> !by.contains(row));
  }
}
