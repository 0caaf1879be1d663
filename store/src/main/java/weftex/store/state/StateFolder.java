package weftex.store.state;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.LinkOption;
import java.nio.file.Path;
import java.nio.file.attribute.PosixFileAttributeView;
import java.nio.file.attribute.PosixFilePermission;
import java.nio.file.attribute.PosixFilePermissions;
import java.util.Comparator;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.Set;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import java.util.stream.Stream;

/**
 * The folder beside a pair's configuration where all of its state is kept: {@code .weftex} of
 * {@code weftex.yaml}, and {@code .weftex-NAME} of another {@code NAME.yaml}, so that two pairs in
 * one folder share nothing.
 */
public final class StateFolder {
  /** What the configuration is called unless somebody says otherwise. */
  public static final String CONFIGURATION = "weftex.yaml";

  /** Where the state of the other sites is that one configuration describes. */
  public static final String SITES = "sites";

  /** Where, among scratch databases, the data of a server of our own are. */
  public static final String OWN_SERVER = "server";

  private static final Pattern NUMBERED =
      Pattern.compile("(\\d{4,9})-\\d{4}-\\d\\d-\\d\\d\\.(?:jsonl(?:\\.zst)?|sealed)");

  private static final Pattern CHANGE_SET = Pattern.compile("\\.(?:jsonl(?:\\.zst)?|sealed)$");

  /** Stands behind the name of a draft that was compressed since. */
  private static final String PACKED = ".zst";

  private final Path folder;

  private StateFolder(Path folder) {
    this.folder = folder;
  }

  /** The state of the pair that a configuration file describes. */
  public static StateFolder of(Path configuration) {
    Path file = configuration.toAbsolutePath().normalize();
    String name = file.getFileName().toString();
    String apart = name.equals(CONFIGURATION) ? "" : "-" + name.replaceFirst("\\.yaml$", "");
    return new StateFolder(file.resolveSibling(".weftex" + apart));
  }

  /** The state of one of several sites that a configuration file describes, by its number. */
  public StateFolder ofSite(int number) {
    return number == 1 ? this : new StateFolder(folder.resolve(SITES).resolve("" + number));
  }

  /** What is known of the sites that a configuration file describes. */
  public Path sites() {
    return folder.resolve(SITES).resolve("sites.json");
  }

  /**
   * What lets others change what is kept here, in words; empty if nothing does. Whoever can write
   * to this folder can change what is going to be applied and taken back.
   */
  public Optional<String> exposure() throws IOException {
    if (Files.isSymbolicLink(folder)) {
      return Optional.of("is a link to " + Files.readSymbolicLink(folder));
    }
    PosixFileAttributeView view =
        Files.getFileAttributeView(folder, PosixFileAttributeView.class, LinkOption.NOFOLLOW_LINKS);
    if (view == null || !Files.isDirectory(folder)) {
      return Optional.empty();
    }
    Set<PosixFilePermission> all = view.readAttributes().permissions();
    boolean others =
        all.contains(PosixFilePermission.GROUP_WRITE)
            || all.contains(PosixFilePermission.OTHERS_WRITE);
    return others
        ? Optional.of("can be written to by others (" + PosixFilePermissions.toString(all) + ")")
        : Optional.empty();
  }

  /** Where it is. */
  public Path folder() {
    return folder;
  }

  public Path receipts() {
    return folder.resolve("receipts");
  }

  public Path restorePoints() {
    return folder.resolve("restore-points");
  }

  /**
   * What comparisons found to say the same on both copies.
   *
   * @param into the receiving copy
   */
  public Path settled(String into) {
    return folder.resolve("settled").resolve("into-" + into + ".json");
  }

  /** What is remembered of a copy that was made anew from the other one. */
  public Path remade(String copy) {
    return folder.resolve("remade-" + copy + ".json");
  }

  /** What the files of a copy were found to hold. */
  public Path seenFiles(String copy) {
    return folder.resolve("files").resolve("seen-" + copy + ".jsonl");
  }

