package weftex.store.state;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Optional;
import java.util.stream.Stream;

/** The folder {@code .weftex} beside weftex.yaml, and where everything in it is. */
public final class StateFolder {
  private final Path folder;

  /**
   * @param beside the folder of weftex.yaml
   */
  public StateFolder(Path beside) {
    this.folder = beside.resolve(".weftex");
  }

  public Path base() {
    return folder.resolve("base");
  }

  public Path receipts() {
    return folder.resolve("receipts");
  }

  public Path changeSets() {
    return folder.resolve("change-sets");
  }

  /** A file that says what failed unexpectedly. */
  public Path failure(String stamp) {
    return folder.resolve("failures").resolve(stamp + ".txt");
  }

  /** A new temporary file, in a folder that exists. */
  public Path temporary(String name) throws IOException {
    Path temporary = folder.resolve("tmp");
    Files0600.createFolder(temporary);
    return temporary.resolve(name + "-" + ProcessHandle.current().pid());
  }

  /** The change set that was drafted last; empty if there is none. */
  public Optional<Path> newestChangeSet() throws IOException {
    if (!Files.isDirectory(changeSets())) {
      return Optional.empty();
    }
    try (Stream<Path> files = Files.list(changeSets())) {
      return files.filter(file -> file.toString().endsWith(".jsonl")).max(Path::compareTo);
    }
  }
}
