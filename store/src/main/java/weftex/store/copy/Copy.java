package weftex.store.copy;

import java.sql.Connection;
import java.sql.SQLException;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.concurrent.CompletableFuture;
import weftex.core.change.SchemaChange;
import weftex.core.row.ValueKind;
import weftex.store.FailureWords;
import weftex.store.Refusal;
import weftex.store.database.Catalog;
import weftex.store.database.CatalogTable;
import weftex.store.database.Connecting;
import weftex.store.database.CopySpec;
import weftex.store.database.Dialect;
import weftex.store.database.KeyPart;
import weftex.store.database.Layout;
import weftex.store.rows.Ledger;
import weftex.store.rows.Snapshot;

/**
 * A copy that can be reached. Connections are opened for one purpose each and closed by whoever
 * asked.
 */
public final class Copy {
  /** How long a run waits for another one to end. */
  private static final int CLAIM_PATIENCE_SECONDS = 10;

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
  public Copy grown(Map<String, CatalogTable> tables) {
    return new Copy(spec, dialect, catalog.with(tables));
  }

  /** The same copy, with its tables as they are now. */
  public Copy again() throws Refusal {
    return reach(spec);
  }

  /** Whether this copy's columns hold only what their type says. */
  public boolean isStrict() {
    return dialect.isStrict();
  }

  public Dialect dialect() {
    return dialect;
  }

  /** Looks up single values. */
  public Lookup lookup() {
    return new Lookup(this);
  }

  /** Asks something over a connection of its own. */
  interface Question<T> {
    T over(Connection connection) throws SQLException, Refusal;
  }

  <T> T ask(Question<T> question) throws Refusal {
    try (Connection connection = Connecting.open(spec)) {
      return question.over(connection);
    } catch (SQLException e) {
      throw unreachable(e);
    }
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

  /** The statement that makes the ledger here, unless it is there. */
  public String makingLedger() {
    return Ledger.making(dialect, spec.prefix() + Catalog.LEDGER);
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
    return ask(
        connection -> {
          List<KeyPart> parts = new ArrayList<>();
          for (int column : columns) {
            parts.add(dialect.keyPart(connection, table, table.table().columns().get(column)));
          }
          return parts;
        });
  }

  /** Rights that the copy's user lacks for reading, or for writing too. */
  public List<String> missingRights(boolean writing) throws Refusal {
    return ask(connection -> dialect.missingRights(connection, spec, writing));
  }

  private Ledger ledger(Connection connection) {
    return new Ledger(connection, dialect, spec.prefix() + Catalog.LEDGER);
  }

  /** What was applied and undone on this copy, in its order. */
  public List<Ledger.Entry> ledger() throws Refusal {
    return ask(connection -> ledger(connection).committed());
  }

  /** Whether this copy has a ledger already. */
  public boolean hasLedger() throws Refusal {
    return ask(connection -> ledger(connection).exists());
  }

  /** Whether an older version made the ledger, and this copy's user may not alter it. */
  public boolean keepsOlderLedger() throws Refusal {
    return ask(
        connection ->
            ledger(connection).isOlder()
                && dialect.schema().missingRights(connection, spec).contains("ALTER"));
  }

  /** What protects the line to the copy, in words. */
  public String line() throws Refusal {
    return ask(connection -> dialect.line(connection, spec));
  }

  /** About how many rows its tables have, for saying how far something is; -1 if nobody knows. */
  public long roughRows() throws Refusal {
    return ask(connection -> dialect.roughRows(connection, spec).orElse(-1));
  }
}
