package weftex.store.file;

import java.io.IOException;
import java.nio.file.Path;
import java.util.LinkedHashMap;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeSet;
import weftex.core.compare.Side;
import weftex.core.file.NamedFiles;
import weftex.core.row.Row;
import weftex.core.row.RowStream;
import weftex.core.site.SiteMap;
import weftex.core.site.TableModel;
import weftex.store.seal.AtRest;

/** Records the files that the rows of a base name, while those are recorded. */
public final class FileRecorder {
  private final SiteMap site;
  private final NamedFiles names;
  private final String recorded;
  private final Map<String, CopyFiles> copies = new LinkedHashMap<>();
  private final boolean thorough;
  private final Set<String> paths = new TreeSet<>();
  private Optional<FileRecord.Recorded> summary = Optional.empty();

  /**
   * @param recorded the copy whose rows are recorded
   * @param thorough whether files of one size and time are read on both copies
   */
  public FileRecorder(
      SiteMap site,
      NamedFiles names,
      PairFolders folders,
      String recorded,
      String other,
      boolean thorough) {
    this.site = site;
    this.names = names;
    this.recorded = recorded;
    this.thorough = thorough;
    copies.put(recorded, folders.of(recorded));
    copies.put(other, folders.of(other));
  }

  /** The same rows, of which the names are noted on their way. */
  public Side noting(Side rows) {
    return table -> {
      RowStream stream = rows.open(table);
      TableModel model = site.table(table.name());
      return new RowStream() {
        @Override
        public Row next() throws IOException {
          Row row = stream.next();
          if (row.isPresent() && names.mayName(model, row)) {
            paths.addAll(names.in(model, row.values()));
          }
          return row;
        }

        @Override
        public void close() throws IOException {
          stream.close();
        }
      };
    };
  }

  /** Writes what the files are into the folder of a base. */
  public void write(Path folder, AtRest atRest) throws IOException {
    FileRecord record = FileRecord.record(paths, copies, thorough);
    record.write(folder, atRest);
    summary = Optional.of(record.summary(recorded));
  }

  /** What was recorded; empty before that. */
  public Optional<FileRecord.Recorded> summary() {
    return summary;
  }
}
