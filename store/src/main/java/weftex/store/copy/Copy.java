package weftex.store.copy;

import java.math.BigInteger;
import java.sql.Connection;
import java.sql.PreparedStatement;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.ArrayList;
import java.util.Collection;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeMap;
import java.util.concurrent.CompletableFuture;
import weftex.core.change.SchemaChange;
import weftex.core.row.Table;
import weftex.core.row.ValueKind;
import weftex.store.FailureWords;
import weftex.store.Refusal;

/**
 * A copy that can be reached. Connections are opened for one purpose each and closed by whoever
 * asked.
 */
public final class Copy {
  /** How long a run waits for another one to end. */
  private static final int CLAIM_PATIENCE_SECONDS = 10;

  private static final int KEYS_AT_ONCE = 500;

  private final CopySpec spec;
  private final Dialect dialect;
  private final Catalog catalog;

  private Copy(CopySpec spec, Dialect dialect, Catalog catalog) {
    this.spec = spec;
    this.dialect = dialect;
    this.catalog = catalog;
  }

  /**
   * Connects, and reads what is there.
   *
   * @throws Refusal if the copy can't be reached, telling a wrong host, port, user, password,
   *     database and prefix apart as far as the server does
   */
  public static Copy reach(CopySpec spec) throws Refusal {
    Dialect dialect = Dialect.of(spec);
    if (spec.origin().isPresent()) {
      spec.origin().get().load();
    }
    try (Connection connection = Connecting.open(spec)) {
      Catalog catalog = dialect.catalog(connection, spec);
      if (catalog.tables().isEmpty() && !spec.prefix().isEmpty() && catalog.otherTables() > 0) {
        throw Connecting.wrongPrefix(spec, connection);
      }
      Catalog own = catalog.ofOneSite();
      return new Copy(spec, dialect, own.with(shared(connection, dialect, spec, own)));
    } catch (SQLException e) {
      throw new Refusal(
          Refusal.Kind.UNREACHABLE,
          "The tables of "
              + spec.name()
              + " ("
              + spec.place()
              + ") can't be listed: "
              + FailureWords.of(e)
              + ". Nothing was changed.",
          "Check that it is up and that its user may read it.",
          e);
    }
  }

  /** What a site has in common with others under one roof, which lies under another prefix. */
  private static Map<String, CatalogTable> shared(
      Connection connection, Dialect dialect, CopySpec spec, Catalog own) throws SQLException {
    Map<String, CatalogTable> shared = new HashMap<>();
    boolean lacksSome = spec.shared().stream().anyMatch(name -> own.find(name).isEmpty());
    if (lacksSome && spec.outerPrefix().isPresent()) {
      Catalog outer = dialect.catalog(connection, spec.withPrefix(spec.outerPrefix().get()));
      for (String name : spec.shared()) {
        if (own.find(name).isEmpty()) {
          outer.find(name).ifPresent(table -> shared.put(name, table));
        }
      }
    }
    return shared;
  }

  /** A copy that is being reached while something else is done. */
  public static final class Reaching {
    private final CompletableFuture<Object> copyOrRefusal;

    private Reaching(CopySpec spec) {
      copyOrRefusal =
          CompletableFuture.supplyAsync(
              () -> {
                try {
                  return reach(spec);
                } catch (Refusal e) {
                  return e;
                }
              });
    }

    /**
     * Waits for the copy.
     *
     * @throws Refusal as {@link Copy#reach(CopySpec)}
     */
    public Copy await() throws Refusal {
      if (copyOrRefusal.join() instanceof Refusal refusal) {
        throw refusal;
      }
      return (Copy) copyOrRefusal.join();
    }
  }

  /** Begins to reach a copy. */
  public static Reaching reaching(CopySpec spec) {
    return new Reaching(spec);
  }

  /**
   * Reaches two copies at the same time.
   *
   * @return the copies, in the order of the arguments
   * @throws Refusal as {@link #reach(CopySpec)}; what is said of the first goes before the second
   */
  public static List<Copy> reach(CopySpec first, CopySpec second) throws Refusal {
    Reaching other = reaching(second);
    Copy reached;
    try {
      reached = reach(first);
    } catch (Refusal e) {
      other.copyOrRefusal.join();
      throw e;
    }
    return List.of(reached, other.await());
  }

  public CopySpec spec() {
    return spec;
  }

  public String name() {
    return spec.name();
  }

  public Catalog catalog() {
    return catalog;
  }

  /** The same copy, as it will be when something was added to some tables. */
  Copy grown(Map<String, CatalogTable> tables) {
    return new Copy(spec, dialect, catalog.with(tables));
  }

  /** The same copy, with its tables as they are now. */
  public Copy again() throws Refusal {
    return reach(spec);
  }

  /** Whether this copy's columns hold only what their type says. */
  boolean isStrict() {
    return dialect.isStrict();
  }

