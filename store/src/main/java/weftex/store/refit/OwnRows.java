package weftex.store.refit;

import java.io.IOException;
import java.math.BigInteger;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.Iterator;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.function.UnaryOperator;
import weftex.core.model.Role;
import weftex.core.row.Row;
import weftex.core.row.RowStream;
import weftex.core.row.SortKey;
import weftex.core.row.Table;
import weftex.core.row.Value;
import weftex.core.site.TableModel;
import weftex.store.database.CatalogTable;

/**
 * What the target keeps of a table that comes from the other copy. Memory grows with the rows that
 * belong to their copy, and with the people of the target.
 */
final class OwnRows {
  private static final SortKey ANYWHERE = SortKey.ofWhole(0);

  private final Refitting refitting;
  private final TableModel model;
  private final Table table;
  private final Optional<CatalogTable> there;

  /** By what a row is known on both copies; several ways for people, the surest first. */
  private final List<List<Integer>> known;

  private final boolean ofPeople;

  /** The target's rows that belong to it. */
  private final Map<List<Value>, List<Value>> settings = new LinkedHashMap<>();

  /** Who or what has secrets on the target. */
  private final List<Map<List<Value>, OwnSecret>> secrets = new ArrayList<>();

  private final Set<OwnSecret> met = new HashSet<>();
  private BigInteger greatest = BigInteger.ZERO;

  OwnRows(Refitting refitting, TableModel model, Optional<CatalogTable> there) throws IOException {
    this.refitting = refitting;
    this.model = model;
    this.table = model.table();
    this.there = there;
    this.ofPeople =
        refitting.people().filter(rule -> rule.table().equals(table.name())).isPresent();
    this.known =
        ofPeople
            ? refitting.people().get().knownBy().stream()
                .flatMap(column -> table.position(column).stream())
                .map(List::of)
                .toList()
            : isKnownAnywhere() ? List.of(model.identity().columns()) : List.of();
    known.forEach(unused -> secrets.add(new HashMap<>()));
    if (there.isPresent() && !known.isEmpty() && (mayBeOwn() || hasSecrets() || ofPeople)) {
      remember();
    }
  }

  /** Whether any of its rows may be other than those that come; of most tables none is. */
  boolean mayKeep() {
    return mayBeOwn() || hasSecrets() || ofPeople || isOfAccounts();
  }

  private boolean isOfAccounts() {
    return model
        .parts()
        .of()
        .filter(r -> refitting.people().filter(p -> p.table().equals(r.target())).isPresent())
        .isPresent();
  }

  private boolean mayBeOwn() {
    return !model.ownership().stays().isEmpty()
        || !model.after().clears().isEmpty()
        || model.ownership().rows().stream().anyMatch(rule -> rule.role() == Role.OWN);
  }

  private boolean hasSecrets() {
    return !model.ownership().secret().isEmpty();
  }

  /** What is known by a row that it refers to is known on one copy only. */
  private boolean isKnownAnywhere() {
    return !model.identity().columns().isEmpty()
        && model.references().stream()
            .noneMatch(r -> r.columns().stream().anyMatch(model.identity().columns()::contains));
  }

  private boolean isOwn(List<Value> row) {
    return (model.ownership().role(row) == Role.OWN || model.stays(row))
        && !refitting.tellsSchema(table, row);
  }

  private void remember() throws IOException {
    Columns columns = new Columns(there.get().table(), table);
    try (RowStream rows = refitting.standing().open(there.get().table())) {
      for (Row row = rows.next(); row.isPresent(); row = rows.next()) {
        List<Value> values = columns.told(row.values());
        if (!ofPeople && isOwn(values)) {
          settings.put(Table.pick(values, known.get(0)), values);
        } else if (hasSecrets() || ofPeople) {
          OwnSecret secret =
              new OwnSecret(Table.pick(values, List.copyOf(model.ownership().secret())));
          for (int i = 0; i < known.size(); i++) {
            secrets.get(i).putIfAbsent(Table.pick(values, known.get(i)), secret);
          }
        }
      }
    }
  }

  private Optional<OwnSecret> secret(List<Value> row) {
    for (int i = 0; i < known.size(); i++) {
      OwnSecret secret = secrets.get(i).get(Table.pick(row, known.get(i)));
      if (secret != null) {
        return Optional.of(secret);
      }
    }
    return Optional.empty();
  }

