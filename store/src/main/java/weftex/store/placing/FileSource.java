package weftex.store.placing;

import java.io.IOException;
import java.io.InputStream;
import java.util.Optional;
import weftex.store.file.Aside;
import weftex.store.file.Folder;

/** Where the content of what comes is. */
public interface FileSource extends AutoCloseable {
  InputStream open(FileStep step) throws IOException;

  /** The same for another thread; empty if there is to be no more. */
  Optional<FileSource> beside();

  /** Whether it is on this machine, so that reading costs little. */
  boolean isNear();

  /** In words, such as the source's name. */
  String whose();

  @Override
  void close();

  /** The files of a copy. */
  static FileSource of(Folder folder, String copy) {
    return new FileSource() {
      @Override
      public InputStream open(FileStep step) throws IOException {
        return folder.open(step.from());
      }

      @Override
      public Optional<FileSource> beside() {
        return folder.beside().map(other -> of(other, copy));
      }

      @Override
      public boolean isNear() {
        return folder.isNear();
      }

      @Override
      public String whose() {
        return copy;
      }

      @Override
      public void close() {
        folder.close();
      }
    };
  }

  /** What was set aside. */
  static FileSource of(Aside aside) {
    return new FileSource() {
      @Override
      public InputStream open(FileStep step) throws IOException {
        return aside.open(step.after().orElseThrow());
      }

      @Override
      public Optional<FileSource> beside() {
        return Optional.of(this);
      }

      @Override
      public boolean isNear() {
        return true;
      }

      @Override
      public String whose() {
        return "what was set aside";
      }

      @Override
      public void close() {
        // Nothing is held open.
      }
    };
  }
}
