package weftex.store.file;

import java.io.IOException;
import java.io.InputStream;
import java.io.OutputStream;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.HexFormat;
import java.util.List;
import weftex.core.file.FileContent;
import weftex.store.seal.AtRest;
import weftex.store.state.Files0600;

/**
 * What files held that were overwritten or removed, on this machine: each content once, under its
 * own hash, so that an undo can give it back.
 */
public final class Aside {
  private final Path folder;
  private final AtRest atRest;

  /**
   * @param atRest how contents are kept
   */
  public Aside(Path folder, AtRest atRest) {
    this.folder = folder;
    this.atRest = atRest;
  }

  private Path place(String sha256) {
    return folder.resolve(sha256.substring(0, 2)).resolve(sha256);
  }

  /** Whether a content is kept. */
  public boolean has(FileContent content) {
    return Files.isRegularFile(place(content.sha256()));
  }

  /**
   * Keeps a content; it is on the disk when this returns.
   *
   * @throws IOException also if it is not what it is said to be
   */
  public void keep(InputStream in, FileContent content) throws IOException {
    if (has(content)) {
      return;
    }
    Path file = place(content.sha256());
    Files0600.createFolder(file.getParent());
    String[] found = new String[1];
    Path checked = file.resolveSibling(file.getFileName() + ".new");
    Files0600.whole(
        checked,
        raw -> {
          try (OutputStream out = atRest.sealing(raw)) {
            found[0] = HexFormat.of().formatHex(Contents.sha256(in, out));
          }
        });
    if (!found[0].equals(content.sha256())) {
      Files.delete(checked);
      throw new IOException("it changed while it was read");
    }
    Files0600.sync(checked);
    Files.move(checked, file, java.nio.file.StandardCopyOption.ATOMIC_MOVE);
    Files0600.syncFolder(file.getParent());
  }

  /** The files of all contents that are kept. */
  public List<Path> all() throws IOException {
    return Files0600.in(folder);
  }

  /** Reads a content that is kept. */
  public InputStream open(FileContent content) throws IOException {
    return atRest.open(place(content.sha256()));
  }
}
