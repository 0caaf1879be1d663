package weftex.store.refit;

import java.io.IOException;
import java.math.BigInteger;
import java.util.ArrayList;
import java.util.Collections;
import java.util.Comparator;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.function.UnaryOperator;
import weftex.core.address.AddressBook;
import weftex.core.address.MappedRows;
import weftex.core.mask.Masking;
import weftex.core.model.Role;
import weftex.core.model.SiteModel;
import weftex.core.row.Row;
import weftex.core.row.RowStream;
import weftex.core.row.Table;
import weftex.core.row.Value;
import weftex.core.site.Condition;
import weftex.core.site.SiteMap;
import weftex.core.site.TableModel;
import weftex.store.Refusal;
import weftex.store.copy.Copy;
import weftex.store.database.Catalog;
import weftex.store.database.CatalogTable;
import weftex.store.database.CopySpec;
import weftex.store.database.KeyPart;
import weftex.store.database.Layout;
import weftex.store.dump.DumpDialect;
import weftex.store.dump.Refit;
import weftex.store.dump.SavedContents;
import weftex.store.dump.SavedContents.Piece;
import weftex.store.dump.SavedContents.SavedTable;
import weftex.store.rows.Snapshot;

/**
 * Writes one copy with the names and addresses of the other one. Where the other one's present
 * state is at hand, it keeps what is its own: its settings, the secrets of people who are on both,
 * and the accounts that it alone has.
 */
public final class Refitting implements Refit, AutoCloseable {
  private final Copy from;
  private final CopySpec target;
  private final SiteModel model;
  private final SiteMap site;
  private final MappedRows mapping;
  private final List<String> tables;
  private final Optional<Copy> present;
  private final Optional<Snapshot> standing;
  private final List<String> emptied = new ArrayList<>();
  private final Map<BigInteger, BigInteger> accounts = new HashMap<>();
  private final Map<String, Set<BigInteger>> onlyTargets = new HashMap<>();
  private long settings;
  private long secrets;
  private Renaming names;

  private Refitting(
      Copy from,
      CopySpec target,
      Optional<Copy> present,
      SiteModel model,
      AddressBook addresses,
      Masking masking)
      throws Refusal {
    this.from = from;
    this.target = target;
    this.model = model;
    this.present = present;
    List<Table> shapes = from.catalog().all().stream().map(CatalogTable::table).toList();
    this.site = SiteMap.resolve(model, shapes);
    this.tables = shapes.stream().map(Table::name).toList();
    this.mapping =
        new MappedRows(
            addresses.between(from.name(), target.name()),
            addresses.between(target.name(), from.name()),
            new MappedRows.Prefixes(from.spec().prefix(), target.prefix()),
            masking,
            tables.stream().map(site::table).toList());
    this.standing =
        present.isEmpty()
            ? Optional.empty()
            : Optional.of(
                present
                    .get()
                    .snapshot(
                        present.get().catalog().all().stream().map(Refitting::layout).toList()));
  }

  /**
   * For a place of which nothing is kept.
   *
   * @param addresses of both copies
   * @param masking whether personal data are made up on their way
   */
  public static Refitting of(
      Copy from, CopySpec target, SiteModel model, AddressBook addresses, Masking masking)
      throws Refusal {
    return new Refitting(from, target, Optional.empty(), model, addresses, masking);
  }

  /** For the place of a copy that keeps what is its own. */
  public static Refitting keeping(
      Copy from, Copy target, SiteModel model, AddressBook addresses, Masking masking)
      throws Refusal {
    return new Refitting(from, target.spec(), Optional.of(target), model, addresses, masking);
  }

  private static Layout layout(CatalogTable table) {
    Table shape = table.table();
    int parts = shape.hasKey() ? shape.key().size() : shape.columns().size();
    return new Layout(shape, table.realName(), Collections.nCopies(parts, KeyPart.NUMBER));
  }

  /**
   * What was kept of the target's own.
   *
   * @param settings rows that belong to their copy
   * @param secrets people whose passwords and keys were kept
   * @param accounts people that only the target knows
   * @param emptied tables of noise, whose rows the site makes anew
   * @param rows numbers of the rows of those people, by the table's name without prefix
   */
  public record Kept(
      long settings,
      long secrets,
      long accounts,
      List<String> emptied,
      Map<String, Set<BigInteger>> rows) {}