  Dialect dialect() {
    return dialect;
  }

  /** Opens one consistent state of some tables. */
  public Snapshot snapshot(List<Layout> layouts) throws Refusal {
    try {
      return new Snapshot(
          Connecting.open(spec), dialect, spec.name(), layouts, this::isPlainUnicode);
    } catch (SQLException e) {
      throw unreachable(e);
    }
  }

  /** Opens one consistent state, for asking the data what tables may mean. */
  public CopyEvidence evidence() throws Refusal {
    try {
      return new CopyEvidence(Connecting.open(spec), dialect, catalog);
    } catch (SQLException e) {
      throw unreachable(e);
    }
  }

  /** Opens what makes new tables and columns. */
  public SchemaWriter schemaWriter() throws Refusal {
    return new SchemaWriter(spec, dialect);
  }

  /**
   * The statements that make a new table or column here.
   *
   * @throws Refusal if an older version drafted it, as statements
   */
  public List<String> making(SchemaChange change) throws Refusal {
    return dialect.schema().making(change, spec.prefix());
  }

  private boolean isPlainUnicode(Layout layout) {
    return catalog.find(layout.table().name()).map(CatalogTable::isPlainUnicode).orElse(false);
  }

  /**
   * Claims the copy for a run that writes to it.
   *
   * @throws Refusal if another run is still at work after a while
   */
  public Claim claim() throws Refusal {
    return Claim.of(this, CLAIM_PATIENCE_SECONDS)
        .orElseThrow(
            () ->
                new Refusal(
                    Refusal.Kind.PROTECTED,
                    "Another apply or undo is at work on "
                        + spec.name()
                        + " ("
                        + spec.place()
                        + "). Nothing was changed.",
                    "Wait until it has ended, and run the command again."));
  }

  /** Claims the copy if no other run is at work on it. */
  public Optional<Claim> claimIfFree() throws Refusal {
    return Claim.of(this, 0);
  }

  Refusal notWritable(SQLException e) {
    return new Refusal(
        Refusal.Kind.PROTECTED,
        spec.name()
            + " ("
            + spec.place()
            + ") can't be written: "
            + FailureWords.of(e)
            + ". Nothing was changed.",
        "See whether the file or server is read-only or locked, and what its user may do.",
        e);
  }

  private Refusal unreachable(SQLException e) {
    return new Refusal(
        Refusal.Kind.UNREACHABLE,
        "The connection to "
            + spec.name()
            + " ("
            + spec.place()
            + ") failed: "
            + FailureWords.of(e)
            + ".",
        "Nothing was changed; check that it is up, and try again.",
        e);
  }

  /** How a key column is ordered where both copies are of this kind. */
  List<KeyPart> keyParts(CatalogTable table, List<Integer> columns) throws Refusal {
    boolean numbers =
        columns.stream().allMatch(i -> table.table().columns().get(i).kind() == ValueKind.WHOLE);
    if (numbers) {
      // Most tables; a connection for each would take most of a small comparison's time.
      return columns.stream().map(i -> KeyPart.NUMBER).toList();
    }
    try (Connection connection = Connecting.open(spec)) {
      List<KeyPart> parts = new java.util.ArrayList<>();
      for (int column : columns) {
        parts.add(dialect.keyPart(connection, table, table.table().columns().get(column)));
      }
      return parts;
    } catch (SQLException e) {
      throw unreachable(e);
    }
  }

  /** Rights that the copy's user lacks for reading, or for writing too. */
  public List<String> missingRights(boolean writing) throws Refusal {
    try (Connection connection = Connecting.open(spec)) {
      return dialect.missingRights(connection, spec, writing);
    } catch (SQLException e) {
      throw unreachable(e);
    }
  }

  /** What was applied and undone on this copy, in its order. */
  public List<Ledger.Entry> ledger() throws Refusal {
    try (Connection connection = Connecting.open(spec)) {
      return new Ledger(connection, dialect, spec.prefix() + Catalog.LEDGER).committed();
    } catch (SQLException e) {
      throw unreachable(e);
    }
  }

  /** Whether this copy has a ledger already. */
  public boolean hasLedger() throws Refusal {
    try (Connection connection = Connecting.open(spec)) {
      return new Ledger(connection, dialect, spec.prefix() + Catalog.LEDGER).exists();
    } catch (SQLException e) {
      throw unreachable(e);
    }
  }

  /** Whether an older version made the ledger, and this copy's user may not alter it. */
  public boolean keepsOlderLedger() throws Refusal {
    try (Connection connection = Connecting.open(spec)) {
      return new Ledger(connection, dialect, spec.prefix() + Catalog.LEDGER).isOlder()
          && dialect.schema().missingRights(connection, spec).contains("ALTER");
    } catch (SQLException e) {
      throw unreachable(e);
    }
  }

