package weftex.core.plan;

import java.io.IOException;
import java.io.UncheckedIOException;
import java.math.BigInteger;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.Collection;
import java.util.HashMap;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.function.Predicate;
import weftex.core.compare.Comparison;
import weftex.core.compare.Difference;
import weftex.core.reference.InsideReferences;
import weftex.core.reference.NumberPlaces;
import weftex.core.reference.RowFinder;
import weftex.core.row.Row;
import weftex.core.row.RowName;
import weftex.core.row.SortKey;
import weftex.core.row.Table;
import weftex.core.row.Value;
import weftex.core.site.Reference;
import weftex.core.site.SiteMap;
import weftex.core.site.TableModel;
import weftex.core.value.Weaver;

/**
 * Finds out what becomes of the rows that the source has added (the target has the same thing, or
 * they are new and get a number), and translates the source's references to them into the target's
 * terms. Memory grows with the number of added rows, not of all rows.
 */
final class Matching {
  /** How many rows with one identity are looked at singly. */
  private static final int ALIKE_LOOKED_AT = 200;

  private final Comparison comparison;
  private final SiteMap site;
  private final RowFinder source;
  private final RowFinder target;
  private final InsideReferences inside;
  private final InsideReferences insideOfTarget;
  private final Map<Long, Newcomer> newcomers = new LinkedHashMap<>();
  private final Map<String, Integer> positionOfTable = new HashMap<>();
  private final Map<Place, Map<List<Value>, Newcomer>> index = new HashMap<>();
  private final List<Map<SortKey, Long>> removedBySource = new ArrayList<>();
  private final Map<Integer, Set<SortKey>> addedByTarget = new HashMap<>();
  private final Set<Long> madeAnew = new HashSet<>();
  private final Sameness said;
  private final FreedNames names;
  private final Map<Newcomer, Value> freed = new HashMap<>();
  private final PastMerges past;
  private final LeftRow left;
  private final Set<Long> known = new HashSet<>();

  /** How many rows that the source added have the same identity. */
  private final Map<Place, Map<List<Value>, Integer>> twins = new HashMap<>();

  /** Rows of the target that are the same thing as one of the source's. */
  private final Set<List<Object>> claimed = new HashSet<>();

  /** Rows that both copies removed, by their identity. */
  private final Map<Integer, Map<List<Value>, List<Value>>> goneOnBoth = new HashMap<>();

  private record Place(String table, List<Integer> columns) {}

  Matching(Comparison comparison, SiteMap site, RowFinder source, RowFinder target, Knowledge known)
      throws IOException {
    this.said = known.said();
    this.names = new FreedNames(source, target);
    this.past = known.past();
    this.left = new LeftRow(comparison, past, this::mappedLeft);
    this.source = source;
    this.inside = new InsideReferences(source, known.hosts());
    this.insideOfTarget = new InsideReferences(target, known.hosts());
    this.comparison = comparison;
    this.site = site;
    this.target = target;
    for (int i = 0; i < comparison.tables().size(); i++) {
      positionOfTable.put(comparison.tables().get(i).table().name(), i);
      removedBySource.add(new HashMap<>());
    }
    for (int i = 0; i < comparison.tables().size(); i++) {
      gather(i);
    }
    // What is known claims its row before others look for one of their identity.
    for (Newcomer newcomer : newcomers.values()) {
      boolean isKnown =
          newcomer.name.isPresent()
              && (said.same().containsKey(newcomer.name.get())
                  || past.twin(newcomer.name.get()).isPresent());
      if (isKnown) {
        fate(newcomer);
      }
    }
    for (Newcomer newcomer : newcomers.values()) {
      fate(newcomer);
    }
  }

  /** Rows that were to be kept apart, and that are none that the source added. */
  Set<RowName> notApart() {
    Set<RowName> unknown = new HashSet<>(said.apart());
    unknown.removeIf(row -> newcomer(row.table(), new Value.Whole(row.number())).isPresent());
    return unknown;
  }