  /** What was kept, once everything is written. */
  public Kept kept() {
    return new Kept(settings, secrets, accounts.size(), List.copyOf(emptied), onlyTargets);
  }

  @Override
  public CopySpec place(CopySpec of) {
    return target;
  }

  @Override
  public SavedContents contents(SavedContents of) {
    Set<String> known = new HashSet<>();
    of.tables().forEach(table -> known.add(table.name()));
    of.others().stream()
        .filter(piece -> piece.kind() != SavedContents.Kind.SETTING)
        .map(Piece::name)
        .filter(name -> name.startsWith(from.spec().prefix()))
        .forEach(known::add);
    names =
        new Renaming(
            from.spec().prefix(),
            target.prefix(),
            known,
            DumpDialect.of(target).escapesByBackslash());
    // People come first: what is a part of an account goes with it.
    String people = site.people().map(SiteModel.PeopleRule::table).orElse("");
    List<SavedTable> told =
        of.tables().stream()
            .filter(table -> !table.table().table().name().equals(Catalog.LEDGER))
            .sorted(Comparator.comparing(table -> !table.table().table().name().equals(people)))
            .map(table -> new SavedTable(table.table(), names.sql(table.create(), false)))
            .toList();
    List<Piece> pieces =
        of.others().stream()
            .filter(piece -> !piece.name().equals(from.spec().prefix() + Catalog.LEDGER))
            .map(
                piece ->
                    new Piece(
                        piece.kind(),
                        names.name(piece.name()),
                        names.sql(piece.drop(), false),
                        names.sql(piece.create(), piece.kind() == SavedContents.Kind.SETTING),
                        piece.delimited()))
            .toList();
    return new SavedContents(told, pieces, of.left());
  }

  @Override
  public String name(String realName) {
    return names.name(realName);
  }

  @Override
  public RowStream rows(CatalogTable table, RowStream read) throws IOException {
    Optional<TableModel> known = site.find(table.table().name());
    if (known.isEmpty()) {
      return read;
    }
    TableModel said = known.get();
    int position = tables.indexOf(table.table().name());
    Optional<CatalogTable> there =
        present.flatMap(copy -> copy.catalog().find(table.table().name()));
    if (present.isEmpty()) {
      return new MappedStream(read, row -> mapping.map(position, row));
    }
    if (said.ownership().role() == Role.NOISE || said.ownership().role() == Role.OWN) {
      read.close();
      boolean stays = said.ownership().role() == Role.OWN && there.isPresent();
      if (!stays) {
        emptied.add(names.name(table.realName()));
        return RowStream.EMPTY;
      }
      Columns columns = new Columns(there.get().table(), said.table());
      return new MappedStream(standing.get().open(there.get().table()), columns::told);
    }
    OwnRows own = new OwnRows(this, said, there);
    UnaryOperator<Row> mapped = row -> mapping.map(position, row);
    return own.mayKeep() ? own.among(read, mapped) : new MappedStream(read, mapped);
  }

  Snapshot standing() {
    return standing.get();
  }

  boolean tellsSchema(Table table, List<Value> row) {
    return model.follows().schemaVersions().stream()
        .flatMap(rule -> Condition.of(table, rule).stream())
        .anyMatch(condition -> condition.holdsFor(row));
  }

  Optional<SiteModel.PeopleRule> people() {
    return site.people();
  }

  /** The account of the target's own as it is numbered in what is written. */
  Optional<BigInteger> account(BigInteger number) {
    return Optional.ofNullable(accounts.get(number));
  }

  void keptAccount(BigInteger before, BigInteger now) {
    accounts.put(before, now);
  }

  void keptRow(String table, BigInteger number) {
    onlyTargets.computeIfAbsent(table, unused -> new HashSet<>()).add(number);
  }

  void keptSetting() {
    settings++;
  }

  void keptSecret() {
    secrets++;
  }

  boolean hasAccounts() {
    return !accounts.isEmpty();
  }

  @Override
  public List<String> said() {
    return emptied.stream().map(name -> name + ", whose rows the site makes anew").toList();
  }

  @Override
  public void close() throws IOException {
    if (standing.isPresent()) {
      standing.get().close();
    }
  }
}
