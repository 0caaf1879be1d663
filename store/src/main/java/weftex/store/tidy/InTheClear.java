package weftex.store.tidy;

import java.io.IOException;
import java.io.InputStream;
import java.io.OutputStream;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import weftex.store.dump.RestorePoints;
import weftex.store.receipt.Receipts;
import weftex.store.seal.AtRest;
import weftex.store.state.Files0600;
import weftex.store.state.StateFolder;

/**
 * Files of a sealed state folder that are in the clear, since they were written before somebody
 * said that it is to be sealed.
 */
public final class InTheClear {
  /** The folders of what is written once, and single files of that kind. */
  private static final List<String> WRITTEN_ONCE =
      List.of("base", "bases", "files/aside", "masking-secret");

  /** Of a base: it says what the base is, and has no content. */
  private static final List<String> NO_CONTENT = List.of("manifest.json", "place.json");

  private final StateFolder state;
  private final AtRest atRest;
  private final Receipts receipts;
  private final RestorePoints points;

  public InTheClear(StateFolder state, AtRest atRest, Receipts receipts, RestorePoints points) {
    this.state = state;
    this.atRest = atRest;
    this.receipts = receipts;
    this.points = points;
  }

  /**
   * What can be encrypted as it is, and drafts, whose approvals would not hold any more.
   *
   * @param files what is encrypted
   * @param drafts what can only be drafted again
   */
  public record Found(List<Path> files, List<Path> drafts) {
    public boolean isEmpty() {
      return files.isEmpty() && drafts.isEmpty();
    }
  }

  /** All of it; nothing where the folder is not to be sealed. */
  public Found all() throws IOException {
    List<Path> files = new ArrayList<>();
    if (!atRest.isSealing()) {
      return new Found(files, files);
    }
    files.addAll(writtenOnce());
    files.addAll(clear(receipts.files()));
    files.addAll(clear(points.all().stream().map(RestorePoints.Point::file).toList()));
    return new Found(files, clear(state.drafts()));
  }

  private List<Path> writtenOnce() throws IOException {
    List<Path> files = new ArrayList<>();
    for (String name : WRITTEN_ONCE) {
      files.addAll(
          clear(
              Files0600.in(state.folder().resolve(name)).stream()
                  .filter(file -> !NO_CONTENT.contains(file.getFileName().toString()))
                  .toList()));
    }
    return files;
  }

  private static List<Path> clear(List<Path> files) throws IOException {
    List<Path> clear = new ArrayList<>();
    for (Path file : files) {
      if (!AtRest.isSealed(file)) {
        clear.add(file);
      }
    }
    return clear;
  }

  /** Encrypts it, file by file; what was there before is gone only when the other one is whole. */
  public void seal(Found found) throws IOException {
    for (Path file : found.files()) {
      Optional<Path> receipt = receipts.wanted(file).filter(other -> isReceipt(file));
      Path sealed = receipt.or(() -> points.sealed(file)).orElse(file);
      Rewriting.replace(
          file,
          sealed,
          raw -> {
            if (receipt.isPresent()) {
              receipts.rewrite(file, raw);
              return;
            }
            try (InputStream in = Files.newInputStream(file);
                OutputStream out = atRest.sealing(raw)) {
              in.transferTo(out);
            }
          });
    }
  }

  private boolean isReceipt(Path file) {
    return file.startsWith(state.receipts());
  }
}
