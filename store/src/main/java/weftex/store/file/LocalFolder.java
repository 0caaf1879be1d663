package weftex.store.file;

import java.io.BufferedInputStream;
import java.io.IOException;
import java.io.InputStream;
import java.io.OutputStream;
import java.nio.channels.Channels;
import java.nio.channels.FileChannel;
import java.nio.file.DirectoryNotEmptyException;
import java.nio.file.FileAlreadyExistsException;
import java.nio.file.Files;
import java.nio.file.LinkOption;
import java.nio.file.Path;
import java.nio.file.StandardCopyOption;
import java.nio.file.StandardOpenOption;
import java.nio.file.attribute.BasicFileAttributes;
import java.nio.file.attribute.FileTime;
import java.util.ArrayList;
import java.util.HexFormat;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalLong;
import java.util.Set;
import java.util.TreeMap;
import java.util.stream.Stream;
import weftex.store.state.Files0600;

/** A folder on this machine. */
public final class LocalFolder implements Folder {
  private final Path root;
  private final List<String> doors;

  /**
   * @param doors folders in it that may be links to elsewhere, since whoever installed the site
   *     made them so: those that the site model names
   */
  public LocalFolder(Path root, List<String> doors) {
    this.root = root;
    this.doors = doors.stream().map(door -> door.replaceAll("/+$", "")).toList();
  }

  @Override
  public String words() {
    return root.toString();
  }

  @Override
  public boolean isNear() {
    return true;
  }

  /**
   * Where a path is.
   *
   * @throws IOException if a link on the way leads out
   */
  private Path at(String path) throws IOException {
    Path file = root.resolve(path);
    Path parent = file.getParent();
    while (parent != null && !Files.exists(parent)) {
      parent = parent.getParent();
    }
    Path real = parent == null ? file : parent.toRealPath();
    Path door = door(path);
    if (!real.startsWith(door)) {
      throw new IOException(file + " leads out of " + root + " by a link");
    }
    return file;
  }

  /** What a path may not lead out of. */
  private Path door(String path) throws IOException {
    Path door = root.toRealPath();
    for (String name : doors) {
      Path there = root.resolve(name);
      if (path.startsWith(name + "/") && Files.isDirectory(there)) {
        door = there.toRealPath();
      }
    }
    return door;
  }

  @Override
  public Listing list(String folder) throws IOException {
    Path at = folder.isEmpty() ? root : root.resolve(folder);
    if (!Files.isDirectory(at)) {
      return Listing.EMPTY;
    }
    at(folder.isEmpty() ? "x" : folder + "/x");
    Map<String, Entry> files = new TreeMap<>();
    List<String> folders = new ArrayList<>();
    try (Stream<Path> all = Files.list(at)) {
      for (Path one : (Iterable<Path>) all::iterator) {
        BasicFileAttributes attributes = LikeNeighbour.attributes(one);
        String name = one.getFileName().toString();
        if (attributes == null || name.startsWith(TEMPORARY)) {
          continue;
        }
        if (attributes.isRegularFile()) {
          files.put(name, entry(attributes));
        } else if (attributes.isDirectory() || isDoor(folder, name, one)) {
          folders.add(name);
        }
      }
    }
    folders.sort(null);
    return new Listing(files, folders);
  }

  private boolean isDoor(String folder, String name, Path at) {
    return doors.contains(folder.isEmpty() ? name : folder + "/" + name) && Files.isDirectory(at);
  }

  private static Entry entry(BasicFileAttributes attributes) {
    return new Entry(attributes.size(), attributes.lastModifiedTime().toInstant());
  }

  @Override
  public Optional<Entry> find(String path) throws IOException {
    BasicFileAttributes attributes = LikeNeighbour.attributes(at(path));
    return attributes != null && attributes.isRegularFile()
        ? Optional.of(entry(attributes))
        : Optional.empty();
  }

  @Override
  public boolean isTaken(String path) throws IOException {
    return LikeNeighbour.attributes(at(path)) != null;
  }