  /** Why rows can't be the same as what somebody said, as sentences; empty if all can. */
  List<String> notSame() throws IOException {
    List<String> reasons = new ArrayList<>();
    for (Map.Entry<RowName, BigInteger> pair : said.same().entrySet()) {
      RowName row = pair.getKey();
      RowName other = new RowName(row.table(), pair.getValue());
      Optional<Newcomer> newcomer = newcomer(row.table(), new Value.Whole(row.number()));
      Optional<BigInteger> known = past.number(row);
      boolean held =
          newcomer.isPresent() && known.isPresent() && find(row.table(), known.get()).isPresent();
      if (newcomer.isEmpty()) {
        reasons.add(row.words() + " is no row that is new since the base");
      } else if (held && !known.equals(Optional.of(pair.getValue()))) {
        reasons.add(
            row.words()
                + " is known as "
                + new RowName(row.table(), known.get()).words()
                + " already");
      } else if (find(row.table(), pair.getValue()).isEmpty()) {
        reasons.add("there is no " + other.words() + " to be the same as " + row.words());
      } else if (past.isUsed(other) && !known.equals(Optional.of(pair.getValue()))) {
        reasons.add(other.words() + " is the same as another row already");
      }
    }
    return reasons;
  }

  private Optional<Row> find(String table, BigInteger number) throws IOException {
    Table shape = site.table(table).table();
    return onlyOne(shape, List.of(shape.number()), List.of(new Value.Whole(number)));
  }

  /** Whether somebody said that it is no other thing of the same identity. */
  boolean isKeptApart(Newcomer newcomer) {
    return newcomer.name.filter(said.apart()::contains).isPresent();
  }

  private void gather(int table) throws IOException {
    TableModel model = comparison.tables().get(table);
    Set<Place> places = new LinkedHashSet<>();
    site.incoming(model.table().name())
        .forEach(in -> places.add(new Place(model.table().name(), in.reference().targetColumns())));
    if (model.table().isNumbered()) {
      places.add(new Place(model.table().name(), List.of(model.table().number())));
    }
    for (long at : comparison.bySource(table).toArray()) {
      Difference row = comparison.log().read(at);
      if (!row.source().isPresent()) {
        removedBySource.get(table).put(row.base().key(), at);
      } else if (!row.base().isPresent()) {
        List<Value> values = row.source().values();
        Table shape = model.table();
        Newcomer newcomer =
            new Newcomer(
                table,
                at,
                shape.isNumbered()
                    ? number(values.get(shape.number()))
                        .map(number -> new RowName(shape.name(), number))
                    : Optional.empty());
        newcomers.put(at, newcomer);
        if (model.isIdentified(values)) {
          twins
              .computeIfAbsent(
                  new Place(model.table().name(), model.identity()), unused -> new HashMap<>())
              .merge(Table.pick(values, model.identity()), 1, Integer::sum);
        }
        for (Place place : places) {
          index
              .computeIfAbsent(place, unused -> new HashMap<>())
              .put(Table.pick(values, place.columns()), newcomer);
        }
      }
    }
  }

  Collection<Newcomer> newcomers() {
    return newcomers.values();
  }

  /** The row that the source added at a position of the log. */
  Optional<Newcomer> newcomer(long at) {
    return Optional.ofNullable(newcomers.get(at));
  }

  /** The added row that has these values in these columns on the source. */
  Optional<Newcomer> newcomer(String table, List<Integer> columns, List<Value> values) {
    return Optional.ofNullable(index.getOrDefault(new Place(table, columns), Map.of()).get(values));
  }

  /** Whether somebody decided of a row of the target that the source does not get it. */
  boolean isDeclined(Table table, List<Value> row) {
    return table.isNumbered()
        && row.get(table.number()) instanceof Value.Whole whole
        && past.isDeclined(new RowName(table.name(), whole.number()));
  }

  /** Whether the target never had a numbered row of the source. */
  boolean isNew(Table table, List<Value> row) throws IOException {
    Optional<Newcomer> newcomer =
        table.isNumbered() ? newcomer(table.name(), row.get(table.number())) : Optional.empty();
    return newcomer.isPresent() && fate(newcomer.get()) instanceof Newcomer.Numbered;
  }

  /** Whether the source removed the row at this position only to make the same thing anew. */
  boolean wasMadeAnew(long removedAt) {
    return madeAnew.contains(removedAt);
  }

  /**
   * Whether the row at this position is an account of somebody who has another one on the target.
   */
  boolean isKnownPerson(long at) {
    return known.contains(at);
  }

