package weftex.store.file;

import java.io.IOException;
import java.io.InputStream;
import java.io.OutputStream;
import java.nio.file.Files;
import java.nio.file.NoSuchFileException;
import java.nio.file.Path;
import java.nio.file.StandardOpenOption;
import java.time.Instant;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HexFormat;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalLong;
import java.util.TreeMap;
import weftex.store.database.CopySpec;
import weftex.store.ssh.Sftp;

/**
 * A folder on the machine that a copy is reached over by SSH, in a channel of the very line that
 * its database is reached by. What a cut line interrupts goes on over a new one.
 */
public final class SftpFolder implements Folder {

  private static final int RUN_BITS = 0111;
  private static final int SMALL = 64_000;

  private final CopySpec.Server server;
  private final String root;
  private final List<String> doors;
  private final FarLine far;
  private final FarPlaces places;
  private final Map<String, Sftp.Attributes> patterns = new HashMap<>();

  private final FolderMaking making;

  /**
   * @param root from the root of the other side
   * @param doors folders in it that may be links to elsewhere
   */
  public SftpFolder(CopySpec.Server server, String root, List<String> doors) {
    this.server = server;
    this.root = root.replaceAll("/+$", "");
    this.doors = doors.stream().map(door -> door.replaceAll("/+$", "")).toList();
    this.far = new FarLine(server);
    this.places = new FarPlaces(far, this.root, this.doors, words());
    this.making = new FolderMaking(far, root);
  }

  @Override
  public String words() {
    return server.ssh().orElseThrow().words() + ":" + root;
  }

  @Override
  public boolean isNear() {
    return false;
  }

  @Override
  public Listing list(String folder) throws IOException {
    String place = folder.isEmpty() ? root : root + "/" + folder;
    places.at(folder.isEmpty() ? "x" : folder + "/x");
    List<Sftp.Named> all;
    try {
      all = far.ask(s -> s.list(place));
    } catch (NoSuchFileException e) {
      return Listing.EMPTY;
    }
    Map<String, Entry> files = new TreeMap<>();
    List<String> folders = new ArrayList<>();
    for (Sftp.Named one : all) {
      if (one.name().startsWith(TEMPORARY)) {
        continue;
      }
      if (one.attributes().isFile()) {
        files.put(one.name(), entry(one.attributes()));
      } else if (one.attributes().isFolder()) {
        folders.add(one.name());
        places.isNoLink(folder.isEmpty() ? one.name() : folder + "/" + one.name());
      } else if (one.attributes().isLink()
          && places.isDoor(folder.isEmpty() ? one.name() : folder + "/" + one.name())) {
        folders.add(one.name());
      }
    }
    folders.sort(null);
    return new Listing(files, folders);
  }

  private static Entry entry(Sftp.Attributes attributes) {
    return new Entry(attributes.size(), Instant.ofEpochSecond(attributes.modified()));
  }

  @Override
  public Optional<Entry> find(String path) throws IOException {
    String place = places.at(path);
    return far.ask(s -> s.find(place)).filter(Sftp.Attributes::isFile).map(SftpFolder::entry);
  }

  @Override
  public boolean isTaken(String path) throws IOException {
    String place = places.at(path);
    return far.ask(s -> s.find(place)).isPresent();
  }

  /** The file is fetched first, so that a line that is cut later cuts nothing. */
  @Override
  public InputStream open(String path) throws IOException {
    String place = places.at(path);
    Path fetched = Files.createTempFile("weftex-", null);
    try {
      far.ask(
          s -> {
            try (OutputStream out = Files.newOutputStream(fetched)) {
              s.read(place, s.find(place).map(Sftp.Attributes::size).orElse(0L), out);
            }
            return true;
          });
      return Files.newInputStream(fetched, StandardOpenOption.DELETE_ON_CLOSE);
    } catch (IOException | RuntimeException e) {
      Files.deleteIfExists(fetched);
      throw e;
    }
  }

  @Override
  public String sha256(String path, long bytes) throws IOException {
    String place = places.at(path);
    // For a small file another program on the other side costs more than its bytes.
    if (bytes > SMALL) {
      Optional<List<String>> said = far.hashes(List.of(place));
      if (said.isPresent()) {
        return said.get().get(0);
      }
    }
    byte[][] found = new byte[1][];
    far.ask(
        s -> {
          Contents.Digesting digesting = new Contents.Digesting();
          s.read(place, bytes, digesting);
          found[0] = digesting.digest();
          return true;
        });
    return HexFormat.of().formatHex(found[0]);
  }

  @Override
  public List<String> sha256(List<String> paths) throws IOException {
    List<String> all = new ArrayList<>();
    for (String path : paths) {
      all.add(places.at(path));
    }
    Optional<List<String>> said = far.hashes(all);
    if (said.isPresent()) {
      return said.get();
    }
    List<String> hashes = new ArrayList<>();
    for (String path : paths) {
      hashes.add(sha256(path, find(path).map(Entry::bytes).orElse(0L)));
    }
    return hashes;
  }