  /** The rows that come, with the target's own among them and behind them. */
  RowStream among(RowStream read, UnaryOperator<Row> mapped) {
    RowStream coming = new MappedStream(read, row -> told(row.values(), mapped.apply(row)));
    return new RowStream() {
      private boolean ended;
      private RowStream behind = RowStream.EMPTY;

      @Override
      public Row next() throws IOException {
        Row row = ended ? Row.ABSENT : coming.next();
        if (row.isPresent()) {
          return row;
        }
        if (!ended) {
          ended = true;
          behind = behind();
        }
        return behind.next();
      }

      @Override
      public void close() throws IOException {
        coming.close();
        behind.close();
      }
    };
  }

  /**
   * A row as it comes; absent if it belongs to the copy that it comes from.
   *
   * @param real its values before personal data in it were made up
   */
  private Row told(List<Value> real, Row row) {
    List<Value> values = row.values();
    greatest = number(values).map(greatest::max).orElse(greatest);
    if (!ofPeople && isOwn(values)) {
      List<Value> own = known.isEmpty() ? null : settings.remove(Table.pick(values, known.get(0)));
      if (own == null) {
        return Row.ABSENT;
      }
      refitting.keptSetting();
      return Row.of(row.key(), numbered(own, number(values)));
    }
    return hasSecrets() || ofPeople ? withSecrets(real, row, values) : row;
  }

  private Row withSecrets(List<Value> real, Row row, List<Value> values) {
    Optional<OwnSecret> kept = secret(values).or(() -> secret(real));
    kept.ifPresent(met::add);
    if (kept.isPresent() && hasSecrets()) {
      refitting.keptSecret();
    }
    List<Integer> places = List.copyOf(model.ownership().secret());
    List<Value> told = new ArrayList<>(values);
    for (int i = 0; i < places.size(); i++) {
      Value none = table.columns().get(places.get(i)).nullable() ? Value.NULL : Value.text("");
      told.set(places.get(i), kept.isPresent() ? kept.get().values.get(i) : none);
    }
    return Row.of(row.key(), told);
  }

  private Optional<BigInteger> number(List<Value> row) {
    return table.isNumbered() && row.get(table.number()) instanceof Value.Whole whole
        ? Optional.of(whole.number())
        : Optional.empty();
  }

  private List<Value> numbered(List<Value> row, Optional<BigInteger> number) {
    List<Value> told = new ArrayList<>(row);
    number.ifPresent(n -> told.set(table.number(), new Value.Whole(n)));
    return told;
  }

  /** A number that no row has which comes, the row's own if that is one. */
  private List<Value> freed(List<Value> row) {
    Optional<BigInteger> own = number(row);
    if (own.isEmpty()) {
      return row;
    }
    greatest = own.get().compareTo(greatest) > 0 ? own.get() : greatest.add(BigInteger.ONE);
    return numbered(row, Optional.of(greatest));
  }

  private RowStream behind() throws IOException {
    Iterator<List<Value>> left = settings.values().iterator();
    RowStream more =
        there.isPresent() && (ofPeople || isOfAccounts() && refitting.hasAccounts())
            ? new MappedStream(
                refitting.standing().open(there.get().table()),
                row -> ofPeople ? account(row) : partOfAnAccount(row))
            : RowStream.EMPTY;
    return new RowStream() {
      @Override
      public Row next() throws IOException {
        if (!left.hasNext()) {
          return more.next();
        }
        refitting.keptSetting();
        return Row.of(ANYWHERE, freed(left.next()));
      }

      @Override
      public void close() throws IOException {
        more.close();
      }
    };
  }

  /** An account that only the target has. */
  private Row account(Row row) {
    List<Value> values = new Columns(there.get().table(), table).told(row.values());
    Optional<OwnSecret> secret = secret(values);
    if (secret.isEmpty() || met.contains(secret.get()) || number(values).isEmpty()) {
      return Row.ABSENT;
    }
    List<Value> told = freed(values);
    refitting.keptAccount(number(values).get(), number(told).get());
    refitting.keptRow(table.name(), number(told).get());
    return Row.of(row.key(), told);
  }

  private Row partOfAnAccount(Row row) {
    List<Value> values = new Columns(there.get().table(), table).told(row.values());
    int by = model.parts().of().get().columns().get(0);
    Optional<BigInteger> account =
        values.get(by) instanceof Value.Whole whole
            ? refitting.account(whole.number())
            : Optional.empty();
    if (account.isEmpty()) {
      return Row.ABSENT;
    }
    List<Value> told = new ArrayList<>(freed(values));
    told.set(by, new Value.Whole(account.get()));
    number(told).ifPresent(number -> refitting.keptRow(table.name(), number));
    return Row.of(row.key(), told);
  }
}