  /** The values of a row of the source in the target's terms. */
  List<Value> mapped(int table, List<Value> values) throws IOException {
    return mapped(table, values, inside(table, values));
  }

  /** The same of a row as a merge left it; where the source removed it, its parts went with it. */
  private List<Value> mappedLeft(int table, List<Value> values, List<Value> onTarget)
      throws IOException {
    return onTarget.isEmpty()
        ? mapped(table, values)
        : mapped(
            table, values, insideOfTarget.of(comparison.tables().get(table), values, onTarget));
  }

  private List<Value> mapped(int table, List<Value> values, Map<Integer, NumberPlaces> places)
      throws IOException {
    List<Value> mapped = mapped(table, values, reference -> true);
    for (Map.Entry<Integer, NumberPlaces> column : places.entrySet()) {
      int at = column.getKey();
      mapped.set(
          at, InsideReferences.rewritten(column.getValue(), mapped.get(at), this::successor));
    }
    return mapped;
  }

  /** What takes the place of a number inside a value; empty if it stays. */
  private Optional<Weaver> successor(String to, BigInteger number) {
    try {
      Optional<Newcomer> newcomer = newcomer(to, new Value.Whole(number));
      if (newcomer.isEmpty()) {
        return past.number(new RowName(to, number))
            .map(other -> Weaver.of(other.toString().getBytes(StandardCharsets.US_ASCII)));
      }
      Table shape = comparison.tables().get(newcomer.get().table).table();
      Value cell = cell(newcomer.get(), shape.number());
      if (cell instanceof Value.Fresh fresh) {
        return Optional.of(new Weaver().add(fresh.row()));
      }
      BigInteger other = ((Value.Whole) cell).number();
      return other.equals(number)
          ? Optional.empty()
          : Optional.of(Weaver.of(other.toString().getBytes(StandardCharsets.US_ASCII)));
    } catch (IOException e) {
      throw new UncheckedIOException(e);
    }
  }

  /** Those that a model declares, or those that names of members tell. */
  Map<Integer, NumberPlaces> inside(int table, List<Value> raw, boolean guessed)
      throws IOException {
    return inside.of(comparison.tables().get(table), raw, guessed);
  }

  /** The places of numbers inside a row of the source. */
  Map<Integer, NumberPlaces> inside(int table, List<Value> raw) throws IOException {
    return inside.of(comparison.tables().get(table), raw);
  }

  /** Members of a row of the source that say where others are shown. */
  List<InsideReferences.Showing> showings(int table, List<Value> raw) throws IOException {
    return inside.showings(comparison.tables().get(table), raw);
  }

  /** The added row that has a number on the source. */
  private Optional<Newcomer> newcomer(String table, Value number) {
    Optional<Integer> position = positionOf(table);
    return position.isEmpty()
        ? Optional.empty()
        : newcomer(
            table,
            List.of(comparison.tables().get(position.get()).table().number()),
            List.of(number));
  }

  /**
   * Maps only as much as some columns need, so that rows may refer to each other in circles
   * elsewhere.
   */
  private List<Value> mappedColumns(int table, List<Value> values, List<Integer> columns)
      throws IOException {
    return mapped(
        table, values, reference -> reference.columns().stream().anyMatch(columns::contains));
  }

  private List<Value> mapped(int table, List<Value> values, Predicate<Reference> wanted)
      throws IOException {
    List<Value> mapped = new ArrayList<>(values);
    for (Reference reference : comparison.tables().get(table).references()) {
      List<Value> referred = Table.pick(values, reference.columns());
      if (!wanted.test(reference) || reference.isUnset(referred)) {
        continue;
      }
      Optional<Newcomer> found = newcomer(reference.target(), reference.targetColumns(), referred);
      if (found.isPresent()) {
        for (int i = 0; i < referred.size(); i++) {
          mapped.set(
              reference.columns().get(i), cell(found.get(), reference.targetColumns().get(i)));
        }
      } else {
        removed(reference, referred)
            .ifPresent(number -> mapped.set(reference.columns().get(0), number));
      }
    }
    return mapped;
  }

