package weftex.cli.config;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.LinkOption;
import java.nio.file.Path;
import java.nio.file.attribute.PosixFileAttributes;
import java.nio.file.attribute.PosixFilePermissions;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import weftex.store.state.Files0600;

/** Where files are that must not be on a disk. */
public final class InMemory {
  private InMemory() {}

  /**
   * A folder that is never written to a disk, and that others can't look into or whose files are
   * ours.
   */
  public static Optional<Path> folder(Map<String, String> environment) throws IOException {
    for (String each :
        List.of(environment.getOrDefault("XDG_RUNTIME_DIR", "/dev/shm"), "/dev/shm")) {
      Path folder = Path.of(each);
      if (Files.isDirectory(folder)
          && Files.isWritable(folder)
          && Files.getFileStore(folder).type().equals("tmpfs")) {
        return Optional.of(folder);
      }
    }
    return Optional.empty();
  }

  /**
   * A folder of this user's own in that one, which is made if it is not there.
   *
   * @throws IOException if somebody else has made one of this name
   */
  static Optional<Path> own(Map<String, String> environment, String name) throws IOException {
    Optional<Path> memory = folder(environment);
    if (memory.isEmpty()) {
      return memory;
    }
    Path own = memory.get().resolve(name);
    Files0600.createFolder(own);
    PosixFileAttributes made =
        Files.readAttributes(own, PosixFileAttributes.class, LinkOption.NOFOLLOW_LINKS);
    Path mine = Files.createTempFile(memory.get(), name, "");
    try {
      boolean isOwn =
          made.isDirectory()
              && made.owner().equals(Files.getOwner(mine))
              && PosixFilePermissions.toString(made.permissions()).equals("rwx------");
      if (!isOwn) {
        throw new IOException(own + " is not this user's own folder");
      }
    } finally {
      Files.delete(mine);
    }
    return Optional.of(own);
  }
}
