package weftex.store.dump;

import com.fasterxml.jackson.databind.ObjectMapper;
import java.io.IOException;
import java.io.OutputStream;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.security.DigestOutputStream;
import java.security.MessageDigest;
import java.security.NoSuchAlgorithmException;
import java.sql.Connection;
import java.sql.PreparedStatement;
import java.sql.SQLException;
import java.util.ArrayList;
import java.util.HexFormat;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.function.LongConsumer;
import java.util.stream.Stream;
import weftex.core.row.Column;
import weftex.core.row.Row;
import weftex.core.row.RowPacking;
import weftex.core.row.RowStream;
import weftex.core.row.Table;
import weftex.store.FailureWords;
import weftex.store.Refusal;
import weftex.store.database.CatalogTable;
import weftex.store.database.Connecting;
import weftex.store.database.CopySpec;
import weftex.store.database.Dialect;
import weftex.store.database.Layout;
import weftex.store.rows.PrefetchedRows;
import weftex.store.seal.AtRest;
import weftex.store.sqltext.SqlOut;
import weftex.store.state.Files0600;

/**
 * Writes one consistent state of a copy as plain SQL, which any client of the database loads. Rows
 * are streamed. The format is described in docs/sql-files.md.
 */
public final class CopySaver {
  static final int FORMAT = 1;
  static final String TITLE = "-- A copy of a site, written by Weftex. ";
  static final String SHA256 = "sha256";

  /** What the name of an encrypted file ends with. */
  static final String SEALED = ".age";

  static final String COMPLETE = "-- complete\n";
  static final ObjectMapper JSON = new ObjectMapper();

  /** A statement ends at the row with which it becomes longer. */
  private static final int STATEMENT_BYTES = 1 << 19;

  private static final byte[] COMMA = {','};
  private static final int FETCH_SIZE = 256;

  private final CopySpec spec;
  private final Refit refit;
  private final DumpDialect words;
  private final Dialect dialect;
  private final Map<String, Long> rows = new LinkedHashMap<>();
  private final LongConsumer progress;
  private final SqlOut text = new SqlOut();
  private DigestOutputStream out;
  private long done;

  /**
   * What was saved.
   *
   * @param rows how many, by table
   * @param left what was not, in words
   * @param bytes how large the file is
   */
  public record Saved(Map<String, Long> rows, List<String> left, long bytes) {}

  /**
   * What the file says of itself.
   *
   * @param site the name of the site in weftex.yaml
   * @param taken when, as an ISO 8601 instant
   * @param tool the program and its version
   */
  public record About(String site, String taken, String tool) {}

  /**
   * Where it is saved.
   *
   * @param file its name tells how it is compressed, {@code .zst}, {@code .gz} or neither, and
   *     whether it is encrypted: {@code .age} behind that. It appears when it is whole
   * @param atRest how it is encrypted
   */
  public record Place(Path file, AtRest atRest) {}

  private CopySaver(CopySpec spec, Refit refit, LongConsumer progress) {
    this.spec = spec;
    this.refit = refit;
    this.words = DumpDialect.of(spec);
    this.dialect = Dialect.of(spec);
    this.progress = progress;
  }

  /**
   * Saves.
   *
   * @param spec where the copy is; with an empty prefix the whole database is saved
   * @param place where to
   * @param progress is told how many rows are written
   * @throws Refusal if the copy can't be reached
   */
  public static Saved save(CopySpec spec, Place place, About about, LongConsumer progress)
      throws Refusal, IOException {
    return save(spec, Refit.NONE, place, about, progress);
  }

  /**
   * Saves it as it takes another copy's place.
   *
   * @see #save(CopySpec, Place, About, LongConsumer)
   */
  public static Saved save(
      CopySpec spec, Refit refit, Place place, About about, LongConsumer progress)
      throws Refusal, IOException {
    CopySaver saver = new CopySaver(spec, refit, progress);
    List<List<String>> left = new ArrayList<>();
    String name = place.file().getFileName().toString();
    boolean sealed = name.endsWith(SEALED);
    if (sealed && !place.atRest().isSealing()) {
      throw new Refusal(
          Refusal.Kind.WRONG_INPUT,
          place.file() + " would not be encrypted, as its name says. Nothing was written.",
          "Leave '" + SEALED + "' out of its name; what is 'sealed' in weftex.yaml is saved so.");
    }
    Files0600.whole(
        place.file(),
        raw -> {
          String packing = sealed ? name.substring(0, name.length() - SEALED.length()) : name;
          try (OutputStream out = sealed ? place.atRest().sealing(raw) : raw;
              OutputStream packed = PackedFile.pack(out, packing)) {
            left.add(saver.write(packed, about));
            packed.flush();
          }
        });
    return new Saved(saver.rows, left.get(0), Files.size(place.file()));
  }