  /** What the target calls a row that was merged and that the source does not have any more. */
  private Optional<Value> removed(Reference reference, List<Value> referred) {
    Optional<Integer> position = positionOf(reference.target());
    boolean byNumber =
        position.isPresent()
            && reference.targetColumns().size() == 1
            && reference.targetColumns().get(0)
                == comparison.tables().get(position.get()).table().number();
    return byNumber
        ? number(referred.get(0))
            .flatMap(number -> past.number(new RowName(reference.target(), number)))
            .map(Value.Whole::new)
        : Optional.empty();
  }

  private static Optional<BigInteger> number(Value value) {
    return value instanceof Value.Whole whole ? Optional.of(whole.number()) : Optional.empty();
  }

  /** The values of an added row in the target's terms, its own number included. */
  List<Value> mapped(Newcomer newcomer) throws IOException {
    List<Value> mapped = mapped(newcomer.table, sourceValues(newcomer));
    int number = comparison.tables().get(newcomer.table).table().number();
    if (number >= 0) {
      mapped.set(number, cell(newcomer, number));
    }
    Optional<Integer> named =
        isKeptApart(newcomer)
            ? FreedNames.column(comparison.tables().get(newcomer.table))
            : Optional.empty();
    if (named.isPresent() && fate(newcomer) instanceof Newcomer.Numbered) {
      if (!freed.containsKey(newcomer)) {
        freed.put(
            newcomer, names.free(comparison.tables().get(newcomer.table), named.get(), mapped));
      }
      mapped.set(named.get(), freed.get(newcomer));
    }
    return mapped;
  }

  private List<Value> sourceValues(Newcomer newcomer) throws IOException {
    return comparison.log().read(newcomer.at).source().values();
  }

  /** One cell of an added row in the target's terms. */
  private Value cell(Newcomer newcomer, int column) throws IOException {
    TableModel model = comparison.tables().get(newcomer.table);
    List<Value> values = sourceValues(newcomer);
    if (column != model.table().number()) {
      return mappedColumns(newcomer.table, values, List.of(column)).get(column);
    }
    if (newcomer.deciding) {
      // A cycle of references: the row is taken to keep its number until something speaks against
      // it.
      return values.get(column);
    }
    Newcomer.Fate fate = fate(newcomer);
    if (fate instanceof Newcomer.Numbered numbered) {
      return new Value.Fresh(numbered.name());
    }
    if (fate instanceof Newcomer.Gone gone && gone.twin().isPresent()) {
      return new Value.Whole(gone.twin().get().number());
    }
    return fate instanceof Newcomer.Matched matched
        ? matched.row().values().get(column)
        : values.get(column);
  }

  /**
   * A row that both copies have, as the last merge left it, in the target's terms; absent if none
   * did.
   *
   * @param raw the source's row, its references in its own terms
   * @param mapped the same in the target's terms
   */
  Row left(int table, List<Value> raw, List<Value> mapped, Row now) throws IOException {
    Optional<PastMerges.Left> known = left.whole(table, keyOf(table, now.values()));
    return known.isPresent()
        ? left.of(table, now.key(), known.get(), raw, mapped, now.values())
        : Row.ABSENT;
  }

  /**
   * A row of the base with what merges left in the source's terms put into the target's.
   *
   * @param raw the source's row, its references in its own terms; empty if it has none
   */
  Row base(int table, Row base, List<Value> raw) throws IOException {
    return left.base(table, base, raw, List.of());
  }

  /** The same of a row that the source removed. */
  Row baseOfRemoved(int table, Row base, Row onTarget) throws IOException {
    return left.base(
        table, base, List.of(), onTarget.isPresent() ? onTarget.values() : base.values());
  }

  /** Whether the target has removed a row since it was merged. */
  boolean isGone(long at) throws IOException {
    Newcomer newcomer = newcomers.get(at);
    return newcomer != null && fate(newcomer) instanceof Newcomer.Gone;
  }

  /** Whether the target has removed a row since it was merged, and given its number away. */
  boolean isReplaced(long at) throws IOException {
    Newcomer newcomer = newcomers.get(at);
    return newcomer != null && fate(newcomer) instanceof Newcomer.Gone gone && gone.isReplaced();
  }

