package weftex.store.dump;

import java.io.IOException;
import java.util.List;
import weftex.core.row.RowStream;
import weftex.store.database.CatalogTable;
import weftex.store.database.CopySpec;

/** How a copy is written so that it takes the place of another one. */
public interface Refit {

  /** As it is, for its own place. */
  Refit NONE =
      new Refit() {
        @Override
        public CopySpec place(CopySpec of) {
          return of;
        }

        @Override
        public SavedContents contents(SavedContents of) {
          return of;
        }

        @Override
        public String name(String realName) {
          return realName;
        }

        @Override
        public RowStream rows(CatalogTable table, RowStream read) {
          return read;
        }
      };

  /** The copy whose place it takes. */
  CopySpec place(CopySpec of);

  /** What is written, in its order, the statements with their names as they are there. */
  SavedContents contents(SavedContents of);

  /** A table's whole name as it is there. */
  String name(String realName);

  /**
   * The rows of a table as they are there. Their order is not kept.
   *
   * @param read is closed with what is given back
   */
  RowStream rows(CatalogTable table, RowStream read) throws IOException;

  /** What is said of tables of which nothing is written. */
  default List<String> said() {
    return List.of();
  }
}
