package weftex.store.scan;

import java.io.IOException;
import java.util.ArrayList;
import java.util.EnumMap;
import java.util.List;
import java.util.Map;
import weftex.core.address.AddressBook;
import weftex.core.address.AddressMap;
import weftex.core.address.MappedRows;
import weftex.core.change.DecidedChange;
import weftex.core.change.Outline;
import weftex.core.change.Review;
import weftex.core.model.Role;
import weftex.core.model.SiteModel;
import weftex.core.row.Column;
import weftex.core.row.Value;
import weftex.core.scan.FindingKind;
import weftex.core.scan.Findings;
import weftex.core.scan.OtherCopy;
import weftex.core.scan.Scanner;
import weftex.core.site.SiteMap;
import weftex.core.site.TableModel;
import weftex.store.Refusal;
import weftex.store.changeset.ChangeSetFile;
import weftex.store.changeset.TouchedRows;
import weftex.store.copy.Copy;
import weftex.store.copy.Pairing;
import weftex.store.database.CopySpec;
import weftex.store.database.Layout;
import weftex.store.receipt.Receipts;
import weftex.store.rows.Snapshot;

/** Looks through the first rows that an apply touched, as they were before and as they are now. */
public final class TouchedScan {
  /** References are looked up one by one, so more rows are left to a scan of the whole copy. */
  private static final int MOST_ROWS = 2000;

  private TouchedScan() {}

  /**
   * How many rows have something wrong, by kind; kinds without any are missing. Of rows before an
   * apply, what they referred to can no longer be asked.
   */
  public record Difference(Map<FindingKind, Long> before, Map<FindingKind, Long> after) {}

  /**
   * Scans the rows of a receipt.
   *
   * @param other the copy whose addresses and prefix are leftovers here
   */
  public static Difference run(
      Receipts receipts,
      String receipt,
      Copy copy,
      SiteModel model,
      AddressBook addresses,
      CopySpec other)
      throws Refusal, IOException {
    return run(
        copy, model, addresses, other, sink -> receipts.eachTouched(receipt, MOST_ROWS, sink));
  }

  /**
   * A forecast: how many rows will have something wrong when a change set is applied. Numbers that
   * are not known yet refer to nothing yet, and so to nothing that is missing.
   *
   * @param other the copy whose addresses and prefix are leftovers here
   */
  public static Map<FindingKind, Long> forecast(
      ChangeSetFile reviewed, Copy copy, SiteModel model, AddressBook addresses, CopySpec other)
      throws Refusal, IOException {
    return run(copy, model, addresses, other, sink -> made(reviewed, sink)).after();
  }

  private static void made(ChangeSetFile reviewed, TouchedRows sink) throws IOException {
    int left = MOST_ROWS;
    for (Outline outline : reviewed.outlines()) {
      boolean made = reviewed.review().standing(outline.id()) == Review.Standing.MADE;
      if (made && left-- > 0) {
        DecidedChange change =
            reviewed.review().decided(reviewed.change(outline.id())).orElseThrow();
        sink.accept(change.table(), Map.of(), change.outcome());
      }
    }
  }

  /** Hands rows on, before and after. */
  private interface Rows {
    void each(TouchedRows sink) throws Refusal, IOException;
  }

  private static Difference run(
      Copy copy, SiteModel model, AddressBook addresses, CopySpec other, Rows touched)
      throws Refusal, IOException {
    List<Layout> layouts = Pairing.of(copy, copy).targetLayouts();
    SiteMap site = SiteMap.resolve(model, layouts.stream().map(Layout::table).toList());
    Findings before = new Findings(0);
    Findings after = new Findings(0);
    try (Snapshot rows = copy.snapshot(layouts)) {
      Scanner was = scanner(site, rows, addresses, other, copy, before);
      Scanner is = scanner(site, rows, addresses, other, copy, after);
      touched.each(
          (table, earlier, now) -> {
            TableModel known = site.find(table).orElse(null);
            if (known != null && !earlier.isEmpty()) {
              was.valuesOf(known, inOrder(known, earlier));
            }
            if (known != null && !now.isEmpty()) {
              is.touched(known, inOrder(known, now));
            }
          });
    }
    return new Difference(counts(before), counts(after));
  }

  private static Scanner scanner(
      SiteMap site,
      Snapshot rows,
      AddressBook addresses,
      CopySpec other,
      Copy copy,
      Findings findings) {
    return new Scanner(
        site,
        rows,
        new OtherCopy(
            addresses.between(other.name(), copy.name()),
            AddressMap.NONE,
            new MappedRows.Prefixes(other.prefix(), copy.spec().prefix()),
            OtherCopy.Counterpart.NONE),
        addresses.hosts(),
        Scanner.FileProbe.NONE,
        findings);
  }

  /** Long values that are left alone are not in the file, and some numbers are not known yet. */
  private static List<Value> inOrder(TableModel model, Map<String, Value> named) {
    List<Value> values = new ArrayList<>();
    for (Column column : model.table().columns()) {
      Value value = named.getOrDefault(column.name(), Value.NULL);
      values.add(value instanceof Value.Digest || value.isOpen() ? Value.NULL : value);
    }
    return values;
  }

  private static Map<FindingKind, Long> counts(Findings findings) {
    Map<FindingKind, Long> counts = new EnumMap<>(FindingKind.class);
    findings.sorts().stream()
        .filter(sort -> sort.place().role() != Role.NOISE)
        .forEach(sort -> counts.merge(sort.place().kind(), sort.rows(), Long::sum));
    return counts;
  }
}