  /**
   * Whether somebody decided before that the target does not get a new row, which the source has
   * not edited since.
   */
  boolean isWithheld(long at) throws IOException {
    Newcomer newcomer = newcomers.get(at);
    if (newcomer == null || !(fate(newcomer) instanceof Newcomer.Numbered numbered)) {
      return false;
    }
    Optional<Map<String, Value>> known = past.withheld(numbered.name());
    if (known.isEmpty()) {
      return false;
    }
    Table table = comparison.tables().get(newcomer.table).table();
    List<Value> now = mapped(newcomer);
    return known.get().entrySet().stream()
        .allMatch(cell -> cell.getValue().equals(now.get(table.position(cell.getKey()).orElse(0))));
  }

  /** Whether somebody decided before that the target does not get a new row. */
  boolean wasWithheld(long at) throws IOException {
    Newcomer newcomer = newcomers.get(at);
    return newcomer != null
        && fate(newcomer) instanceof Newcomer.Numbered numbered
        && past.withheld(numbered.name()).isPresent();
  }

  /** Whether an earlier merge made the row that the source seems to have added. */
  boolean wasMerged(long at) throws IOException {
    Newcomer newcomer = newcomers.get(at);
    if (newcomer == null) {
      return false;
    }
    return fate(newcomer) instanceof Newcomer.Gone
        || fate(newcomer) instanceof Newcomer.Matched matched
            && matched.removedAt() < 0
            && wasLeft(newcomer.table, matched.row().values());
  }

  /** Whether a merge wrote a row of the base, whose numbers may be those of either copy. */
  boolean isMoved(int table, Row base) throws IOException {
    return base.isPresent() && left.known(table, keyOf(table, base.values())).isPresent();
  }

  private List<Value> keyOf(int table, List<Value> row) {
    return Table.pick(row, comparison.tables().get(table).table().key());
  }

  /** A row that the target has removed since, as the last merge left it. */
  Row left(int table, Newcomer.Gone gone, SortKey key, List<Value> raw, List<Value> mapped)
      throws IOException {
    if (gone.before().isPresent()) {
      List<Value> before = new ArrayList<>(gone.before().get());
      int number = comparison.tables().get(table).table().number();
      before.set(number, mapped.get(number));
      return Row.of(key, before);
    }
    Optional<PastMerges.Left> known =
        gone.twin().isPresent()
            ? gone.twin().get().left().filter(PastMerges.Left::whole)
            : left.whole(table, keyOf(table, mapped));
    return known.isPresent()
        ? left.of(table, key, known.get(), raw, mapped, List.of())
        : Row.ABSENT;
  }

  /** Whether an earlier merge made or wrote the target's row, and did not remove it. */
  private boolean wasLeft(int table, List<Value> row) throws IOException {
    return left.whole(table, keyOf(table, row)).isPresent();
  }

  Newcomer.Fate fate(Newcomer newcomer) throws IOException {
    if (newcomer.fate == null) {
      newcomer.deciding = true;
      Table table = comparison.tables().get(newcomer.table).table();
      Difference row = comparison.log().read(newcomer.at);
      newcomer.fate =
          table.isNumbered() ? fateOfNumbered(newcomer, row) : fateOfKeyed(newcomer, row);
      newcomer.deciding = false;
      if (newcomer.fate instanceof Newcomer.Matched matched && matched.removedAt() >= 0) {
        madeAnew.add(matched.removedAt());
      }
    }
    return newcomer.fate;
  }