  private List<String> write(OutputStream to, About about) throws IOException {
    try (Connection connection = Connecting.open(spec)) {
      dialect.beginSnapshot(connection);
      SavedContents contents = refit.contents(words.contents(connection, spec));
      out = new DigestOutputStream(to, sha256());
      header(about, contents, connection);
      words.first().forEach(this::statement);
      for (SavedContents.Piece piece : contents.others()) {
        if (!piece.drop().isEmpty()) {
          statement(piece.drop());
        }
      }
      for (SavedContents.SavedTable table : contents.tables()) {
        String name = refit.name(table.name());
        statement("DROP TABLE IF EXISTS " + dialect.quote(name));
        statement(table.create());
        rows.put(name, rows(connection, table.table(), name));
      }
      for (SavedContents.Piece piece : contents.others()) {
        piece(piece);
      }
      words.last().forEach(this::statement);
      flush();
      trailer(to);
      return Stream.concat(contents.left().stream(), refit.said().stream()).toList();
    } catch (SQLException e) {
      throw new IOException("reading " + spec.name() + " failed: " + FailureWords.of(e), e);
    } catch (Refusal e) {
      throw new IOException(e.reason(), e);
    }
  }

  private void header(About about, SavedContents contents, Connection connection)
      throws IOException, SQLException {
    text.put(TITLE)
        .put("It replaces tables of the same names.\n-- Load it with: ")
        .put(words.client(spec))
        .put("\n-- The last line must be '-- complete'.\n");
    member("format", FORMAT);
    member("site", about.site());
    CopySpec target = refit.place(spec);
    member("copy", target.name());
    member("place", spec.place());
    member("prefix", target.prefix());
    member("taken", about.taken());
    member("server", dialect.catalog(connection, spec).server());
    member("tool", about.tool());
    member(
        "tables",
        contents.tables().stream().map(SavedContents.SavedTable::name).map(refit::name).toList());
    text.put('\n');
  }

  private void member(String name, Object value) throws IOException {
    text.put("-- ").put(name).put(": ").put(JSON.writeValueAsString(value)).put('\n');
  }

  private void trailer(OutputStream to) throws IOException {
    text.put('\n');
    member("rows", rows);
    flush();
    String hash = HexFormat.of().formatHex(out.getMessageDigest().digest());
    to.write(("-- " + SHA256 + ": \"" + hash + "\"\n" + COMPLETE).getBytes(StandardCharsets.UTF_8));
  }

  private void statement(String sql) {
    text.put(sql).put(";\n");
  }

  private void piece(SavedContents.Piece piece) throws IOException {
    boolean apart = piece.delimited() && words.hasDelimiters();
    text.put(apart ? "DELIMITER ;;\n" : "").put(piece.create());
    text.put(apart ? ";;\nDELIMITER ;\n" : ";\n");
    flush();
  }

  private long rows(Connection connection, CatalogTable table, String name)
      throws SQLException, IOException {
    Table shape = table.table();
    if (shape.columns().isEmpty()) {
      return 0;
    }
    Layout layout = Layout.alone(table);
    byte[] insert =
        ("INSERT INTO "
                + dialect.quote(name)
                + " ("
                + String.join(
                    ", ", shape.columns().stream().map(Column::name).map(dialect::quote).toList())
                + ") VALUES")
            .getBytes(StandardCharsets.UTF_8);
    String order = shape.hasKey() ? layout.orderBy(dialect) : "";
    long count = 0;
    try (RowStream read = refit.rows(table, dialectRows(connection, layout, order))) {
      for (Row row = read.next(); row.isPresent(); row = read.next()) {
        boolean begins = count == 0;
        if (text.size() > STATEMENT_BYTES && count > 0) {
          text.put(";\n");
          flush();
          begins = true;
        }
        text.put(begins ? insert : COMMA).put("\n(");
        values(shape, row.cursor());
        text.put(')');
        count++;
        if ((++done & 0x3FF) == 0) {
          progress.accept(done);
        }
      }
    }
    text.put(count > 0 ? ";\n" : "");
    flush();
    return count;
  }

  private RowStream dialectRows(Connection connection, Layout layout, String order)
      throws SQLException {
    PreparedStatement query = connection.prepareStatement(layout.select(dialect) + order);
    query.setFetchSize(FETCH_SIZE);
    return PrefetchedRows.of(query, layout, dialect, spec.name());
  }

  private void values(Table shape, RowPacking.Cursor cursor) {
    for (int i = 0; i < shape.columns().size(); i++) {
      text.put(i == 0 ? "" : ", ");
      words.literal(text, shape.columns().get(i), cursor.next());
    }
  }

  private void flush() throws IOException {
    text.writeTo(out);
  }

  static MessageDigest sha256() {
    try {
      return MessageDigest.getInstance("SHA-256");
    } catch (NoSuchAlgorithmException e) {
      throw new IllegalStateException(e);
    }
  }
}
