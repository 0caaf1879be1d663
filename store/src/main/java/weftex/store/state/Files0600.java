package weftex.store.state;

import java.io.IOException;
import java.io.OutputStream;
import java.nio.channels.Channels;
import java.nio.channels.FileChannel;
import java.nio.file.FileSystems;
import java.nio.file.FileVisitResult;
import java.nio.file.Files;
import java.nio.file.LinkOption;
import java.nio.file.NoSuchFileException;
import java.nio.file.OpenOption;
import java.nio.file.Path;
import java.nio.file.SimpleFileVisitor;
import java.nio.file.StandardCopyOption;
import java.nio.file.StandardOpenOption;
import java.nio.file.attribute.BasicFileAttributes;
import java.nio.file.attribute.FileAttribute;
import java.nio.file.attribute.PosixFilePermission;
import java.nio.file.attribute.PosixFilePermissions;
import java.util.ArrayList;
import java.util.Collections;
import java.util.HashSet;
import java.util.List;
import java.util.Set;

/** Files and folders that only their owner can read, from the moment they exist. */
public final class Files0600 {
  private static final boolean POSIX =
      FileSystems.getDefault().supportedFileAttributeViews().contains("posix");

  private Files0600() {}

  /** Creates a folder, and its parents, where they are missing. */
  public static void createFolder(Path folder) throws IOException {
    Files.createDirectories(folder, permissions("rwx------"));
  }

  /** Takes a file that something else made away from everybody but its owner. */
  public static void take(Path file) throws IOException {
    if (POSIX) {
      Files.setPosixFilePermissions(file, PosixFilePermissions.fromString("rw-------"));
    }
  }

  /** Whether others than its owner can read a file, as far as its system knows of such modes. */
  public static boolean isReadByOthers(Path file) {
    try {
      Set<PosixFilePermission> mode = Files.getPosixFilePermissions(file);
      return mode.contains(PosixFilePermission.GROUP_READ)
          || mode.contains(PosixFilePermission.OTHERS_READ);
    } catch (IOException | UnsupportedOperationException e) {
      // It is not there, as whoever reads it will say.
      return false;
    }
  }

  /** How many bytes a file takes, or all files in a folder; 0 if there is none. */
  public static long size(Path path) throws IOException {
    long size = 0;
    for (Path file : in(path)) {
      try {
        size += Files.size(file);
      } catch (NoSuchFileException e) {
        goneMeanwhile(e);
      }
    }
    return size;
  }

  /**
   * The file, or all files in a folder and its folders, in their order; none if nothing is there.
   * What another process takes away meanwhile is passed over.
   */
  public static List<Path> in(Path path) throws IOException {
    List<Path> files = new ArrayList<>();
    Files.walkFileTree(
        path,
        new SimpleFileVisitor<>() {
          @Override
          public FileVisitResult visitFile(Path file, BasicFileAttributes attributes) {
            if (Files.isRegularFile(file)) {
              files.add(file);
            }
            return FileVisitResult.CONTINUE;
          }

          @Override
          public FileVisitResult visitFileFailed(Path file, IOException why) throws IOException {
            return goneMeanwhile(why);
          }

          @Override
          public FileVisitResult postVisitDirectory(Path folder, IOException why)
              throws IOException {
            return why == null ? FileVisitResult.CONTINUE : goneMeanwhile(why);
          }
        });
    Collections.sort(files);
    return files;
  }

  /** Creates or replaces a file and opens it for writing, buffered. */
  public static OutputStream create(Path file) throws IOException {
    return new java.io.BufferedOutputStream(
        Channels.newOutputStream(
            open(
                file,
                StandardOpenOption.CREATE,
                StandardOpenOption.TRUNCATE_EXISTING,
                StandardOpenOption.WRITE)),
        1 << 16);
  }

  /** Writes what a file is to hold. */
  public interface Body {
    void writeTo(OutputStream out) throws IOException;
  }

  /**
   * Creates or replaces a file, which appears under its name only when it is whole.
   *
   * @throws IOException also if something stands in its place that is no file, such as a device: a
   *     renaming would replace it
   */
  public static void whole(Path file, Body body) throws IOException {
    if (Files.exists(file, LinkOption.NOFOLLOW_LINKS)
        && !Files.isRegularFile(file, LinkOption.NOFOLLOW_LINKS)) {
      throw new IOException(
          Files.isDirectory(file) ? file + " is a folder" : file + " is no ordinary file");
    }
    Path partial = file.resolveSibling(file.getFileName() + ".partial");
    try {
      try (OutputStream out = create(partial)) {
        body.writeTo(out);
      }
      Files.move(
          partial, file, StandardCopyOption.ATOMIC_MOVE, StandardCopyOption.REPLACE_EXISTING);
    } finally {
      Files.deleteIfExists(partial);
    }
  }

  /**
   * Opens a file, with the owner's permissions if it is created. A link in its place is not
   * followed, since somebody else may have put it there.
   */
  public static FileChannel open(Path file, OpenOption... options) throws IOException {
    Set<OpenOption> all = new HashSet<>(List.of(options));
    all.add(LinkOption.NOFOLLOW_LINKS);
    try {
      return FileChannel.open(file, all, permissions("rw-------"));
    } catch (IOException e) {
      throw Files.isSymbolicLink(file)
          ? new IOException(file + " is a link, which Weftex does not follow; remove it", e)
          : e;
    }
  }

  private static FileAttribute<?>[] permissions(String mode) {
    return POSIX
        ? new FileAttribute<?>[] {
          PosixFilePermissions.asFileAttribute(PosixFilePermissions.fromString(mode))
        }
        : new FileAttribute<?>[0];
  }

  /**
   * Deletes a file or a folder with all that is in it, if it is there. What another process takes
   * away meanwhile is gone all the same; a link is deleted itself, never what it leads to.
   */
  public static void delete(Path path) throws IOException {
    Files.walkFileTree(
        path,
        new SimpleFileVisitor<>() {
          @Override
          public FileVisitResult visitFile(Path file, BasicFileAttributes attributes)
              throws IOException {
            Files.deleteIfExists(file);
            return FileVisitResult.CONTINUE;
          }

          @Override
          public FileVisitResult visitFileFailed(Path file, IOException why) throws IOException {
            return goneMeanwhile(why);
          }

          @Override
          public FileVisitResult postVisitDirectory(Path folder, IOException why)
              throws IOException {
            if (why != null) {
              return goneMeanwhile(why);
            }
            Files.deleteIfExists(folder);
            return FileVisitResult.CONTINUE;
          }
        });
  }

  private static FileVisitResult goneMeanwhile(IOException why) throws IOException {
    if (why instanceof NoSuchFileException) {
      return FileVisitResult.CONTINUE;
    }
    throw why;
  }

  /** Makes what is in a file survive a loss of power. */
  public static void sync(Path file) throws IOException {
    try (FileChannel channel = FileChannel.open(file, StandardOpenOption.WRITE)) {
      channel.force(true);
    }
  }

  /** Makes the names in a folder, too, survive a loss of power. */
  public static void syncFolder(Path folder) throws IOException {
    if (POSIX) {
      try (FileChannel channel = FileChannel.open(folder, StandardOpenOption.READ)) {
        channel.force(true);
      }
    }
  }
}
