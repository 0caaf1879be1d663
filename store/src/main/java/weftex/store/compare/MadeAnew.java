package weftex.store.compare;

import java.io.IOException;
import java.math.BigInteger;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeSet;
import java.util.stream.Collectors;
import weftex.core.model.SiteModel;
import weftex.core.reference.RowFinder;
import weftex.core.row.Row;
import weftex.core.row.RowName;
import weftex.core.row.Value;
import weftex.core.site.ItemNaming;
import weftex.core.site.SiteMap;
import weftex.core.site.TableModel;
import weftex.store.Refusal;
import weftex.store.capture.Capture;
import weftex.store.copy.Copy;
import weftex.store.copy.Pairing;
import weftex.store.database.Layout;
import weftex.store.database.SharedTable;
import weftex.store.receipt.MergedRows;
import weftex.store.receipt.Receipts;
import weftex.store.rows.Snapshot;

/**
 * Notices by likeness that a copy was recreated from the other one, where no ledger came along to
 * tell: its rows that merges know under two IDs have the other copy's IDs now. A few of them are
 * looked at.
 */
public final class MadeAnew {
  private static final int LOOKED_AT = 5;

  private final Map<String, TableModel> models;
  private final RowFinder copy;
  private final RowFinder other;

  /** A row with the ID that each copy has given it. */
  private record Known(String table, BigInteger here, BigInteger there) {}

  /**
   * @param models the tables that are compared
   * @param copy the rows of the copy that may have been made anew
   * @param other the rows of the one that it may have been made from
   */
  MadeAnew(Map<String, TableModel> models, RowFinder copy, RowFinder other) {
    this.models = models;
    this.copy = copy;
    this.other = other;
  }

  /**
   * Whether it was.
   *
   * @param from what was merged from the copy into the other
   * @param into what was merged from the other into the copy
   */
  boolean isSo(MergedRows from, MergedRows into) throws IOException {
    List<Known> known = new ArrayList<>();
    from.pairs().forEach((row, there) -> add(known, row.table(), row.number(), there));
    into.pairs().forEach((row, here) -> add(known, row.table(), here, row.number()));
    // A row that has such an ID since a merge gave it that proves nothing.
    Set<RowName> own = new HashSet<>(from.pairs().keySet());
    into.pairs().forEach((row, here) -> own.add(new RowName(row.table(), here)));
    known.removeIf(pair -> own.contains(new RowName(pair.table(), pair.there())));
    int held = 0;
    int strayed = 0;
    int step = Math.max(1, known.size() / LOOKED_AT);
    for (int i = 0; i < known.size() && i / step < LOOKED_AT; i += step) {
      Known pair = known.get(i);
      TableModel model = models.get(pair.table());
      Optional<Row> there = row(other, model, pair.there());
      if (there.isPresent()) {
        held += isLike(model, row(copy, model, pair.here()), there.get()) ? 1 : 0;
        strayed += isLike(model, row(copy, model, pair.there()), there.get()) ? 1 : 0;
      }
    }
    return strayed > held && held == 0;
  }

  /**
   * Whether a copy was recreated from another, of which nothing else is known.
   *
   * @param model what the tables mean
   */
  public static boolean isSo(
      Copy copy, Copy other, SiteModel model, Receipts receipts, Capture base)
      throws Refusal, IOException {
    CopyMarks marks = CopyMarks.of(copy, other.name(), base);
    if (marks.isProven()) {
      return false;
    }
    Pairing pairing = Pairing.of(copy, other);
    SiteMap site =
        SiteMap.resolve(model, pairing.targetLayouts().stream().map(Layout::table).toList());
    Map<String, TableModel> models =
        pairing.shared().stream()
            .collect(Collectors.toMap(SharedTable::name, table -> site.table(table.name())));
    try (MergedRows from =
            MergedRows.of(CopyMarks.of(other, copy.name(), base).since(), receipts, false);
        MergedRows into = MergedRows.of(marks.since(), receipts, false);
        Snapshot here = copy.snapshot(pairing.sourceLayouts());
        Snapshot there = other.snapshot(pairing.targetLayouts())) {
      return new MadeAnew(models, here, there).isSo(from, into);
    }
  }

  /** What is said of it. */
  static Refusal refusal(String copy, String other) {
    return new Refusal(
        Refusal.Kind.PROTECTED,
        sentence(copy, other)
            + " By this base its rows would be taken for others. Nothing was changed.",
        "Record a new base with 'weftex mark', which says if the copies differ already.");
  }

  /** What is seen of it. */
  public static String sentence(String copy, String other) {
    return copy
        + " seems to have been recreated from "
        + other
        + " since the base was recorded: rows that merges know under two IDs have "
        + other
        + "'s there now.";
  }

  private void add(List<Known> known, String table, BigInteger here, BigInteger there) {
    if (!here.equals(there)
        && models.containsKey(table)
        && models.get(table).table().isNumbered()
        && isTelling(models.get(table))) {
      known.add(new Known(table, here, there));
    }
  }

  /** Of a part, what it is a part of would have to be known first. */
  private static boolean isTelling(TableModel model) {
    return !names(model).isEmpty()
        || model.identity().columns().stream().noneMatch(column -> isReference(model, column));
  }

  private static List<Integer> names(TableModel model) {
    return model.item().map(ItemNaming::name).orElse(List.of());
  }

  private static boolean isReference(TableModel model, int column) {
    return model.references().stream().anyMatch(r -> r.columns().contains(column));
  }

  private static Optional<Row> row(RowFinder rows, TableModel model, BigInteger number)
      throws IOException {
    return rows
        .find(model.table(), List.of(model.table().number()), List.of(new Value.Whole(number)), 1)
        .stream()
        .findFirst();
  }

  /**
   * Whether two rows are called the same; where nothing says what rows are called, whether most of
   * what they say in words is the same. Rows of one kind have much in common that tells nothing.
   */
  private static boolean isLike(TableModel model, Optional<Row> one, Row other) {
    if (one.isEmpty()) {
      return false;
    }
    List<Value> here = one.get().values();
    List<Value> there = other.values();
    Set<Integer> telling = new TreeSet<>(names(model));
    model.identity().columns().stream().filter(i -> !isReference(model, i)).forEach(telling::add);
    if (!telling.isEmpty()) {
      return telling.stream().allMatch(i -> here.get(i).equals(there.get(i)))
          && telling.stream().noneMatch(i -> there.get(i).display().isEmpty());
    }
    int same = 0;
    int words = 0;
    for (int i = 0; i < there.size(); i++) {
      if (isWord(there.get(i)) && !model.leftAlone().contains(i)) {
        words++;
        same += here.get(i).equals(there.get(i)) ? 1 : 0;
      }
    }
    return words > 0 && 2 * same > words;
  }

  private static boolean isWord(Value value) {
    return value instanceof Value.Text text && text.utf8().length > 0;
  }
}
