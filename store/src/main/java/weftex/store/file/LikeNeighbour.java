package weftex.store.file;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.LinkOption;
import java.nio.file.NoSuchFileException;
import java.nio.file.NotDirectoryException;
import java.nio.file.Path;
import java.nio.file.attribute.BasicFileAttributes;
import java.nio.file.attribute.PosixFileAttributeView;
import java.nio.file.attribute.PosixFileAttributes;
import java.nio.file.attribute.PosixFilePermission;
import java.util.EnumSet;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Stream;

/** A new file is given the owner and the mode of its neighbours. */
final class LikeNeighbour {

  private LikeNeighbour() {}

  /** Null if it went away. */
  static BasicFileAttributes attributes(Path file) throws IOException {
    try {
      return Files.readAttributes(file, BasicFileAttributes.class, LinkOption.NOFOLLOW_LINKS);
    } catch (NoSuchFileException | NotDirectoryException e) {
      return null;
    }
  }

  static Optional<Path> neighbour(Path file) throws IOException {
    try (Stream<Path> all = Files.list(file.getParent())) {
      return all.filter(other -> !other.getFileName().toString().startsWith(LocalFolder.TEMPORARY))
          .filter(other -> !other.equals(file))
          .filter(other -> Files.isRegularFile(other, LinkOption.NOFOLLOW_LINKS))
          .findFirst();
    }
  }

  /** Gives a file the mode and, as far as that is allowed, the owner of another one. */
  static void takeAfter(Path file, Path other, boolean fromFolder) throws IOException {
    PosixFileAttributeView view =
        Files.getFileAttributeView(file, PosixFileAttributeView.class, LinkOption.NOFOLLOW_LINKS);
    PosixFileAttributeView of = Files.getFileAttributeView(other, PosixFileAttributeView.class);
    if (view == null || of == null) {
      return;
    }
    PosixFileAttributes attributes = of.readAttributes();
    Set<PosixFilePermission> mode = EnumSet.noneOf(PosixFilePermission.class);
    mode.addAll(attributes.permissions());
    if (fromFolder) {
      mode.removeAll(
          Set.of(
              PosixFilePermission.OWNER_EXECUTE,
              PosixFilePermission.GROUP_EXECUTE,
              PosixFilePermission.OTHERS_EXECUTE));
    }
    view.setPermissions(mode);
    PosixFileAttributes own = view.readAttributes();
    if (!own.group().equals(attributes.group()) || !own.owner().equals(attributes.owner())) {
      try {
        view.setGroup(attributes.group());
        view.setOwner(attributes.owner());
      } catch (IOException e) {
        // Only an administrator may give files away; the site can still read it by its mode.
        return;
      }
    }
  }
}