  /** Where files are kept that were overwritten or removed. */
  public Path asideFiles() {
    return folder.resolve("files").resolve("aside");
  }

  public Path changeSets() {
    return folder.resolve("change-sets");
  }

  /** Databases into which files are loaded. */
  public Path scratch() {
    return folder.resolve("scratch");
  }

  /** The data of a server of our own. */
  public Path ownServer() {
    return scratch().resolve(OWN_SERVER);
  }

  /** A file that says what failed unexpectedly. */
  public Path failure(String stamp) {
    return failures().resolve(stamp + ".txt");
  }

  /** Where such files are. */
  public Path failures() {
    return folder.resolve("failures");
  }

  /** Where temporary files are. */
  public Path temporaries() {
    return folder.resolve("tmp");
  }

  /** A new temporary file, in a folder that exists. */
  public Path temporary(String name) throws IOException {
    Path temporary = temporaries();
    Files0600.createFolder(temporary);
    return temporary.resolve(name + "-" + ProcessHandle.current().pid());
  }

  /**
   * Holds a file of this folder, so that one process at a time does something.
   *
   * @param who what others are told meanwhile
   */
  public FileClaim.Attempt claim(String name, String who) throws IOException {
    Files0600.createFolder(folder);
    FileClaim.Attempt attempt = FileClaim.attempt(folder.resolve("." + name + ".open"), who);
    if (attempt.claim().isEmpty() && attempt.holder().isEmpty()) {
      throw new IOException("no file can be made in " + folder);
    }
    return attempt;
  }

  /** A change set as it is kept now: if it was compressed since, it has another name. */
  public static Path kept(Path changeSet) {
    Path packed = packed(changeSet);
    return Files.notExists(changeSet) && Files.exists(packed) ? packed : changeSet;
  }

  /** What a change set is called when it is compressed. */
  public static Path packed(Path changeSet) {
    return changeSet.resolveSibling(changeSet.getFileName() + PACKED);
  }

  private static Path unpacked(Path packed) {
    String name = packed.getFileName().toString();
    return packed.resolveSibling(name.substring(0, name.length() - PACKED.length()));
  }

  /** Whether it is compressed, as its name says. */
  public static boolean isPacked(Path changeSet) {
    return changeSet.toString().endsWith(PACKED);
  }

  /** The change set that was drafted last; empty if there is none. */
  public Optional<Path> newestChangeSet() throws IOException {
    List<Path> all = drafts();
    return all.isEmpty() ? Optional.empty() : Optional.of(all.get(all.size() - 1));
  }

  /** All change sets that were drafted here, oldest first. */
  public List<Path> drafts() throws IOException {
    return drafted().stream()
        .sorted(Comparator.comparingLong(StateFolder::number).thenComparing(f -> f))
        .toList();
  }

  /**
   * A file for a new change set. Drafts are numbered, since clocks go back: the newest has the
   * highest number.
   *
   * @param day that stands behind the number
   * @param sealed whether only some people can read it
   */
  public Path newChangeSet(String day, boolean sealed) throws IOException {
    long last = drafted().stream().mapToLong(StateFolder::number).max().orElse(0);
    return changeSets()
        .resolve(
            String.format(Locale.ROOT, "%04d-%s.%s", last + 1, day, sealed ? "sealed" : "jsonl"));
  }

  private List<Path> drafted() throws IOException {
    if (!Files.isDirectory(changeSets())) {
      return List.of();
    }
    try (Stream<Path> files = Files.list(changeSets())) {
      return files
          .filter(file -> CHANGE_SET.matcher(file.toString()).find())
          // One that is being compressed is there twice for a moment.
          .filter(file -> !isPacked(file) || Files.notExists(unpacked(file)))
          .toList();
    }
  }

  /** The number of a draft; 0 for one of an older version, which has the time for a name. */
  private static long number(Path file) {
    Matcher matcher = NUMBERED.matcher(file.getFileName().toString());
    return matcher.matches() ? Long.parseLong(matcher.group(1)) : 0;
  }
}