  private Newcomer.Fate fateOfNumbered(Newcomer newcomer, Difference row) throws IOException {
    TableModel model = comparison.tables().get(newcomer.table);
    Table table = model.table();
    List<Value> values = row.source().values();
    RowName name = new RowName(table.name(), ((Value.Whole) values.get(table.number())).number());
    Optional<Row> told =
        said.same().containsKey(name)
            ? find(table.name(), said.same().get(name))
            : Optional.empty();
    if (told.isPresent()) {
      claimed.add(List.of(newcomer.table, told.get().key()));
      return matched(newcomer, told.get());
    }
    Optional<PastMerges.Twin> twin = past.twin(name);
    if (twin.isPresent()) {
      Optional<Row> made =
          twin.get().replaced()
              ? Optional.empty()
              : onlyOne(
                  table, List.of(table.number()), List.of(new Value.Whole(twin.get().number())));
      made.ifPresent(same -> claimed.add(List.of(newcomer.table, same.key())));
      return made.isPresent() ? matched(newcomer, made.get()) : new Newcomer.Gone(twin);
    }
    if (!row.target().isPresent() && left.wasKept(newcomer.table, keyOf(newcomer.table, values))) {
      return new Newcomer.Gone(Optional.empty());
    }
    if (isKeptApart(newcomer)) {
      return new Newcomer.Numbered(name, row.target().isPresent() || past.isUsed(name));
    }
    Optional<Row> person = person(model, values);
    if (person.isPresent()) {
      known.add(newcomer.at);
      return matched(newcomer, person.get());
    }
    if (model.isIdentified(values)) {
      Optional<Row> same = same(newcomer, model, values);
      if (same.isPresent()) {
        claimed.add(List.of(newcomer.table, same.get().key()));
        return matched(newcomer, same.get());
      }
      Optional<List<Value>> before = goneOnBoth(newcomer, model, values);
      if (before.isPresent()) {
        return new Newcomer.Gone(Optional.empty(), before);
      }
    } else if (row.target().isPresent()
        && mapped(newcomer.table, values).equals(row.target().values())) {
      return new Newcomer.Matched(row.target(), -1);
    }
    return new Newcomer.Numbered(name, row.target().isPresent() || past.isUsed(name));
  }

  /**
   * The target's row that is the same thing by its identity. Where several rows share one, such as
   * details of one name, only equal rows are the same thing.
   */
  private Optional<Row> same(Newcomer newcomer, TableModel model, List<Value> values)
      throws IOException {
    Table table = model.table();
    List<Value> identity =
        Table.pick(mappedColumns(newcomer.table, values, model.identity()), model.identity());
    if (identity.stream().anyMatch(Value::isOpen)) {
      return Optional.empty();
    }
    List<Row> found = new ArrayList<>();
    Set<List<Value>> uses = uses(source, model, Table.pick(values, table.key()));
    for (Row row : target.find(table, model.identity(), identity, ALIKE_LOOKED_AT)) {
      boolean sameUse =
          model.identityIn().isEmpty()
              || uses(target, model, Table.pick(row.values(), table.key())).stream()
                  .anyMatch(uses::contains);
      if (sameUse) {
        found.add(row);
      }
    }
    Place place = new Place(table.name(), model.identity());
    boolean alone =
        found.size() == 1 && twins.get(place).get(Table.pick(values, model.identity())) == 1;
    List<Value> mapped = alone ? values : mapped(newcomer.table, values);
    for (Row row : found) {
      boolean free =
          !claimed.contains(List.of(newcomer.table, row.key()))
              && (removedBySource.get(newcomer.table).containsKey(row.key())
                  || addedByTarget(newcomer.table).contains(row.key()));
      if (free && (alone || isEqual(model, mapped, row.values()))) {
        return Optional.of(row);
      }
    }
    return Optional.empty();
  }

  /**
   * The part of a thing that both copies had and removed, and that the source has made anew: a
   * detail is the same whatever its number.
   */
  private Optional<List<Value>> goneOnBoth(Newcomer newcomer, TableModel model, List<Value> values)
      throws IOException {
    if (model.partOf().isEmpty()) {
      return Optional.empty();
    }
    Map<List<Value>, List<Value>> gone = goneOnBoth.get(newcomer.table);
    if (gone == null) {
      gone = new HashMap<>();
      for (long at : comparison.bySource(newcomer.table).toArray()) {
        Difference row = comparison.log().read(at);
        if (!row.source().isPresent() && !row.target().isPresent()) {
          List<Value> before = baseOfRemoved(newcomer.table, row.base(), Row.ABSENT).values();
          gone.put(Table.pick(before, model.identity()), before);
        }
      }
      goneOnBoth.put(newcomer.table, gone);
    }
    return gone.isEmpty()
        ? Optional.empty()
        : Optional.ofNullable(
            gone.get(
                Table.pick(
                    mappedColumns(newcomer.table, values, model.identity()), model.identity())));
  }

