package weftex.store.receipt;

import java.io.IOException;
import java.math.BigInteger;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Collections;
import java.util.HashMap;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.function.Function;
import java.util.stream.Collectors;
import weftex.core.change.Action;
import weftex.core.row.RowName;
import weftex.core.row.Value;
import weftex.store.Refusal;
import weftex.store.rows.Ledger;

/**
 * What merges settled of the rows of a copy since the base was recorded, and no undo took back, as
 * the receipts tell: the source's values as drafted, cell by cell. An apply counts if the copy's
 * own ledger has it: what a rolled back run or a restored backup lacks was never merged. Memory
 * holds keys, not values.
 */
public final class MergedRows implements AutoCloseable {
  private final List<ReceiptRows> files = new ArrayList<>();
  private final Map<String, Map<Map<String, Value>, List<MergedStep>>> steps = new HashMap<>();
  private final Map<RowName, BigInteger> made = new LinkedHashMap<>();
  private final Map<RowName, BigInteger> sources = new HashMap<>();
  private final Map<RowName, Replaced> replaced = new LinkedHashMap<>();
  private final Map<String, List<ReceiptRows.Written>> keptIn = new HashMap<>();
  private final Map<RowName, MergedStep> withheld = new HashMap<>();
  private final Map<String, Ledger.Entry> missing = new LinkedHashMap<>();
  private final boolean asksAgain;

  /** A row whose number another one has now. */
  private record Replaced(Map<String, Value> key, List<MergedStep> steps) {}

  interface Reader {
    ReceiptRows.Written read() throws IOException;
  }

  private MergedRows(boolean asksAgain) {
    this.asksAgain = asksAgain;
  }

  /**
   * Reads the receipts of what was applied to a copy.
   *
   * @param entries of the copy's ledger that count, in their order
   * @param asksAgain whether what people decided for this copy's side is not settled after all
   * @throws Refusal if a receipt is not as it was written
   */
  public static MergedRows of(List<Ledger.Entry> entries, Receipts receipts, boolean asksAgain)
      throws IOException, Refusal {
    MergedRows merged = new MergedRows(asksAgain);
    Map<String, Receipt> known =
        receipts.all().stream().collect(Collectors.toMap(Receipt::id, Function.identity()));
    Set<String> cancelled = cancelled(entries, known);
    try {
      for (Ledger.Entry entry : entries) {
        if (cancelled.contains(entry.receipt())) {
          continue;
        }
        Receipt receipt = known.get(entry.receipt());
        Path file = receipts.file(entry.receipt());
        if (receipt == null) {
          merged.missing.remove(entry.changeSet());
          if (entry.kind().equals("apply")) {
            merged.missing.put(entry.changeSet(), entry);
          }
        } else if (Files.exists(file)) {
          merged.take(receipt, receipts, entry);
        }
      }
    } catch (IOException | Refusal | RuntimeException e) {
      merged.close();
      throw e;
    }
    return merged;
  }

  /**
   * Applies that were undone to the last row, and those undos: together they settled nothing, and
   * need not be read.
   */
  private static Set<String> cancelled(List<Ledger.Entry> entries, Map<String, Receipt> known) {
    Set<String> here = entries.stream().map(Ledger.Entry::receipt).collect(Collectors.toSet());
    Set<String> cancelled = new HashSet<>();
    Set<String> inPart = new HashSet<>();
    for (Ledger.Entry entry : entries) {
      Receipt undo = known.get(entry.receipt());
      if (undo == null || undo.undoes().isEmpty()) {
        continue;
      }
      Receipt applied = known.get(undo.undoes().get());
      boolean whole =
          applied != null
              && here.contains(applied.id())
              && !undo.part()
              && !inPart.contains(applied.id())
              && undo.adds() == applied.removes()
              && undo.updates() == applied.updates()
              && undo.removes() == applied.adds();
      if (whole) {
        cancelled.addAll(List.of(applied.id(), undo.id()));
      } else {
        inPart.add(undo.undoes().get());
      }
    }
    return cancelled;
  }

