package weftex.store.copy;

import java.util.ArrayList;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.function.Function;
import weftex.core.row.Column;
import weftex.core.row.Table;
import weftex.core.row.ValueKind;
import weftex.store.Refusal;
import weftex.store.database.CatalogTable;
import weftex.store.database.KeyPart;
import weftex.store.database.Layout;
import weftex.store.database.SharedTable;

/**
 * The tables of two copies side by side. Rows are compared in the columns that both have, in the
 * terms of the target, or of the stricter of the two databases if they are of different kinds.
 */
public final class Pairing {
  private final List<SharedTable> shared;
  private final List<String> onlyInSource;
  private final List<String> onlyInTarget;
  private final Map<String, String> incomparable;

  private Pairing(
      List<SharedTable> shared,
      List<String> onlyInSource,
      List<String> onlyInTarget,
      Map<String, String> incomparable) {
    this.shared = List.copyOf(shared);
    this.onlyInSource = List.copyOf(onlyInSource);
    this.onlyInTarget = List.copyOf(onlyInTarget);
    this.incomparable = incomparable;
  }

  /** Lays the tables of two copies side by side. */
  public static Pairing of(Copy source, Copy target) throws Refusal {
    List<SharedTable> shared = new ArrayList<>();
    List<String> onlyInTarget = new ArrayList<>();
    Map<String, String> incomparable = new LinkedHashMap<>();
    for (CatalogTable table : target.catalog().all()) {
      String name = table.table().name();
      Optional<CatalogTable> other = source.catalog().find(name);
      if (other.isEmpty()) {
        onlyInTarget.add(name);
        continue;
      }
      Optional<String> reason = PairedTable.whyIncomparable(other.get().table(), table.table());
      if (reason.isPresent()) {
        incomparable.put(name, reason.get());
      } else {
        shared.add(PairedTable.pair(source, other.get(), target, table));
      }
    }
    List<String> onlyInSource =
        source.catalog().tables().keySet().stream()
            .filter(name -> target.catalog().find(name).isEmpty())
            .toList();
    return new Pairing(shared, onlyInSource, onlyInTarget, incomparable);
  }

  /**
   * The same pairing, of only those tables and columns that a base has too.
   *
   * @param columnsOf the base's columns of a table; empty if it lacks the table
   */
  public Pairing within(Function<String, List<String>> columnsOf) {
    List<SharedTable> kept = new ArrayList<>();
    Map<String, String> problems = new LinkedHashMap<>(incomparable);
    for (SharedTable table : shared) {
      Set<String> known = Set.copyOf(columnsOf.apply(table.name()));
      Table shape = table.target().table();
      List<Column> columns =
          shape.columns().stream().filter(c -> known.contains(c.name())).toList();
      boolean hasKey =
          shape.names(shape.key()).stream().allMatch(known::contains) && !columns.isEmpty();
      if (!hasKey || !shape.hasKey() && columns.size() < shape.columns().size()) {
        problems.put(table.name(), "the base does not have it; record a new base to compare it");
        continue;
      }
      Table restricted = PairedTable.restrict(shape, columns);
      kept.add(
          new SharedTable(
              table.source().with(restricted),
              table.target().with(restricted),
              table.onlyInSource(),
              table.onlyInTarget(),
              table.differing()));
    }
    return new Pairing(kept, onlyInSource, onlyInTarget, problems);
  }

  /** The tables that can be compared, by name. */
  public List<SharedTable> shared() {
    return shared;
  }

  /** Tables that only the source has. */
  public List<String> onlyInSource() {
    return onlyInSource;
  }

  /** Tables that only the target has. */
  public List<String> onlyInTarget() {
    return onlyInTarget;
  }

  /**
   * The target's tables that are not compared, in no order that anybody compares by: rows of theirs
   * may refer to rows that are.
   */
  public List<Layout> outside(Copy target) {
    Set<String> compared = new HashSet<>();
    shared.forEach(table -> compared.add(table.name()));
    List<Layout> outside = new ArrayList<>();
    for (CatalogTable table : target.catalog().all()) {
      if (!compared.contains(table.table().name())) {
        List<Integer> order = new Layout(table.table(), "", List.of()).orderColumns();
        List<KeyPart> parts =
            order.stream()
                .map(i -> table.table().columns().get(i).kind())
                .map(kind -> kind == ValueKind.WHOLE ? KeyPart.NUMBER : KeyPart.BYTES)
                .toList();
        outside.add(new Layout(table.table(), table.realName(), parts, table.rows()));
      }
    }
    return outside;
  }

  /** Tables that both have and that can't be compared, with the reason. */
  public Map<String, String> incomparable() {
    return incomparable;
  }

  public List<Layout> sourceLayouts() {
    return shared.stream().map(SharedTable::source).toList();
  }

  public List<Layout> targetLayouts() {
    return shared.stream().map(SharedTable::target).toList();
  }
}
