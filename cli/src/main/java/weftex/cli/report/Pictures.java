package weftex.cli.report;

import java.io.IOException;
import java.io.InputStream;
import java.util.Optional;
import weftex.core.change.RowChange;
import weftex.core.file.FileContent;
import weftex.core.file.FileRows;
import weftex.core.row.Value;
import weftex.store.file.CopyFiles;
import weftex.store.file.PairFolders;

/** Views of the pictures of a change set, as long as the copies still have them. */
public final class Pictures {
  /** A page with more would be too heavy to be mailed. */
  private static final long MOST_BYTES = 1_500_000;

  private static final long LARGEST = 40_000_000;

  private final PairFolders folders;
  private final String from;
  private final String into;
  private long bytes;

  public Pictures(PairFolders folders, String from, String into) {
    this.folders = folders;
    this.from = from;
    this.into = into;
  }

  /** The target's picture before; empty if there is none to be shown. */
  Optional<String> before(RowChange change) {
    Optional<FileContent> content =
        FileRows.content(change.before())
            .or(() -> change.conflicts().stream().flatMap(c -> content(c.target())).findFirst());
    return view(into, change.keyText(), content);
  }

  /** The source's picture; empty if there is none to be shown. */
  Optional<String> after(RowChange change) {
    Optional<FileContent> content =
        FileRows.content(change.after())
            .or(() -> change.conflicts().stream().flatMap(c -> content(c.source())).findFirst());
    Value source = change.drafted().get(FileRows.FROM);
    return view(from, source == null ? change.keyText() : source.display(), content);
  }

  private static java.util.stream.Stream<FileContent> content(java.util.Map<String, Value> side) {
    return FileRows.content(side).stream();
  }

  private Optional<String> view(String copy, String path, Optional<FileContent> content) {
    boolean looks =
        folders.areOpen()
            && content.isPresent()
            && content.get().bytes() <= LARGEST
            && bytes < MOST_BYTES
            && path.matches("(?i).*\\.(jpe?g|png|gif|bmp)");
    if (!looks) {
      return Optional.empty();
    }
    CopyFiles files = folders.of(copy);
    try {
      if (!files.content(path).equals(content)) {
        return Optional.empty();
      }
      try (InputStream in = files.folder().open(path)) {
        Optional<String> view = Thumbnail.of(in);
        view.ifPresent(address -> bytes += address.length());
        return view;
      }
    } catch (IOException e) {
      return Optional.empty();
    }
  }
}