  private void take(Receipt receipt, Receipts receipts, Ledger.Entry entry)
      throws IOException, Refusal {
    SealReading seal = new SealReading();
    ReceiptRows rows;
    try {
      rows = receipts.rows(receipt.id(), seal, (of, index, row) -> take(receipt, of, index, row));
    } catch (IOException | RuntimeException e) {
      // A row that can't be read is the lesser news where the file isn't what was written.
      receipts.check(receipt.id(), entry);
      throw e;
    }
    files.add(rows);
    Path file = receipts.file(receipt.id());
    seal.seal(file).check(file, entry);
    takeKept(receipt, rows);
    if (receipt.undoes().isPresent() && !receipt.part()) {
      // What was decided along with it is open again.
      for (ReceiptRows.Written row : keptIn.getOrDefault(receipt.undoes().get(), List.of())) {
        takeBack(row.table(), Map.copyOf(row.key()), receipt.undoes().get());
      }
      withheld.values().removeIf(step -> step.receipt().equals(receipt.undoes().get()));
    }
  }

  private void takeKept(Receipt receipt, ReceiptRows rows) throws IOException, Refusal {
    for (int i = 0; i < rows.keptSize(); i++) {
      ReceiptRows.Written row = rows.kept(i);
      if (asksAgain && row.change() > 0) {
        continue;
      }
      int at = i;
      MergedStep step =
          new MergedStep(
              receipt.id(),
              receipt.at(),
              () -> rows.kept(at),
              row.action(),
              row.change() > 0,
              source(row));
      if (row.action() == Action.ADD && row.fresh().isPresent()) {
        withheld.put(row.fresh().get(), step);
      } else {
        add(row, step);
      }
      keptIn.computeIfAbsent(receipt.id(), id -> new ArrayList<>()).add(row);
    }
  }

  private void take(Receipt receipt, ReceiptRows rows, int index, ReceiptRows.Written row) {
    if (receipt.undoes().isPresent()) {
      takeBack(row.table(), Map.copyOf(row.key()), receipt.undoes().get());
      return;
    }
    replace(row);
    add(
        row,
        new MergedStep(
            receipt.id(),
            receipt.at(),
            () -> asksAgain ? rows.written(index).unanswered() : rows.written(index),
            row.action(),
            false,
            source(row)));
  }

  /** Sets aside what is known of another row that had the number of a new one before. */
  private void replace(ReceiptRows.Written row) {
    List<MergedStep> of = steps(row.table(), row.key());
    boolean other =
        row.action() == Action.ADD
            && row.fresh().isPresent()
            && !of.isEmpty()
            && row.key().values().iterator().next() instanceof Value.Whole;
    if (other) {
      BigInteger number = ((Value.Whole) row.key().values().iterator().next()).number();
      BigInteger before = sources.get(new RowName(row.table(), number));
      if (before != null && !before.equals(row.fresh().get().number())) {
        replaced.put(
            new RowName(row.table(), before), new Replaced(Map.copyOf(row.key()), List.copyOf(of)));
        steps.get(row.table()).remove(row.key());
      }
    }
  }

  private List<MergedStep> steps(String table, Map<String, Value> key) {
    return steps.getOrDefault(table, Map.of()).getOrDefault(key, List.of());
  }

  /**
   * The row on the other copy, if a merge paired it with this one: it made this one of it, or both
   * copies had added the thing.
   */
  private static Optional<RowName> source(ReceiptRows.Written row) {
    if (row.action() == Action.ADD && row.fresh().isPresent()) {
      return row.fresh();
    }
    Optional<Value> number =
        row.action() == Action.UPDATE && row.key().size() == 1
            ? Optional.ofNullable(row.values().get(row.key().keySet().iterator().next()))
            : Optional.empty();
    return number
        .filter(Value.Whole.class::isInstance)
        .map(whole -> new RowName(row.table(), ((Value.Whole) whole).number()));
  }

  private void add(ReceiptRows.Written row, MergedStep step) {
    if (step.source().isPresent()
        && row.key().size() == 1
        && row.key().values().iterator().next() instanceof Value.Whole here) {
      made.put(step.source().get(), here.number());
      sources.put(new RowName(row.table(), here.number()), step.source().get().number());
    }
    steps
        .computeIfAbsent(row.table(), name -> new HashMap<>())
        .computeIfAbsent(Map.copyOf(row.key()), key -> new ArrayList<>())
        .add(step);
  }