  /** What another table says that belongs to a row's identity. */
  private Set<List<Value>> uses(RowFinder copy, TableModel model, List<Value> key)
      throws IOException {
    Set<List<Value>> uses = new HashSet<>();
    if (model.identityIn().isPresent()) {
      TableModel.IdentityIn in = model.identityIn().get();
      Table other = site.table(in.table()).table();
      for (Row row : copy.find(other, List.of(in.by()), key, ALIKE_LOOKED_AT)) {
        uses.add(Table.pick(row.values(), in.columns()));
      }
    }
    return uses;
  }

  private static boolean isEqual(TableModel model, List<Value> one, List<Value> other) {
    List<Value> renamed = new ArrayList<>(one);
    renamed.set(model.table().number(), other.get(model.table().number()));
    return model.meanTheSame(renamed, other);
  }

  /** The target's row of the same person, as the configuration says or as they are known by. */
  private Optional<Row> person(TableModel model, List<Value> values) throws IOException {
    if (site.people().isEmpty() || !site.people().get().table().equals(model.table().name())) {
      return Optional.empty();
    }
    Table table = model.table();
    List<Integer> known = table.positionsOrNone(site.people().get().knownBy());
    for (int column : known) {
      String name = said.people().get(values.get(column).display());
      for (int other : name == null ? List.<Integer>of() : known) {
        Optional<Row> row = onlyOne(table, List.of(other), List.of(Value.text(name)));
        if (row.isPresent()) {
          return row;
        }
      }
    }
    for (int column : known) {
      boolean unknown = values.get(column).display().isEmpty();
      Optional<Row> row =
          unknown ? Optional.empty() : onlyOne(table, List.of(column), List.of(values.get(column)));
      if (row.isPresent()) {
        return row;
      }
    }
    return Optional.empty();
  }

  private Newcomer.Fate fateOfKeyed(Newcomer newcomer, Difference row) throws IOException {
    TableModel model = comparison.tables().get(newcomer.table);
    Table table = model.table();
    if (!table.hasKey()) {
      return row.target().isPresent()
              && mapped(newcomer.table, row.source().values()).equals(row.source().values())
          ? new Newcomer.Matched(row.target(), -1)
          : new Newcomer.Keyed();
    }
    List<Value> values = row.source().values();
    List<Value> mapped = mappedColumns(newcomer.table, values, table.key());
    List<Value> key = Table.pick(mapped, table.key());
    if (key.equals(Table.pick(values, table.key()))) {
      return row.target().isPresent()
          ? new Newcomer.Matched(row.target(), -1)
          : absent(newcomer.table, key);
    }
    Optional<Row> same = onlyOne(table, table.key(), key);
    if (same.isEmpty()) {
      return absent(newcomer.table, key);
    }
    return matched(newcomer, same.get());
  }

  private Newcomer.Fate absent(int table, List<Value> key) throws IOException {
    return left.whole(table, key).isPresent() || left.wasKept(table, key)
        ? new Newcomer.Gone(Optional.empty())
        : new Newcomer.Keyed();
  }

  /** The target has the same thing; the source may have removed it to make it anew. */
  private Newcomer.Matched matched(Newcomer newcomer, Row same) {
    return new Newcomer.Matched(
        same, removedBySource.get(newcomer.table).getOrDefault(same.key(), -1L));
  }

  private Optional<Row> onlyOne(Table table, List<Integer> columns, List<Value> values)
      throws IOException {
    boolean unknown = values.stream().anyMatch(Value::isOpen);
    if (unknown) {
      return Optional.empty();
    }
    List<Row> found = target.find(table, columns, values, 2);
    return found.size() == 1 ? Optional.of(found.get(0)) : Optional.empty();
  }

  private Set<SortKey> addedByTarget(int table) throws IOException {
    Set<SortKey> known = addedByTarget.get(table);
    if (known == null) {
      known = new HashSet<>();
      for (long at :
          java.util.stream.LongStream.concat(
                  comparison.bySource(table), comparison.byTargetOnly(table))
              .toArray()) {
        Difference row = comparison.log().read(at);
        if (!row.base().isPresent() && row.target().isPresent()) {
          known.add(row.target().key());
        }
      }
      addedByTarget.put(table, known);
    }
    return known;
  }

  Optional<Integer> positionOf(String table) {
    return Optional.ofNullable(positionOfTable.get(table));
  }
}
