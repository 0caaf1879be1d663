package weftex.core.match;

import java.io.IOException;
import java.io.UncheckedIOException;
import java.math.BigInteger;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
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
public final class Matching {
  private final Comparison comparison;
  private final InsideReferences inside;
  private final InsideReferences insideOfTarget;
  private final Newcomers newcomers;
  private final Fates fates;
  private final FreedNames names;
  private final Map<Newcomer, Value> freed = new HashMap<>();
  private final PastMerges past;
  private final LeftRow left;
  private final EarlierFates earlier;

  public Matching(
      Comparison comparison, SiteMap site, RowFinder source, RowFinder target, Knowledge known)
      throws IOException {
    this.comparison = comparison;
    this.names = new FreedNames(source, target);
    this.past = known.past();
    this.left = new LeftRow(comparison, past, this::mappedLeft);
    this.inside = new InsideReferences(source, known.hosts());
    this.insideOfTarget = new InsideReferences(target, known.hosts());
    this.newcomers = new Newcomers(comparison, site);
    Fates.Terms terms =
        new Fates.Terms() {
          @Override
          public List<Value> mapped(int table, List<Value> values) throws IOException {
            return Matching.this.mapped(table, values);
          }

          @Override
          public List<Value> mapped(int table, List<Value> values, List<Integer> columns)
              throws IOException {
            return mappedColumns(table, values, columns);
          }
        };
    this.fates =
        new Fates(
            comparison,
            site,
            newcomers,
            new Fates.Copies(source, target),
            known,
            new Fates.Merging(left, terms));
    fates.decide();
    this.earlier = new EarlierFates(comparison, this, past, left);
  }

  /** What earlier merges say. */
  public EarlierFates earlier() {
    return earlier;
  }

  /** What becomes of the rows that the source has added. */
  public Fates fates() {
    return fates;
  }

  /** The rows that the source has added. */
  public Newcomers newcomers() {
    return newcomers;
  }

  /** Whether the target never had a numbered row of the source. */
  public boolean isNew(Table table, List<Value> row) throws IOException {
    Optional<Newcomer> newcomer =
        table.isNumbered()
            ? newcomers.find(table.name(), row.get(table.number()))
            : Optional.empty();
    return newcomer.isPresent() && fates.of(newcomer.get()) instanceof Newcomer.Numbered;
  }

  /** The values of a row of the source in the target's terms. */
  public List<Value> mapped(int table, List<Value> values) throws IOException {
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
      Optional<Newcomer> newcomer = newcomers.find(to, new Value.Whole(number));
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
  public Map<Integer, NumberPlaces> inside(int table, List<Value> raw, boolean guessed)
      throws IOException {
    return inside.of(comparison.tables().get(table), raw, guessed);
  }

  /** The places of numbers inside a row of the source. */
  public Map<Integer, NumberPlaces> inside(int table, List<Value> raw) throws IOException {
    return inside.of(comparison.tables().get(table), raw);
  }

  /**
   * The places of numbers inside a row of the source in the target's terms.
   *
   * @param raw the row as it is on the source, where the rows are looked up that rules depend on
   */
  public Map<Integer, NumberPlaces> insideOfMapped(int table, List<Value> mapped, List<Value> raw)
      throws IOException {
    return inside.of(comparison.tables().get(table), mapped, raw);
  }

  /**
   * The places of numbers inside a row of the target, or of what it is going to be.
   *
   * @param there the row as it is on the target, where the rows are looked up that rules depend on:
   *     what it is going to be may name rows that are not there yet
   */
  public Map<Integer, NumberPlaces> insideOfTarget(int table, List<Value> values, List<Value> there)
      throws IOException {
    return insideOfTarget.of(comparison.tables().get(table), values, there);
  }

  /** Members of a row of the source that say where others are shown. */
  public List<InsideReferences.Showing> showings(int table, List<Value> raw) throws IOException {
    return inside.showings(comparison.tables().get(table), raw);
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
      Optional<Newcomer> found =
          newcomers.find(reference.target(), reference.targetColumns(), referred);
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
    Optional<Integer> position = newcomers.positionOf(reference.target());
    boolean byNumber =
        position.isPresent()
            && reference.targetColumns().size() == 1
            && reference.targetColumns().get(0)
                == comparison.tables().get(position.get()).table().number();
    return byNumber
        ? Newcomers.numberOf(referred.get(0))
            .flatMap(number -> past.number(new RowName(reference.target(), number)))
            .map(Value.Whole::new)
        : Optional.empty();
  }

  /** The values of an added row in the target's terms, its own number included. */
  public List<Value> mapped(Newcomer newcomer) throws IOException {
    List<Value> mapped = mapped(newcomer.table, sourceValues(newcomer));
    int number = comparison.tables().get(newcomer.table).table().number();
    if (number >= 0) {
      mapped.set(number, cell(newcomer, number));
    }
    Optional<Integer> named =
        fates.isKeptApart(newcomer)
            ? FreedNames.column(comparison.tables().get(newcomer.table))
            : Optional.empty();
    if (named.isPresent() && fates.of(newcomer) instanceof Newcomer.Numbered) {
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
    Newcomer.Fate fate = fates.of(newcomer);
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
  public Row left(int table, List<Value> raw, List<Value> mapped, Row now) throws IOException {
    Optional<PastMerges.Left> known = left.whole(table, left.key(table, now.values()));
    return known.isPresent()
        ? left.of(table, now.key(), known.get(), raw, mapped, now.values())
        : Row.ABSENT;
  }

  /**
   * A row of the base with what merges left in the source's terms put into the target's.
   *
   * @param raw the source's row, its references in its own terms; empty if it has none
   */
  public Row base(int table, Row base, List<Value> raw) throws IOException {
    return left.base(table, base, raw, List.of());
  }

  /** The same of a row that the source removed. */
  public Row baseOfRemoved(int table, Row base, Row onTarget) throws IOException {
    Row before =
        left.base(table, base, List.of(), onTarget.isPresent() ? onTarget.values() : base.values());
    int number = comparison.tables().get(table).table().number();
    if (!before.isPresent() || !onTarget.isPresent() || number < 0) {
      return before;
    }
    // What was made anew has a number of its own.
    List<Value> values = new ArrayList<>(before.values());
    values.set(number, onTarget.values().get(number));
    return Row.of(before.key(), values);
  }

  /**
   * The target's row that it has made anew of one that both copies removed; absent if there is
   * none.
   */
  public Row madeAnewOnTarget(long at, Difference removed) throws IOException {
    return fates.madeAnewOnTarget(at, removed).orElse(Row.ABSENT);
  }

  /** A row that the target has removed since, as the last merge left it. */
  public Row left(int table, Newcomer.Gone gone, SortKey key, List<Value> raw, List<Value> mapped)
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
            : left.whole(table, left.key(table, mapped));
    return known.isPresent()
        ? left.of(table, key, known.get(), raw, mapped, List.of())
        : Row.ABSENT;
  }
}
