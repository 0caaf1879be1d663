package weftex.store.placing;

import java.io.IOException;
import java.util.List;
import java.util.Set;
import weftex.core.file.NamedFiles;
import weftex.core.file.Sight;
import weftex.core.site.SiteMap;
import weftex.store.Refusal;
import weftex.store.copy.Copy;
import weftex.store.copy.Pairing;
import weftex.store.database.Layout;
import weftex.store.file.Aside;
import weftex.store.file.NamingRows;
import weftex.store.file.PairFolders;
import weftex.store.rows.Snapshot;

/**
 * What a run needs to put files in place.
 *
 * @param folders of both copies
 * @param aside where what is overwritten or removed is kept
 * @param hosts by which the copies are known
 */
public record FileAccess(PairFolders folders, Aside aside, Set<String> hosts) {

  /** Reaches for the folders, once they are needed. */
  public interface Opening {
    FileAccess open() throws Refusal;
  }

  /** Says which rows of a copy name a file now. */
  interface Named {
    List<Sight.Namer> by(String path) throws IOException;
  }

  /** Asks the rows of a copy as they are at that moment. */
  public Named namedBy(Copy target, SiteMap site) {
    NamedFiles names = new NamedFiles(site, hosts);
    return path -> {
      try {
        List<Layout> layouts = Pairing.of(target, target).targetLayouts();
        try (Snapshot rows = target.snapshot(layouts)) {
          return new NamingRows(rows, layouts.stream().map(Layout::table).toList(), site, names)
              .of(path);
        }
      } catch (Refusal e) {
        throw new IOException(e.reason(), e);
      }
    };
  }
}
