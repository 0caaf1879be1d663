package weftex.store.mariadb;

import java.math.BigInteger;
import java.sql.Connection;
import java.sql.PreparedStatement;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalLong;
import java.util.regex.Pattern;
import weftex.core.row.Column;
import weftex.core.row.Value;
import weftex.core.row.ValueKind;
import weftex.store.Refusal;
import weftex.store.database.Catalog;
import weftex.store.database.CatalogTable;
import weftex.store.database.CopySpec;
import weftex.store.database.Dialect;
import weftex.store.database.KeyPart;
import weftex.store.database.Layout;
import weftex.store.database.SchemaWords;
import weftex.store.database.Tls;
import weftex.store.rows.RowDigest;

/** MariaDB, and MySQL where it does the same. */
public final class MariaDbDialect implements Dialect {
  /**
   * Zero and impossible dates are allowed on purpose: rows that live has must be writable as they
   * are.
   */
  private static final String SESSION =
      "SET SESSION time_zone = '+00:00', sql_mode ="
          + " 'STRICT_ALL_TABLES,NO_AUTO_VALUE_ON_ZERO,ALLOW_INVALID_DATES,NO_ENGINE_SUBSTITUTION',"
          + " max_sort_length = 65536, foreign_key_checks = 1, unique_checks = 1,"
          + " net_write_timeout = 600";

  private static final int DUPLICATE_ENTRY = 1062;
  private static final int NO_SUCH_FUNCTION = 1305;
  private static final int NO_SUCH_PARAMETER = 1582;
  private static final int NO_SUCH_BATCH = 1295;
  private static final int CLAIM_SECONDS = 24 * 60 * 60;
  private static final Pattern LONG = Pattern.compile("text|blob|json");
  private final Map<String, KeyPart> keyParts = new HashMap<>();

  private final KeyParts padding = new KeyParts();

  static void prepareSession(Connection connection) throws SQLException {
    try (Statement statement = connection.createStatement()) {
      statement.execute(SESSION);
    }
  }

  @Override
  public boolean isFor(CopySpec spec) {
    return spec instanceof CopySpec.Server;
  }

  @Override
  public Connection open(CopySpec spec) throws Refusal {
    return ServerLogin.open((CopySpec.Server) spec);
  }

  @Override
  public String line(Connection connection, CopySpec spec) throws SQLException {
    CopySpec.Server server = (CopySpec.Server) spec;
    if (server.ssh().isPresent()) {
      return "over SSH to " + server.ssh().get().words() + ", host key known";
    }
    try (Statement statement = connection.createStatement();
        ResultSet rows = statement.executeQuery("SHOW SESSION STATUS LIKE 'Ssl_version'")) {
      String version = rows.next() ? rows.getString(2) : "";
      return switch (server.tls().verify()) {
        case OFF ->
            Tls.byDefault(server.host()) == Tls.OFF
                ? (server.isSocket()
                    ? "a socket on this machine"
                    : "not encrypted, on this machine")
                : "not encrypted";
        case NONE -> version + ", certificate not verified";
        case FULL -> version + ", certificate and host verified";
        case PINNED -> version + ", certificate pinned";
      };
    }
  }

  @Override
  public OptionalLong roughRows(Connection connection, CopySpec spec) throws SQLException {
    try (PreparedStatement query =
        connection.prepareStatement(
            "SELECT SUM(TABLE_ROWS) FROM information_schema.TABLES WHERE TABLE_SCHEMA = DATABASE() AND"
                + " LEFT(TABLE_NAME, CHAR_LENGTH(?)) = ?")) {
      query.setString(1, spec.prefix());
      query.setString(2, spec.prefix());
      try (ResultSet rows = query.executeQuery()) {
        return rows.next() ? OptionalLong.of(rows.getLong(1)) : OptionalLong.empty();
      }
    }
  }

  @Override
  public boolean isStrict() {
    return true;
  }

  @Override
  public SchemaWords schema() {
    return new MariaDbSchema();
  }

  @Override
  public Catalog catalog(Connection connection, CopySpec spec) throws SQLException {
    return new MariaDbCatalog(connection, (CopySpec.Server) spec).read();
  }

  @Override
  public void beginSnapshot(Connection connection) throws SQLException {
    try (Statement statement = connection.createStatement()) {
      statement.execute("SET SESSION TRANSACTION ISOLATION LEVEL REPEATABLE READ");
      statement.execute("START TRANSACTION WITH CONSISTENT SNAPSHOT, READ ONLY");
    }
  }

  /** A lock by name, which the server lets go when the connection ends. */
  @Override
  public Optional<AutoCloseable> claim(Connection connection, CopySpec spec, int seconds)
      throws SQLException {
    try (Statement statement = connection.createStatement()) {
      // A run that waits for a person's disk or for other locks must not lose it by being quiet.
      statement.execute("SET SESSION wait_timeout = " + CLAIM_SECONDS);
    }
    String name = "weftex " + connection.getCatalog() + " " + spec.prefix();
    String held = "CONCAT('weftex:', LEFT(SHA2(?, 256), 48))";
    try (PreparedStatement statement =
        connection.prepareStatement("SELECT GET_LOCK(" + held + ", ?)")) {
      statement.setString(1, name);
      statement.setInt(2, seconds);
      try (ResultSet rows = statement.executeQuery()) {
        return rows.next() && rows.getInt(1) == 1 ? Optional.of(() -> {}) : Optional.empty();
      }
    }
  }

