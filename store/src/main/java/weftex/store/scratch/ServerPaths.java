package weftex.store.scratch;

import java.nio.file.Path;

/** Where the files of a server are. */
final class ServerPaths {

  private final Path folder;

  ServerPaths(Path folder) {
    this.folder = folder;
  }

  Path log() {
    return folder.resolve("log");
  }

  Path pidFile() {
    return folder.resolve("pid");
  }

  Path data() {
    return folder.resolve("data");
  }
}