  /**
   * Reads one cell as text.
   *
   * @param where values of other columns that tell its row
   * @return empty if there is no such table, column or row, or if it is NULL
   */
  public Optional<String> cell(String table, Map<String, String> where, String column)
      throws Refusal {
    Optional<CatalogTable> found = catalog.find(table);
    List<String> columns = new ArrayList<>(where.keySet());
    if (found.isEmpty()
        || found.get().table().position(column).isEmpty()
        || !columns.stream().allMatch(c -> found.get().table().position(c).isPresent())) {
      return Optional.empty();
    }
    String sql =
        "SELECT "
            + dialect.quote(column)
            + " FROM "
            + dialect.quote(found.get().realName())
            + " WHERE "
            + String.join(" AND ", columns.stream().map(c -> dialect.quote(c) + " = ?").toList());
    try (Connection connection = Connecting.open(spec);
        PreparedStatement statement = connection.prepareStatement(sql)) {
      for (int i = 0; i < columns.size(); i++) {
        statement.setString(i + 1, where.get(columns.get(i)));
      }
      try (ResultSet rows = statement.executeQuery()) {
        return rows.next() ? Optional.ofNullable(rows.getString(1)) : Optional.empty();
      }
    } catch (SQLException e) {
      throw unreachable(e);
    }
  }

  /**
   * Reads one column of the rows that have one of some values in another.
   *
   * @return by that value; none if there is no such table or column
   */
  public Map<String, String> cells(String table, String by, List<String> values, String column)
      throws Refusal {
    Optional<CatalogTable> found = catalog.find(table);
    if (values.isEmpty()
        || found.isEmpty()
        || found.get().table().positionsOrNone(List.of(by, column)).isEmpty()) {
      return Map.of();
    }
    String sql =
        "SELECT "
            + dialect.quote(by)
            + ", "
            + dialect.quote(column)
            + " FROM "
            + dialect.quote(found.get().realName())
            + " WHERE "
            + dialect.quote(by)
            + " IN (?"
            + ", ?".repeat(values.size() - 1)
            + ")";
    try (Connection connection = Connecting.open(spec);
        PreparedStatement statement = connection.prepareStatement(sql)) {
      for (int i = 0; i < values.size(); i++) {
        statement.setString(i + 1, values.get(i));
      }
      Map<String, String> cells = new TreeMap<>();
      try (ResultSet rows = statement.executeQuery()) {
        while (rows.next()) {
          cells.put(rows.getString(1), String.valueOf(rows.getString(2)));
        }
      }
      return cells;
    } catch (SQLException e) {
      throw unreachable(e);
    }
  }

  /** Which of some whole-number keys of a table are there; none if there is no such table. */
  public Set<BigInteger> present(String table, Collection<BigInteger> keys) throws Refusal {
    Optional<CatalogTable> found = catalog.find(table).filter(t -> t.table().key().size() == 1);
    Set<BigInteger> present = new HashSet<>();
    if (found.isEmpty()) {
      return present;
    }
    Table shape = found.get().table();
    String key = dialect.quote(shape.columns().get(shape.key().get(0)).name());
    List<BigInteger> all = List.copyOf(keys);
    try (Connection connection = Connecting.open(spec)) {
      for (int i = 0; i < all.size(); i += KEYS_AT_ONCE) {
        List<BigInteger> some = all.subList(i, Math.min(all.size(), i + KEYS_AT_ONCE));
        String sql =
            "SELECT "
                + key
                + " FROM "
                + dialect.quote(found.get().realName())
                + " WHERE "
                + key
                + " IN ("
                + String.join(", ", some.stream().map(BigInteger::toString).toList())
                + ")";
        try (Statement statement = connection.createStatement();
            ResultSet rows = statement.executeQuery(sql)) {
          while (rows.next()) {
            present.add(new BigInteger(rows.getString(1)));
          }
        }
      }
      return present;
    } catch (SQLException e) {
      throw unreachable(e);
    }
  }

  /** What protects the line to the copy, in words. */
  public String line() throws Refusal {
    try (Connection connection = Connecting.open(spec)) {
      return dialect.line(connection, spec);
    } catch (SQLException e) {
      throw unreachable(e);
    }
  }

  /** About how many rows its tables have, for saying how far something is; -1 if nobody knows. */
  public long roughRows() throws Refusal {
    try (Connection connection = Connecting.open(spec)) {
      return dialect.roughRows(connection, spec).orElse(-1);
    } catch (SQLException e) {
      throw unreachable(e);
    }
  }

  /** Counts the rows of a table. */
  public long count(CatalogTable table) throws Refusal {
    try (Connection connection = Connecting.open(spec);
        Statement statement = connection.createStatement();
        ResultSet rows =
            statement.executeQuery("SELECT COUNT(*) FROM " + dialect.quote(table.realName()))) {
      rows.next();
      return rows.getLong(1);
    } catch (SQLException e) {
      throw unreachable(e);
    }
  }
}
