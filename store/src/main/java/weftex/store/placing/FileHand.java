package weftex.store.placing;

import weftex.store.file.Folder;

/** What one thread works with. */
record FileHand(Folder target, FileSource source) implements AutoCloseable {
  @Override
  public void close() {
    target.close();
    source.close();
  }
}