  @Override
  public InputStream open(String path) throws IOException {
    return new BufferedInputStream(
        Channels.newInputStream(
            FileChannel.open(at(path), Set.of(StandardOpenOption.READ, LinkOption.NOFOLLOW_LINKS))),
        1 << 16);
  }

  @Override
  public String sha256(String path, long bytes) throws IOException {
    try (InputStream in = open(path)) {
      return HexFormat.of().formatHex(Contents.sha256(in, OutputStream.nullOutputStream()));
    }
  }

  @Override
  public void create(String path, Opening content, Manner manner) throws IOException {
    Path file = at(path);
    makeFolders(file.getParent());
    try (FileChannel channel =
            FileChannel.open(
                file,
                Set.of(
                    StandardOpenOption.CREATE_NEW,
                    StandardOpenOption.WRITE,
                    LinkOption.NOFOLLOW_LINKS));
        OutputStream out = Channels.newOutputStream(channel);
        InputStream in = content.open()) {
      in.transferTo(out);
      channel.force(true);
    }
    Path like = manner.like().isPresent() ? at(manner.like().get()) : null;
    Optional<Path> beside =
        like != null && LikeNeighbour.attributes(like) != null
            ? Optional.of(like)
            : LikeNeighbour.neighbour(file);
    if (beside.isPresent()) {
      LikeNeighbour.takeAfter(file, beside.get(), false);
    } else {
      LikeNeighbour.takeAfter(file, file.getParent(), true);
    }
    if (manner.modified().isPresent()) {
      Files.setLastModifiedTime(file, FileTime.from(manner.modified().get()));
    }
  }

  @Override
  public List<String> sha256(List<String> paths) throws IOException {
    List<String> hashes = new ArrayList<>();
    for (String path : paths) {
      hashes.add(sha256(path, 0));
    }
    return hashes;
  }

  @Override
  public Optional<Folder> beside() {
    return Optional.of(this);
  }

  private void makeFolders(Path folder) throws IOException {
    if (Files.isDirectory(folder)) {
      return;
    }
    makeFolders(folder.getParent());
    try {
      Files.createDirectory(folder);
      LikeNeighbour.takeAfter(folder, folder.getParent(), false);
      Files0600.syncFolder(folder.getParent());
    } catch (FileAlreadyExistsException e) {
      if (!Files.isDirectory(folder)) {
        throw e;
      }
    }
  }

  @Override
  public void rename(String from, String to) throws IOException {
    Path target = at(to);
    makeFolders(target.getParent());
    if (LikeNeighbour.attributes(target) != null) {
      throw new FileAlreadyExistsException(target.toString());
    }
    // A link is made only where nothing is, unlike a renaming.
    try {
      Files.createLink(target, at(from));
      Files.delete(at(from));
    } catch (UnsupportedOperationException e) {
      Files.move(at(from), target);
    }
    Files0600.syncFolder(target.getParent());
  }

  @Override
  public void replace(String from, String to) throws IOException {
    Path target = at(to);
    BasicFileAttributes there = LikeNeighbour.attributes(target);
    if (there != null && !there.isRegularFile()) {
      throw new IOException(target + " is no ordinary file");
    }
    Files.move(
        at(from), target, StandardCopyOption.ATOMIC_MOVE, StandardCopyOption.REPLACE_EXISTING);
    Files0600.syncFolder(target.getParent());
  }

  @Override
  public void delete(String path) throws IOException {
    if (Files.deleteIfExists(at(path))) {
      Files0600.syncFolder(at(path).getParent());
    }
  }

  @Override
  public void deleteIfEmpty(String folder) throws IOException {
    try {
      Files.deleteIfExists(at(folder));
    } catch (DirectoryNotEmptyException e) {
      return;
    }
  }

  @Override
  public OptionalLong room() throws IOException {
    return OptionalLong.of(Files.getFileStore(root).getUsableSpace());
  }

  @Override
  public void close() {
    // Nothing is held open.
  }
}
