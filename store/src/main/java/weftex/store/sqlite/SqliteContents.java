package weftex.store.sqlite;

import java.sql.Connection;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import weftex.store.database.Catalog;
import weftex.store.database.CatalogTable;
import weftex.store.database.CopySpec;
import weftex.store.dump.SavedContents;
import weftex.store.dump.SavedContents.Kind;
import weftex.store.dump.SavedContents.Piece;
import weftex.store.dump.SavedContents.SavedTable;

/** What a file has that a dump of it has to hold: tables, then what is made on them. */
final class SqliteContents {
  private final CopySpec spec;
  private final Catalog catalog;
  private final List<SavedTable> tables = new ArrayList<>();
  private final List<Piece> pieces = new ArrayList<>();
  private final List<Piece> last = new ArrayList<>();

  private SqliteContents(CopySpec spec, Catalog catalog) {
    this.spec = spec;
    this.catalog = catalog;
  }

  static SavedContents of(Connection connection, CopySpec spec) throws SQLException {
    Catalog catalog = new SqliteCatalog(connection, spec.prefix()).read(true).ofOneSite();
    SqliteContents contents = new SqliteContents(spec, catalog);
    try (Statement statement = connection.createStatement();
        ResultSet rows =
            statement.executeQuery(
                "SELECT type, name, tbl_name, sql FROM sqlite_master WHERE sql IS NOT NULL ORDER BY rowid")) {
      while (rows.next()) {
        contents.take(rows.getString(1), rows.getString(2), rows.getString(3), rows.getString(4));
      }
    }
    for (SavedTable table : contents.tables) {
      SqliteSequences.sequence(connection, table.name(), contents.pieces);
    }
    contents.pieces.addAll(contents.last);
    return new SavedContents(contents.tables, contents.pieces, contents.left());
  }

  private void take(String type, String name, String of, String sql) {
    boolean own = of.startsWith(spec.prefix()) && !of.startsWith("sqlite_");
    Optional<CatalogTable> table =
        own ? catalog.find(of.substring(spec.prefix().length())) : Optional.empty();
    if (type.equals("table") && table.isPresent()) {
      tables.add(new SavedTable(table.get(), sql));
    } else if (type.equals("view") && own) {
      String drop = "DROP VIEW IF EXISTS " + SqliteDump.quoted(name);
      last.add(new Piece(Kind.VIEW, name, drop, sql, false));
    } else if (type.equals("index") && table.isPresent()) {
      pieces.add(new Piece(Kind.INDEX, name, "", sql, false));
    } else if (type.equals("trigger") && own) {
      last.add(new Piece(Kind.TRIGGER, name, "", sql, true));
    }
  }

  private List<String> left() {
    List<String> left = new ArrayList<>();
    catalog
        .notHandled()
        .forEach(
            (name, what) -> {
              if (!what.equals("a view")) {
                left.add(spec.prefix() + name + ", " + what);
              }
            });
    return left;
  }
}
