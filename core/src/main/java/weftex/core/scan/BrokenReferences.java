package weftex.core.scan;

import java.io.IOException;
import java.math.BigInteger;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import weftex.core.model.Role;
import weftex.core.reference.InsideReferences;
import weftex.core.reference.NumberPlaces;
import weftex.core.reference.RowFinder;
import weftex.core.row.Table;
import weftex.core.row.Value;
import weftex.core.site.Reference;
import weftex.core.site.SiteMap;
import weftex.core.site.TableModel;

/**
 * Finds references to rows that are not there. Memory grows with a bit for each numbered row, and
 * with the references that are not found yet: those to rows which come later.
 */
final class BrokenReferences {
  /** References to rows that have not come yet; more are looked up singly. */
  private static final int MOST_WAITING = 50_000;

  private final SiteMap site;
  private final RowFinder rows;
  private final InsideReferences inside;
  private final Findings findings;
  private final Map<String, NumberSet> present = new HashMap<>();
  private final Set<String> whole = new HashSet<>();
  private final Map<Target, List<Waiting>> waiting = new LinkedHashMap<>();
  private int waitingCount;
  private boolean lookingUp;

  /** A number of a table. */
  private record Target(String table, BigInteger number) {}

  /**
   * A reference of the model to rows that are told by a number.
   *
   * @param met the numbers that have been met
   */
  record Checked(int column, Reference reference, NumberSet met) {}

  /** A reference whose row has not been met. */
  private record Waiting(String table, String key, String column, Role role) {}

  /**
   * @param hosts by which the copies are known
   */
  BrokenReferences(SiteMap site, RowFinder rows, Set<String> hosts, Findings findings) {
    this.site = site;
    this.rows = rows;
    this.inside = new InsideReferences(rows, hosts);
    this.findings = findings;
    for (TableModel model : site.tables()) {
      if (isNumber(model.table(), model.table().key())) {
        present.put(model.table().name(), new NumberSet());
      }
    }
  }

  private static boolean isNumber(Table table, List<Integer> columns) {
    return columns.size() == 1
        && table.key().equals(columns)
        && table.columns().get(columns.get(0)).kind() == weftex.core.row.ValueKind.WHOLE;
  }

  /** From here on rows come by themselves, and what they refer to is looked up. */
  void lookUp() {
    lookingUp = true;
  }

  /** The references of a table that are looked at. */
  List<Checked> of(TableModel model) {
    List<Checked> references = new ArrayList<>();
    for (Reference reference : model.references()) {
      TableModel to = site.table(reference.target());
      if (!reference.enforced() && isNumber(to.table(), reference.targetColumns())) {
        references.add(
            new Checked(reference.columns().get(0), reference, present.get(reference.target())));
      }
    }
    return references;
  }

  /** Takes in that a row is there. */
  void met(TableModel model, List<Value> values) {
    NumberSet numbers = present.get(model.table().name());
    if (numbers != null && values.get(model.table().key().get(0)) instanceof Value.Whole whole) {
      numbers.add(whole.number());
    }
  }

  /** Takes in that all rows of a table have come. */
  void read(TableModel model) {
    whole.add(model.table().name());
  }

  /**
   * Looks at a row.
   *
   * @param references of its table
   */
  void row(TableModel model, List<Checked> references, List<Value> values) throws IOException {
    for (Checked checked : references) {
      Value referred = values.get(checked.column());
      boolean met = referred instanceof Value.Whole whole && checked.met().contains(whole.number());
      if (!met && !checked.reference().isUnset(List.of(referred))) {
        refer(model, values, checked.column(), checked.reference().target(), referred);
      }
    }
    if (model.contents().inside().isEmpty()) {
      return;
    }
    for (Map.Entry<Integer, NumberPlaces> column : inside.of(model, values).entrySet()) {
      if (model.handling().permanent().contains(column.getKey())) {
        // It names the row itself, by whatever number it once had.
        continue;
      }
      for (InsideReferences.Found found :
          InsideReferences.references(column.getValue(), values.get(column.getKey()))) {
        if (present.containsKey(found.table())) {
          refer(model, values, column.getKey(), found.table(), found.number());
        }
      }
    }
  }

  private void refer(TableModel model, List<Value> values, int column, String to, Value number)
      throws IOException {
    BigInteger wanted;
    if (number instanceof Value.Whole whole) {
      wanted = whole.number();
    } else if (number.display().matches("\\d{1,20}")) {
      wanted = new BigInteger(number.display());
    } else {
      return;
    }
    if (present.get(to).contains(wanted)) {
      return;
    }
    Waiting place =
        new Waiting(
            model.table().name(),
            Finding.key(model, values),
            model.table().columns().get(column).name(),
            model.ownership().role(values));
    if (!lookingUp && whole.contains(to)) {
      broken(new Target(to, wanted), place);
    } else if (!lookingUp && waitingCount < MOST_WAITING) {
      waiting.computeIfAbsent(new Target(to, wanted), unused -> new ArrayList<>()).add(place);
      waitingCount++;
    } else {
      Table shape = site.table(to).table();
      if (rows.count(shape, shape.key(), List.of(new Value.Whole(wanted))) == 0) {
        broken(new Target(to, wanted), place);
      }
    }
  }

  private void broken(Target target, Waiting place) {
    findings.add(
        new Finding(
            FindingKind.BROKEN_REFERENCE,
            place.table(),
            place.key(),
            place.column(),
            target.table() + " " + target.number(),
            place.role()));
  }

  /** Settles what could only be known when all tables were read. */
  void finish() {
    waiting.forEach(
        (target, places) -> {
          if (!present.get(target.table()).contains(target.number())) {
            places.forEach(place -> broken(target, place));
          }
        });
    waiting.clear();
  }
}
