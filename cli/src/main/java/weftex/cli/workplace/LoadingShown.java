package weftex.cli.workplace;

import java.nio.file.Path;
import weftex.cli.page.Progress;
import weftex.store.dump.LoadingWatcher;

/** Shows how far the loading of a file is, and that another process is at it. */
final class LoadingShown implements LoadingWatcher {
  private final Workplace place;

  LoadingShown(Workplace place) {
    this.place = place;
  }

  @Override
  public LoadingWatcher.Watch loading(Path file, long bytes) {
    Progress progress = Progress.ofBytes(place.session(), "loading " + place.shown(file), bytes);
    return new LoadingWatcher.Watch() {
      @Override
      public void accept(long read) {
        progress.accept(read);
      }

      @Override
      public void close() {
        progress.close();
      }
    };
  }

  @Override
  public void waiting(Path file) {
    place.say(
        "Another process is loading a file here, so "
            + place.shown(file)
            + " waits until that has ended.");
  }
}