  @Override
  public void create(String path, Opening content, Manner manner) throws IOException {
    String place = places.at(path);
    making.makeFolders(parent(path));
    Optional<Sftp.Attributes> like =
        manner.like().isPresent() ? like(places.at(manner.like().get())) : Optional.empty();
    Sftp.Attributes pattern = like.isPresent() ? like.get() : pattern(parent(path));
    OptionalLong modified =
        manner
            .modified()
            .map(at -> OptionalLong.of(at.getEpochSecond()))
            .orElse(OptionalLong.empty());
    boolean[] begun = {false};
    far.ask(
        s -> {
          Optional<Sftp.Attributes> there = begun[0] ? s.find(place) : Optional.empty();
          begun[0] = true;
          OptionalLong from =
              there.map(some -> OptionalLong.of(some.size())).orElse(OptionalLong.empty());
          try (InputStream in = content.open()) {
            in.skipNBytes(from.orElse(0));
            s.write(place, from, in, new Sftp.Manner(pattern.mode(), modified));
          }
          return true;
        });
    making.own(place, Optional.of(pattern));
  }

  private Optional<Sftp.Attributes> like(String place) throws IOException {
    return far.ask(s -> s.find(place));
  }

  @Override
  public Optional<Folder> beside() {
    SftpFolder other = new SftpFolder(server, root, doors);
    try {
      other.far.line();
      return Optional.of(other);
    } catch (IOException e) {
      // A server may allow few channels in one connection.
      return Optional.empty();
    }
  }

  /** What a new file in a folder is like: as one that is there, or else as the folder. */
  private Sftp.Attributes pattern(String folder) throws IOException {
    Sftp.Attributes known = patterns.get(folder);
    if (known == null) {
      Optional<Sftp.Attributes> beside = neighbour(folder);
      if (beside.isPresent()) {
        known = beside.get();
      } else {
        Sftp.Attributes above =
            far.ask(s -> s.follow(folder.isEmpty() ? root : root + "/" + folder))
                .orElseThrow(() -> new NoSuchFileException(folder));
        known =
            new Sftp.Attributes(
                0, above.owner(), above.group(), above.mode() & ~RUN_BITS, above.modified());
      }
      patterns.put(folder, known);
    }
    return known;
  }

  static String parent(String path) {
    int slash = path.lastIndexOf('/');
    return slash < 0 ? "" : path.substring(0, slash);
  }

  private Optional<Sftp.Attributes> neighbour(String folder) throws IOException {
    String place = folder.isEmpty() ? root : root + "/" + folder;
    return far.ask(s -> s.list(place)).stream()
        .filter(one -> one.attributes().isFile() && !one.name().startsWith(TEMPORARY))
        .map(Sftp.Named::attributes)
        .findFirst();
  }

  @Override
  public void rename(String from, String to) throws IOException {
    String here = places.at(from);
    String there = places.at(to);
    making.makeFolders(parent(to));
    boolean[] begun = {false};
    far.ask(
        s -> {
          // Cut in between, it may have been done.
          boolean done = begun[0] && s.find(here).isEmpty() && s.find(there).isPresent();
          begun[0] = true;
          if (!done) {
            s.rename(here, there);
          }
          return true;
        });
  }

  @Override
  public void replace(String from, String to) throws IOException {
    String here = places.at(from);
    String there = places.at(to);
    boolean[] begun = {false};
    far.ask(
        s -> {
          Optional<Sftp.Attributes> now = s.find(there);
          if (now.isPresent() && !now.get().isFile()) {
            throw new IOException(there + " is no ordinary file");
          }
          boolean done = begun[0] && s.find(here).isEmpty();
          begun[0] = true;
          if (!done) {
            s.replace(here, there);
          }
          return true;
        });
  }

  @Override
  public void delete(String path) throws IOException {
    String place = places.at(path);
    far.ask(
        s -> {
          if (s.find(place).isPresent()) {
            s.delete(place);
          }
          return true;
        });
  }

  @Override
  public void deleteIfEmpty(String folder) throws IOException {
    String place = places.at(folder);
    far.ask(
        s -> {
          if (s.find(place).map(Sftp.Attributes::isFolder).orElse(false)
              && s.list(place).isEmpty()) {
            s.deleteFolder(place);
          }
          return true;
        });
    places.forget();
    making.present.clear();
    patterns.clear();
  }

  @Override
  public OptionalLong room() throws IOException {
    return far.ask(s -> s.room(root)).map(OptionalLong::of).orElse(OptionalLong.empty());
  }

  /** Whether the folder is there. */
  public boolean isThere() throws IOException {
    return far.ask(s -> s.follow(root)).map(Sftp.Attributes::isFolder).orElse(false);
  }

  @Override
  public void close() {
    far.close();
  }
}
