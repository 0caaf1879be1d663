package weftex.store.receipt;

import java.io.IOException;
import java.util.HashMap;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Collectors;
import weftex.core.change.Action;
import weftex.core.change.RowChange;
import weftex.core.row.RowName;
import weftex.core.row.Value;
import weftex.store.Refusal;

/**
 * What was merged into a copy, taken back by an undo, and not merged again since: nobody who is
 * asked wants it a second time by itself. Memory holds keys of the undone rows, not values.
 */
public final class Undone {
  private final Map<RowName, Row> added = new HashMap<>();
  private final Map<String, Map<Map<String, Value>, Row>> others = new HashMap<>();

  /**
   * A row as an apply wrote it.
   *
   * @param columns those that it got from the source
   * @param fresh the source's row of which a new one was made
   * @param at when it was taken back; empty before that
   */
  private record Row(Action action, Set<String> columns, Optional<RowName> fresh, String at) {}

  private Undone() {}

  /**
   * Reads what was taken back.
   *
   * @param target the place of the copy that was merged into
   * @throws Refusal if a receipt is of a newer format
   */
  public static Undone of(Receipts receipts, String target) throws IOException, Refusal {
    List<Receipt> done =
        receipts.all().stream()
            .filter(receipt -> receipt.outcome() == Receipt.Outcome.COMMITTED)
            .filter(receipt -> receipt.target().equals(target))
            .toList();
    Set<String> takenBack =
        done.stream().flatMap(receipt -> receipt.undoes().stream()).collect(Collectors.toSet());
    Undone undone = new Undone();
    Map<String, Map<String, Map<Map<String, Value>, Row>>> written = new HashMap<>();
    for (Receipt receipt : done) {
      if (takenBack.isEmpty()) {
        break;
      }
      try (ReceiptRows rows = receipts.rows(receipt.id())) {
        for (int i = 0; i < rows.size(); i++) {
          ReceiptRows.Written row = rows.written(i);
          if (receipt.undoes().isPresent()) {
            Optional.ofNullable(
                    written
                        .getOrDefault(receipt.undoes().get(), Map.of())
                        .getOrDefault(row.table(), Map.of())
                        .get(row.key()))
                .ifPresent(was -> undone.take(row, was, receipt.at()));
            continue;
          }
          Row made = new Row(row.action(), row.values().keySet(), row.fresh(), "");
          undone.forget(row);
          if (takenBack.contains(receipt.id())) {
            written
                .computeIfAbsent(receipt.id(), id -> new HashMap<>())
                .computeIfAbsent(row.table(), name -> new HashMap<>())
                .put(Map.copyOf(row.key()), made);
          }
        }
      }
    }
    return undone;
  }

  private void take(ReceiptRows.Written row, Row was, String at) {
    Row back = new Row(was.action(), Set.copyOf(was.columns()), was.fresh(), at);
    if (was.fresh().isPresent()) {
      added.put(was.fresh().get(), back);
    } else {
      others.computeIfAbsent(row.table(), name -> new HashMap<>()).put(Map.copyOf(row.key()), back);
    }
  }

  private void forget(ReceiptRows.Written row) {
    row.fresh().ifPresent(added::remove);
    Optional.ofNullable(others.get(row.table())).ifPresent(rows -> rows.remove(row.key()));
  }

  /** Whether nothing is undone. */
  public boolean isNothing() {
    return added.isEmpty() && others.values().stream().allMatch(Map::isEmpty);
  }

  /**
   * When the same change was taken back, as an ISO 8601 instant; empty if it was not. An update is
   * the same if it writes one of those columns.
   */
  public Optional<String> at(RowChange change) {
    Row row =
        change.fresh().isPresent()
            ? added.get(change.fresh().get())
            : others.getOrDefault(change.table(), Map.of()).get(keyOnTarget(change));
    return Optional.ofNullable(row)
        .filter(was -> was.action() == change.action())
        .filter(was -> was.action() != Action.UPDATE || writes(change, was.columns()))
        .map(Row::at);
  }

  /** An added row's key is the source's, its values are the target's. */
  private static Map<String, Value> keyOnTarget(RowChange change) {
    Map<String, Value> key = new LinkedHashMap<>(change.key());
    if (change.action() == Action.ADD) {
      key.replaceAll((column, value) -> change.after().getOrDefault(column, value));
    }
    return key;
  }

  private static boolean writes(RowChange change, Set<String> columns) {
    Set<String> written = new HashSet<>(change.after().keySet());
    change.conflicts().forEach(conflict -> written.addAll(conflict.columns()));
    return columns.stream().anyMatch(written::contains);
  }
}