  @Override
  public void beginWriting(Connection connection) throws SQLException {
    try (Statement statement = connection.createStatement()) {
      // Repeatable read locks the gaps too, so that a number found free stays free until the end.
      statement.execute("SET SESSION TRANSACTION ISOLATION LEVEL REPEATABLE READ");
      statement.execute("START TRANSACTION READ WRITE");
    }
  }

  @Override
  public String readExpression(Column column) {
    return MariaDbValues.readExpression(column, quote(column.name()));
  }

  @Override
  public String keyExpression(Column column, KeyPart part) {
    String name = quote(column.name());
    if (part.style() == KeyPart.Style.BYTES) {
      return column.kind() == ValueKind.TEXT && !MariaDbValues.isWrittenOut(column)
          ? "CAST(CONVERT(" + name + " USING utf8mb4) AS BINARY)"
          : "CAST(" + name + " AS BINARY)";
    }
    int space = part.detail().lastIndexOf(' ');
    if (space < 0) {
      return "WEIGHT_STRING(" + name + ")";
    }
    // Padding with spaces up to a common length makes weights equal exactly when a padded
    // comparison does.
    return "WEIGHT_STRING(" + name + " AS CHAR(" + part.detail().substring(space + 1) + "))";
  }

  @Override
  public Optional<String> rangeDigests(Layout layout, long width) {
    String key = quote(layout.table().columns().get(layout.table().key().get(0)).name());
    return Optional.of(
        "SELECT "
            + key
            + " DIV "
            + width
            + ", COUNT(*), BIT_XOR("
            + RowDigest.expression(layout.table(), this)
            + ") FROM "
            + quote(layout.realName())
            + " GROUP BY 1 ORDER BY 1");
  }

  /** MariaDB 10.2 deletes by none of the arrays that later servers take. */
  @Override
  public boolean isBatchRefused(SQLException failure) {
    return failure.getErrorCode() == NO_SUCH_BATCH;
  }

  @Override
  public boolean isMissingFunction(SQLException failure) {
    // MySQL, and MariaDB before 10.8, have a CRC32 that takes no beginning.
    return failure.getErrorCode() == NO_SUCH_FUNCTION
        || failure.getErrorCode() == NO_SUCH_PARAMETER;
  }

  @Override
  public Optional<String> sha256Expression(Column column, boolean utf8) {
    if (!LONG.matcher(column.type()).find()) {
      return Optional.empty();
    }
    String value = readExpression(column);
    String bytes =
        column.kind() == ValueKind.TEXT && !utf8 ? "CONVERT(" + value + " USING utf8mb4)" : value;
    return Optional.of("CONCAT(SHA2(" + bytes + ", 256), ' ', LENGTH(" + bytes + "))");
  }

  @Override
  public CellReader cellReader(Column column) {
    return MariaDbValues.cellReader(column);
  }

  @Override
  public void bind(PreparedStatement statement, int index, Column column, Value value)
      throws SQLException {
    MariaDbValues.bind(statement, index, column, value);
  }

  @Override
  public String lockClause() {
    return " FOR UPDATE";
  }

  @Override
  public String deleteOne(String table, String condition) {
    return "DELETE FROM " + quote(table) + " WHERE " + condition + " LIMIT 1";
  }

  @Override
  public String nullSafeEquals() {
    return "<=>";
  }

  @Override
  public BigInteger nextNumber(Connection connection, String realTable, String column)
      throws SQLException {
    BigInteger next = BigInteger.ONE;
    try (PreparedStatement statement =
        connection.prepareStatement(
            "SELECT AUTO_INCREMENT FROM information_schema.TABLES WHERE TABLE_SCHEMA = DATABASE()"
                + " AND TABLE_NAME = ?")) {
      statement.setString(1, realTable);
      try (ResultSet rows = statement.executeQuery()) {
        if (rows.next() && rows.getString(1) != null) {
          next = next.max(new BigInteger(rows.getString(1)));
        }
      }
    }
    // The lock on the last row covers the gap behind it, so nobody else can add a row there.
    String last =
        "SELECT "
            + quote(column)
            + " FROM "
            + quote(realTable)
            + " ORDER BY "
            + quote(column)
            + " DESC LIMIT 1 FOR UPDATE";
    try (Statement statement = connection.createStatement();
        ResultSet rows = statement.executeQuery(last)) {
      return rows.next() ? next.max(new BigInteger(rows.getString(1)).add(BigInteger.ONE)) : next;
    }
  }

  @Override
  public boolean isDuplicate(SQLException failure) {
    return failure.getErrorCode() == DUPLICATE_ENTRY;
  }

  @Override
  public KeyPart keyPart(Connection connection, CatalogTable table, Column column)
      throws SQLException {
    if (column.kind() == ValueKind.WHOLE) {
      return KeyPart.NUMBER;
    }
    String collation = table.collations().getOrDefault(column.name(), "");
    if (column.kind() != ValueKind.TEXT || collation.isEmpty()) {
      return KeyPart.BYTES;
    }
    String id = collation + " " + column.type();
    KeyPart known = keyParts.get(id);
    if (known == null) {
      known =
          new KeyPart(
              KeyPart.Style.SERVER,
              padding.isPadded(connection, collation)
                  ? collation + " " + KeyParts.length(column)
                  : collation);
      keyParts.put(id, known);
    }
    return known;
  }

  @Override
  public List<String> missingRights(Connection connection, CopySpec spec, boolean writing)
      throws SQLException {
    return MariaDbRights.missing(
        connection,
        (CopySpec.Server) spec,
        writing ? MariaDbRights.WRITING : MariaDbRights.READING);
  }
}
