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
import java.util.HashSet;
import java.util.HexFormat;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalLong;
import java.util.Set;
import java.util.TreeMap;
import weftex.store.Refusal;
import weftex.store.copy.CopySpec;
import weftex.store.ssh.FarHashes;
import weftex.store.ssh.Sftp;
import weftex.store.ssh.SshLines;

/**
 * A folder on the machine that a copy is reached over by SSH, in a channel of the very line that
 * its database is reached by. What a cut line interrupts goes on over a new one.
 */
public final class SftpFolder implements Folder {
  private static final int TRIES = 3;
  private static final int FOLDER_MODE = 0755;
  private static final int RUN_BITS = 0111;
  private static final int SMALL = 64_000;

  private final CopySpec.Server server;
  private final String root;
  private final List<String> doors;
  private final Map<String, Boolean> within = new HashMap<>();
  private final Map<String, Sftp.Attributes> patterns = new HashMap<>();
  private final Set<String> present = new HashSet<>();

  /** Whose new files are, once that was asked. */
  private Optional<Long> givenTo = Optional.empty();

  private Sftp sftp;
  private FarHashes hashes;

  /**
   * @param root from the root of the other side
   * @param doors folders in it that may be links to elsewhere
   */
  public SftpFolder(CopySpec.Server server, String root, List<String> doors) {
    this.server = server;
    this.root = root.replaceAll("/+$", "");
    this.doors = doors.stream().map(door -> door.replaceAll("/+$", "")).toList();
  }

  @Override
  public String words() {
    return server.ssh().orElseThrow().words() + ":" + root;
  }

  @Override
  public boolean isNear() {
    return false;
  }

  /** Something that is asked of the other side. */
  private interface Asking<T> {
    T of(Sftp sftp) throws IOException;
  }

  /** Asks, and once more over a new line if this one is cut meanwhile. */
  private <T> T ask(Asking<T> asking) throws IOException {
    for (int tried = 1; ; tried++) {
      try {
        return asking.of(line());
      } catch (IOException e) {
        boolean cut = e instanceof Sftp.Cut || sftp != null && !sftp.isUp();
        letGo();
        if (!cut || tried == TRIES) {
          throw e;
        }
      }
    }
  }

  private Sftp line() throws IOException {
    if (sftp == null) {
      try {
        sftp = SshLines.sftp(server);
      } catch (Refusal e) {
        throw new IOException(e.reason(), e);
      }
    }
    return sftp;
  }

  private void letGo() {
    if (sftp != null && !sftp.isUp()) {
      sftp.close();
      sftp = null;
      if (hashes != null) {
        hashes.close();
        hashes = null;
      }
    }
  }

  /**
   * Where a path is on the other side.
   *
   * @throws IOException if a link on the way leads out
   */
  private String at(String path) throws IOException {
    int slash = path.lastIndexOf('/');
    String folder = slash < 0 ? "" : path.substring(0, slash);
    Boolean known = within.get(folder);
    if (known == null) {
      known = isWithin(folder);
      within.put(folder, known);
    }
    if (!known) {
      throw new IOException(root + "/" + path + " leads out of " + words() + " by a link");
    }
    return root + "/" + path;
  }

  private boolean isWithin(String folder) throws IOException {
    String base = "";
    for (String door : doors) {
      if ((folder + "/").startsWith(door + "/")
          && ask(s -> s.follow(root + "/" + door)).isPresent()) {
        base = door;
      }
    }
    String door = base;
    Optional<String> real = ask(s -> s.real(door.isEmpty() ? root : root + "/" + door));
    String there = folder;
    while (!there.isEmpty()) {
      String place = root + "/" + there;
      if (ask(s -> s.follow(place)).isPresent()) {
        break;
      }
      int slash = there.lastIndexOf('/');
      there = slash < 0 ? "" : there.substring(0, slash);
    }
    String place = there.isEmpty() ? root : root + "/" + there;
    Optional<String> at = ask(s -> s.real(place));
    return real.isPresent() && at.isPresent() && ((at.get() + "/").startsWith(real.get() + "/"));
  }

