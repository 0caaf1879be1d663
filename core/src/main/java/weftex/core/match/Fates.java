package weftex.core.match;

import java.io.IOException;
import java.math.BigInteger;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import weftex.core.compare.Comparison;
import weftex.core.compare.Difference;
import weftex.core.reference.RowFinder;
import weftex.core.row.Row;
import weftex.core.row.RowName;
import weftex.core.row.Table;
import weftex.core.row.Value;
import weftex.core.site.SiteMap;
import weftex.core.site.TableModel;

/**
 * Decides what becomes of the rows that the source has added: the target has the same thing, had
 * it, or gets it as a new one. In this order: what somebody says, what earlier merges made, who a
 * person is, and what a thing's identity tells.
 */
public final class Fates {

  private final Comparison comparison;
  private final SiteMap site;
  private final RowFinder source;
  private final RowFinder target;
  private final Newcomers newcomers;
  private final Sameness said;
  private final PastMerges past;
  private final LeftRow left;
  private final Terms terms;
  private final Set<Long> madeAnew = new HashSet<>();
  private final Set<Long> known = new HashSet<>();

  /** Rows of the target that are the same thing as one of the source's. */
  private final Set<List<Object>> claimed = new HashSet<>();

  private final GoneOnBoth goneOnBoth;
  private final SameThing sameThing;

  /** Puts rows of the source into the target's terms, which needs the fates of others. */
  interface Terms {
    List<Value> mapped(int table, List<Value> values) throws IOException;

    /** Only as much as some columns need, so that rows may refer to each other in circles. */
    List<Value> mapped(int table, List<Value> values, List<Integer> columns) throws IOException;
  }

  Fates(
      Comparison comparison,
      SiteMap site,
      Newcomers newcomers,
      Copies copies,
      Knowledge known,
      Merging merging) {
    this.comparison = comparison;
    this.site = site;
    this.newcomers = newcomers;
    this.source = copies.source();
    this.target = copies.target();
    this.said = known.said();
    this.past = known.past();
    this.left = merging.left();
    this.terms = merging.terms();
    this.goneOnBoth = new GoneOnBoth(comparison, target, newcomers, merging);
    this.sameThing = new SameThing(terms, source, target, newcomers, claimed, site);
  }

  /** The rows of both copies. */
  record Copies(RowFinder source, RowFinder target) {}

  /** What puts rows into the target's terms. */
  record Merging(LeftRow left, Terms terms) {}

  /** Decides on all: what is known claims its row before others look for one of their identity. */
  void decide() throws IOException {
    for (Newcomer newcomer : newcomers.all()) {
      boolean isKnown =
          newcomer.name.isPresent()
              && (said.same().containsKey(newcomer.name.get())
                  || past.twin(newcomer.name.get()).isPresent());
      if (isKnown) {
        of(newcomer);
      }
    }
    for (Newcomer newcomer : newcomers.all()) {
      of(newcomer);
    }
  }

  /** Rows that were to be kept apart, and that are none that the source added. */
  public Set<RowName> notApart() {
    Set<RowName> unknown = new HashSet<>(said.apart());
    unknown.removeIf(row -> newcomers.find(row.table(), new Value.Whole(row.number())).isPresent());
    return unknown;
  }

  /** Why rows can't be the same as what somebody said, as sentences; empty if all can. */
  public List<String> notSame() throws IOException {
    List<String> reasons = new ArrayList<>();
    for (Map.Entry<RowName, BigInteger> pair : said.same().entrySet()) {
      RowName row = pair.getKey();
      RowName other = new RowName(row.table(), pair.getValue());
      Optional<Newcomer> newcomer = newcomers.find(row.table(), new Value.Whole(row.number()));
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
  public boolean isKeptApart(Newcomer newcomer) {
    return newcomer.name.filter(said.apart()::contains).isPresent();
  }

  /** Whether the source removed the row at this position only to make the same thing anew. */
  public boolean wasMadeAnew(long removedAt) {
    return madeAnew.contains(removedAt);
  }

  /** What the target alone has made anew of a row that both copies removed. */
  Optional<Row> madeAnewOnTarget(long at, Difference row) throws IOException {
    return goneOnBoth.onTarget(at, row);
  }

  /**
   * Whether the row at this position is an account of somebody who has another one on the target.
   */
  public boolean isKnownPerson(long at) {
    return known.contains(at);
  }

  /** What becomes of an added row; found out once. */
  public Newcomer.Fate of(Newcomer newcomer) throws IOException {
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
      return fateOfTwin(newcomer, table, twin);
    }
    if (!row.target().isPresent()
        && left.wasKept(newcomer.table, Table.pick(values, table.key()))) {
      return new Newcomer.Gone(Optional.empty());
    }
    return fateOfUntold(newcomer, row, model, values, name);
  }

  /** Nobody said and no merge tells: a person that both know, the same identity, or a newcomer. */
  private Newcomer.Fate fateOfUntold(
      Newcomer newcomer, Difference row, TableModel model, List<Value> values, RowName name)
      throws IOException {
    if (isKeptApart(newcomer)) {
      return new Newcomer.Numbered(name, row.target().isPresent() || past.isUsed(name));
    }
    Optional<Row> person = person(model, values);
    if (person.isPresent()) {
      known.add(newcomer.at);
      return matched(newcomer, person.get());
    }
    if (model.identity().isOf(values)) {
      Optional<Row> same = sameThing.same(newcomer, model, values);
      if (same.isPresent()) {
        claimed.add(List.of(newcomer.table, same.get().key()));
        return matched(newcomer, same.get());
      }
      Optional<List<Value>> before = goneOnBoth.before(newcomer, model, values);
      if (before.isPresent()) {
        return new Newcomer.Gone(Optional.empty(), before);
      }
    } else if (row.target().isPresent()
        && terms.mapped(newcomer.table, values).equals(row.target().values())) {
      return new Newcomer.Matched(row.target(), -1);
    }
    return new Newcomer.Numbered(name, row.target().isPresent() || past.isUsed(name));
  }

  private Newcomer.Fate fateOfTwin(Newcomer newcomer, Table table, Optional<PastMerges.Twin> twin)
      throws IOException {
    Optional<Row> made =
        twin.get().replaced()
            ? Optional.empty()
            : onlyOne(
                table, List.of(table.number()), List.of(new Value.Whole(twin.get().number())));
    made.ifPresent(same -> claimed.add(List.of(newcomer.table, same.key())));
    return made.isPresent() ? matched(newcomer, made.get()) : new Newcomer.Gone(twin);
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
    Optional<Row> same = person(table, known, values);
    return same.isPresent() || model.handling().masked().isEmpty()
        ? same
        : person(table, known, terms.mapped(comparison.tables().indexOf(model), values, known));
  }

  private Optional<Row> person(Table table, List<Integer> known, List<Value> values)
      throws IOException {
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
              && terms.mapped(newcomer.table, row.source().values()).equals(row.source().values())
          ? new Newcomer.Matched(row.target(), -1)
          : new Newcomer.Keyed();
    }
    List<Value> values = row.source().values();
    List<Value> mapped = terms.mapped(newcomer.table, values, table.key());
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
    return new Newcomer.Matched(same, newcomers.removedAt(newcomer.table, same.key()));
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
}
