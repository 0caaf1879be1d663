package weftex.store.file;

import java.io.IOException;
import java.util.HashMap;
import java.util.Map;
import java.util.Optional;
import weftex.core.file.FileContent;
import weftex.core.file.SafePath;

/**
 * The files of a copy as they are found during one run: each folder is listed once, and a file read
 * only if nobody knows what it holds.
 */
public final class CopyFiles implements AutoCloseable {
  private final Folder folder;
  private final SeenHashes seen;
  private final boolean thorough;
  private final Map<String, Folder.Listing> listings = new HashMap<>();
  private final Map<String, FileContent> contents = new HashMap<>();
  private long read;

  /**
   * @param thorough whether every file is read that is asked for
   */
  public CopyFiles(Folder folder, SeenHashes seen, boolean thorough) {
    this.folder = folder;
    this.seen = seen;
    this.thorough = thorough;
  }

  public Folder folder() {
    return folder;
  }

  /** What is directly in a folder. */
  public Folder.Listing list(String of) throws IOException {
    Folder.Listing listing = listings.get(of);
    if (listing == null) {
      listing = folder.list(of);
      listings.put(of, listing);
    }
    return listing;
  }

  /** A file as it lies there; empty if there is none. */
  public Optional<Folder.Entry> find(String path) throws IOException {
    int slash = path.lastIndexOf('/');
    Folder.Listing beside = list(slash < 0 ? "" : path.substring(0, slash));
    return Optional.ofNullable(beside.files().get(path.substring(slash + 1)));
  }

  /** Takes paths. */
  public interface Paths {
    void take(String path) throws IOException;
  }

  /**
   * All files in a folder and below it, in order; a folder whose name no path may have is passed
   * over.
   */
  public void walk(String of, Paths sink) throws IOException {
    Folder.Listing listing = list(of);
    String before = of.isEmpty() ? "" : of + "/";
    for (String name : listing.files().keySet()) {
      if (SafePath.of(before + name).filter((before + name)::equals).isPresent()) {
        sink.take(before + name);
      }
    }
    for (String name : listing.folders()) {
      if (SafePath.of(before + name).filter((before + name)::equals).isPresent()) {
        walk(before + name, sink);
      }
    }
  }

  /**
   * What a file holds; empty if there is none.
   *
   * @throws IOException also if it can't be read
   */
  public Optional<FileContent> content(String path) throws IOException {
    Optional<Folder.Entry> entry = find(path);
    if (entry.isEmpty()) {
      return Optional.empty();
    }
    FileContent known = contents.get(path);
    if (known == null) {
      Optional<FileContent> before = thorough ? Optional.empty() : seen.of(path, entry.get());
      known = before.isPresent() ? before.get() : hashed(path, entry.get());
      contents.put(path, known);
    }
    return Optional.of(known);
  }

  private FileContent hashed(String path, Folder.Entry entry) throws IOException {
    String sha256 = folder.sha256(path, entry.bytes());
    read += entry.bytes();
    seen.put(path, entry, sha256);
    return new FileContent(sha256, entry.bytes());
  }

  /** Takes a file for the same as one of the other copy, of the same size and time. */
  void takeFor(String path, Folder.Entry entry, FileContent content) {
    contents.put(path, content);
    seen.put(path, entry, content.sha256());
  }

  /** How many bytes were read for what files hold. */
  public long read() {
    return read;
  }

  /** Writes down what was found, and lets go of the folder. */
  @Override
  public void close() {
    try (folder) {
      seen.save();
    } catch (IOException e) {
      // Whoever comes next reads those files again.
      return;
    }
  }
}