  @Override
  public Listing list(String folder) throws IOException {
    String place = folder.isEmpty() ? root : root + "/" + folder;
    at(folder.isEmpty() ? "x" : folder + "/x");
    List<Sftp.Named> all;
    try {
      all = ask(s -> s.list(place));
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
        // What is no link leads nowhere else.
        within.put(folder.isEmpty() ? one.name() : folder + "/" + one.name(), true);
      } else if (one.attributes().isLink()
          && doors.contains(folder.isEmpty() ? one.name() : folder + "/" + one.name())) {
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
    String place = at(path);
    return ask(s -> s.find(place)).filter(Sftp.Attributes::isFile).map(SftpFolder::entry);
  }

  @Override
  public boolean isTaken(String path) throws IOException {
    String place = at(path);
    return ask(s -> s.find(place)).isPresent();
  }

  /** The file is fetched first, so that a line that is cut later cuts nothing. */
  @Override
  public InputStream open(String path) throws IOException {
    String place = at(path);
    Path fetched = Files.createTempFile("weftex-", null);
    try {
      ask(
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
    String place = at(path);
    // For a small file another program on the other side costs more than its bytes.
    if (bytes > SMALL) {
      Optional<List<String>> said = farHashes(List.of(place));
      if (said.isPresent()) {
        return said.get().get(0);
      }
    }
    byte[][] found = new byte[1][];
    ask(
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
    List<String> places = new ArrayList<>();
    for (String path : paths) {
      places.add(at(path));
    }
    Optional<List<String>> said = farHashes(places);
    if (said.isPresent()) {
      return said.get();
    }
    List<String> hashes = new ArrayList<>();
    for (String path : paths) {
      hashes.add(sha256(path, find(path).map(Entry::bytes).orElse(0L)));
    }
    return hashes;
  }

  private Optional<List<String>> farHashes(List<String> places) throws IOException {
    if (hashes == null) {
      try {
        hashes = SshLines.hashes(server);
      } catch (Refusal e) {
        throw new IOException(e.reason(), e);
      }
    }
    return hashes.of(places);
  }

  @Override
  public void create(String path, Opening content, Manner manner) throws IOException {
    String place = at(path);
    makeFolders(parent(path));
    Optional<Sftp.Attributes> like =
        manner.like().isPresent() ? like(at(manner.like().get())) : Optional.empty();
    Sftp.Attributes pattern = like.isPresent() ? like.get() : pattern(parent(path));
    OptionalLong modified =
        manner
            .modified()
            .map(at -> OptionalLong.of(at.getEpochSecond()))
            .orElse(OptionalLong.empty());
    boolean[] begun = {false};
    ask(
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
    own(place, Optional.of(pattern));
  }

  private Optional<Sftp.Attributes> like(String place) throws IOException {
    return ask(s -> s.find(place));
  }

  @Override
  public Optional<Folder> beside() {
    SftpFolder other = new SftpFolder(server, root, doors);
    try {
      other.line();
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
            ask(s -> s.follow(folder.isEmpty() ? root : root + "/" + folder))
                .orElseThrow(() -> new NoSuchFileException(folder));
        known =
            new Sftp.Attributes(
                0, above.owner(), above.group(), above.mode() & ~RUN_BITS, above.modified());
      }
      patterns.put(folder, known);
    }
    return known;
  }

  private static String parent(String path) {
    int slash = path.lastIndexOf('/');
    return slash < 0 ? "" : path.substring(0, slash);
  }

  private Optional<Sftp.Attributes> neighbour(String folder) throws IOException {
    String place = folder.isEmpty() ? root : root + "/" + folder;
    return ask(s -> s.list(place)).stream()
        .filter(one -> one.attributes().isFile() && !one.name().startsWith(TEMPORARY))
        .map(Sftp.Named::attributes)
        .findFirst();
  }

  /** Only an administrator may give files away; the site can still read it by its mode. */
  private void own(String place, Optional<Sftp.Attributes> like) throws IOException {
    if (like.isEmpty() || givenTo.filter(given -> given == whose(like.get())).isPresent()) {
      return;
    }
    // All that is made here belongs to one user.
    givenTo = ask(s -> s.find(place)).map(SftpFolder::whose);
    if (givenTo.isPresent() && givenTo.get() != whose(like.get())) {
      try {
        line().owner(place, like.get().owner(), like.get().group());
      } catch (Sftp.Cut e) {
        throw e;
      } catch (IOException e) {
        return;
      }
    }
  }

  private static long whose(Sftp.Attributes attributes) {
    return ((long) attributes.owner() << 32) + attributes.group();
  }

  private void makeFolders(String folder) throws IOException {
    if (folder.isEmpty() || present.contains(folder)) {
      return;
    }
    makeFoldersAnew(folder);
    present.add(folder);
  }

  private void makeFoldersAnew(String folder) throws IOException {
    if (ask(s -> s.follow(root + "/" + folder)).isPresent()) {
      return;
    }
    makeFolders(parent(folder));
    String above = parent(folder).isEmpty() ? root : root + "/" + parent(folder);
    Optional<Sftp.Attributes> like = ask(s -> s.follow(above));
    int mode = like.map(Sftp.Attributes::mode).orElse(FOLDER_MODE);
    ask(
        s -> {
          try {
            s.makeFolder(root + "/" + folder, mode);
            s.mode(root + "/" + folder, mode);
          } catch (IOException e) {
            // Another hand was quicker, or the line was cut behind it.
            if (s.find(root + "/" + folder).isEmpty()) {
              throw e;
            }
          }
          return true;
        });
    own(root + "/" + folder, like);
  }

  @Override
  public void rename(String from, String to) throws IOException {
    String here = at(from);
    String there = at(to);
    makeFolders(parent(to));
    boolean[] begun = {false};
    ask(
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
    String here = at(from);
    String there = at(to);
    boolean[] begun = {false};
    ask(
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
    String place = at(path);
    ask(
        s -> {
          if (s.find(place).isPresent()) {
            s.delete(place);
          }
          return true;
        });
  }

  @Override
  public void deleteIfEmpty(String folder) throws IOException {
    String place = at(folder);
    ask(
        s -> {
          if (s.find(place).map(Sftp.Attributes::isFolder).orElse(false)
              && s.list(place).isEmpty()) {
            s.deleteFolder(place);
          }
          return true;
        });
    within.clear();
    present.clear();
    patterns.clear();
  }

  @Override
  public OptionalLong room() throws IOException {
    return ask(s -> s.room(root)).map(OptionalLong::of).orElse(OptionalLong.empty());
  }

  /** Whether the folder is there. */
  public boolean isThere() throws IOException {
    return ask(s -> s.follow(root)).map(Sftp.Attributes::isFolder).orElse(false);
  }

  @Override
  public void close() {
    if (hashes != null) {
      hashes.close();
    }
    if (sftp != null) {
      sftp.close();
    }
  }
}
