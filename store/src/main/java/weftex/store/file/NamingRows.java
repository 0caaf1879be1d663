package weftex.store.file;

import java.io.IOException;
import java.util.ArrayList;
import java.util.List;
import weftex.core.file.NamedFiles;
import weftex.core.file.Sight.Namer;
import weftex.core.row.Row;
import weftex.core.row.Table;
import weftex.core.row.Value;
import weftex.core.row.ValueKind;
import weftex.core.site.SiteMap;
import weftex.core.site.TableModel;
import weftex.store.rows.Snapshot;

/**
 * The rows of a copy that name files.
 *
 * @param tables those in which rows may name some
 */
public record NamingRows(Snapshot rows, List<Table> tables, SiteMap site, NamedFiles names) {
  /** More rows that may name a file are not looked at one by one. */
  private static final int LOOKED_AT = 200;

  /** A name of more rows than are looked at. */
  private static final Namer MANY = new Namer("", "");

  /** Those that name a file; if there are very many, one that is none of them. */
  public List<Namer> of(String path) throws IOException {
    List<Namer> namers = new ArrayList<>();
    for (Table table : tables) {
      List<Row> found = rows.mentioning(table, texts(table), lastName(path), LOOKED_AT);
      if (found.size() == LOOKED_AT) {
        namers.add(MANY);
      }
      TableModel model = site.table(table.name());
      for (Row row : found) {
        if (names.in(model, row.values()).contains(path)) {
          String key =
              String.join(
                  "\t",
                  Table.pick(row.values(), table.key()).stream().map(Value::display).toList());
          namers.add(new Namer(table.name(), key));
        }
      }
    }
    return namers;
  }

  /** Positions of the columns that may hold a name. */
  private static List<Integer> texts(Table table) {
    List<Integer> texts = new ArrayList<>();
    for (int i = 0; i < table.columns().size(); i++) {
      ValueKind kind = table.columns().get(i).kind();
      if (kind == ValueKind.TEXT || kind == ValueKind.ANY) {
        texts.add(i);
      }
    }
    return texts;
  }

  private static String lastName(String path) {
    return path.substring(path.lastIndexOf('/') + 1);
  }
}