  private void takeBack(String name, Map<String, Value> key, String undone) {
    Map<Map<String, Value>, List<MergedStep>> table = steps.getOrDefault(name, Map.of());
    List<MergedStep> of = table.getOrDefault(key, List.of());
    for (MergedStep step : List.copyOf(of)) {
      if (step.receipt().equals(undone)) {
        of.remove(step);
        if (step.source().isPresent()) {
          BigInteger number = made.remove(step.source().get());
          sources.remove(new RowName(name, number));
        }
      }
    }
    if (of.isEmpty()) {
      table.remove(key);
      replaced.entrySet().stream()
          .filter(old -> old.getKey().table().equals(name) && old.getValue().key().equals(key))
          .reduce((earlier, later) -> later)
          .ifPresent(
              old -> {
                table.put(key, new ArrayList<>(old.getValue().steps()));
                Value.Whole number = (Value.Whole) key.values().iterator().next();
                sources.put(new RowName(name, number.number()), old.getKey().number());
                replaced.remove(old.getKey());
              });
    }
  }

  /**
   * The values of a row of the other copy of which somebody decided that none is added here, as far
   * as they were known; empty if nobody did.
   */
  public Optional<Map<String, Value>> withheld(RowName source) throws IOException {
    return withheld.containsKey(source)
        ? Optional.of(withheld.get(source).reader().read().values())
        : Optional.empty();
  }

  /** Whether somebody decided of a row of the other copy that none is added here. */
  public boolean isWithheld(RowName source) {
    return withheld.containsKey(source);
  }

  /** The number that an added row got here, by its name on the other copy. */
  public Optional<BigInteger> made(RowName source) {
    return Optional.ofNullable(made.get(source));
  }

  /**
   * Applies since the base that the copy's ledger knows and no receipt here tells of, and that were
   * not undone: somebody merged from another folder.
   */
  public List<Ledger.Entry> missing() {
    return List.copyOf(missing.values());
  }

  /** The numbers here of all rows that merges paired, by their names on the other copy. */
  public Map<RowName, BigInteger> pairs() {
    return Collections.unmodifiableMap(made);
  }

  /** The number that an added row of this copy has on the one that it came from. */
  public Optional<BigInteger> source(RowName here) {
    return Optional.ofNullable(sources.get(here));
  }

  /** How many rows have another number here than on the copy that they came from. */
  public long renumbered() {
    return made.entrySet().stream()
        .filter(entry -> !entry.getKey().number().equals(entry.getValue()))
        .count();
  }

  /** The keys of the rows of a table that were written, by column. */
  public Set<Map<String, Value>> keys(String table) {
    return steps.getOrDefault(table, Map.of()).keySet();
  }

  /** Whether the row with a key was added by an apply. */
  public boolean isAdded(String table, Map<String, Value> key) {
    List<MergedStep> of = steps(table, key);
    return !of.isEmpty() && of.get(0).action() == Action.ADD;
  }

  /**
   * What one merge settled of a row.
   *
   * @param at when, as the receipt says
   * @param action what it did with the row
   * @param kept whether it did not, as somebody decided
   * @param values the source's, as they were merged: all of an added row, none of a removed one
   */
  public record Settled(String at, Action action, boolean kept, Map<String, Value> values) {}

  /** What merges settled of a row, in the order of the ledger. */
  public List<Settled> settled(String table, Map<String, Value> key) throws IOException {
    return settled(steps(table, key));
  }

  /** The same for a row whose number another one has since; empty if that is not so. */
  public Optional<List<Settled>> replaced(RowName source) throws IOException {
    return replaced.containsKey(source)
        ? Optional.of(settled(replaced.get(source).steps()))
        : Optional.empty();
  }

  private static List<Settled> settled(List<MergedStep> of) throws IOException {
    List<Settled> settled = new ArrayList<>();
    for (MergedStep step : of) {
      settled.add(
          new Settled(step.at(), step.action(), step.kept(), step.reader().read().values()));
    }
    return settled;
  }

  @Override
  public void close() throws IOException {
    for (ReceiptRows rows : files) {
      rows.close();
    }
  }
}
