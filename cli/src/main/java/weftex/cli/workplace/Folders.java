package weftex.cli.workplace;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import weftex.core.address.CopyAddress;
import weftex.core.model.FileRule;
import weftex.core.model.SiteModel;
import weftex.store.FailureWords;
import weftex.store.Refusal;
import weftex.store.database.CopySpec;
import weftex.store.file.Aside;
import weftex.store.file.CopyFiles;
import weftex.store.file.Folder;
import weftex.store.file.LocalFolder;
import weftex.store.file.PairFolders;
import weftex.store.file.SeenHashes;
import weftex.store.file.SftpFolder;
import weftex.store.placing.FileAccess;
import weftex.store.ssh.SshLines;

/** The folders of the copies, as weftex.yaml names them. */
public final class Folders {
  private Folders() {}

  /**
   * Both folders, if both are named and in reach.
   *
   * @param thorough whether every file is read that is looked at
   */
  public static PairFolders open(Workplace place, boolean thorough) throws Refusal {
    Map<String, CopyFiles> copies = new LinkedHashMap<>();
    boolean any = false;
    String problem = "";
    for (CopySpec copy : List.of(place.pair().staging(), place.pair().live())) {
      any |= said(place, copy.name()).isPresent();
      Optional<Folder> folder = folder(place, copy);
      if (folder.isEmpty()) {
        problem = problem.isEmpty() ? problem(place, copy) : problem;
        continue;
      }
      SeenHashes seen = SeenHashes.open(place.state().seenFiles(copy.name()), folder.get().words());
      copies.put(copy.name(), new CopyFiles(folder.get(), seen, thorough));
    }
    if (problem.isEmpty()) {
      return PairFolders.of(copies);
    }
    copies.values().forEach(CopyFiles::close);
    return PairFolders.none(any ? problem : "");
  }

  /** What puts files in place. */
  public static FileAccess access(Workplace place) throws Refusal {
    return new FileAccess(
        open(place, false),
        new Aside(place.state().asideFiles(), place.atRest()),
        place.pair().addresses().hosts());
  }

  /** The same for a run without files, which only has to know whether they travel. */
  public static FileAccess unneeded(Workplace place) {
    boolean travel =
        said(place, place.pair().staging().name()).isPresent()
            && said(place, place.pair().live().name()).isPresent();
    return new FileAccess(
        travel ? PairFolders.of(Map.of()) : PairFolders.none(""),
        new Aside(place.state().asideFiles(), place.atRest()),
        place.pair().addresses().hosts());
  }

  /**
   * Takes new names of files.
   *
   * @param known takes them
   * @throws IllegalStateException if they were given already, so that it would go on for ever
   */
  public static void takeNames(Map<String, String> found, Map<String, String> known) {
    if (known.keySet().containsAll(found.keySet())) {
      throw new IllegalStateException("files that need other names than they got: " + found);
    }
    known.putAll(found);
  }

  private static Optional<String> said(Workplace place, String copy) {
    return Optional.ofNullable(place.pair().addresses().copies().get(copy))
        .flatMap(CopyAddress::folder);
  }

  /** The folder of a copy; empty if it is not named, or not in reach. */
  static Optional<Folder> folder(Workplace place, CopySpec copy) throws Refusal {
    Optional<String> said = said(place, copy.name());
    if (said.isEmpty() || copy.origin().isPresent()) {
      return Optional.empty();
    }
    List<String> doors = doors(place.pair().model());
    if (copy instanceof CopySpec.Server server && server.ssh().isPresent()) {
      SftpFolder far = new SftpFolder(server, said.get(), doors);
      try {
        return far.isThere() ? Optional.of(far) : Optional.empty();
      } catch (SshLines.NoSftp e) {
        // Who has a line to the database alone goes on without files, and is told.
        far.close();
        return Optional.empty();
      } catch (IOException e) {
        far.close();
        throw new Refusal(
            Refusal.Kind.UNREACHABLE,
            copy.name()
                + "'s folder "
                + far.words()
                + " can't be looked into: "
                + FailureWords.of(e)
                + ". Nothing was changed.",
            "See to that, or take 'folder' of "
                + copy.name()
                + " out of weftex.yaml to work without files.",
            e);
      }
    }
    Path here = Path.of(said.get());
    return Files.isDirectory(here) ? Optional.of(new LocalFolder(here, doors)) : Optional.empty();
  }

  /** The files of one copy; empty if its folder is not named, or not in reach. */
  public static Optional<CopyFiles> files(Workplace place, CopySpec copy) throws Refusal {
    return folder(place, copy)
        .map(
            folder ->
                new CopyFiles(
                    folder,
                    SeenHashes.open(place.state().seenFiles(copy.name()), folder.words()),
                    false));
  }

  /** Why the files of a copy are not looked at, as a clause. */
  public static String problem(Workplace place, CopySpec copy) {
    if (copy.origin().isPresent()) {
      return copy.name() + " is a file of SQL, beside which no files are";
    }
    return said(place, copy.name())
        .map(
            folder ->
                copy.name()
                    + "'s folder "
                    + folder
                    + (copy instanceof CopySpec.Server server && server.ssh().isPresent()
                        ? " is not there on "
                            + server.ssh().get().words()
                            + ", or SFTP is not allowed to this user there"
                        : " is not there on this machine"))
        .orElse("weftex.yaml names no folder of " + copy.name());
  }

  /** The folders that the model names: whoever installed the site may have made them links. */
  public static List<String> doors(SiteModel model) {
    Set<String> doors = new LinkedHashSet<>(model.texts().linkedFiles());
    model
        .tables()
        .values()
        .forEach(
            table -> table.contents().files().stream().map(FileRule::under).forEach(doors::add));
    doors.remove("");
    return List.copyOf(doors);
  }
}
