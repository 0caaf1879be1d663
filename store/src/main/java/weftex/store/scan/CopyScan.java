package weftex.store.scan;

import java.io.IOException;
import java.math.BigInteger;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.function.LongConsumer;
import weftex.core.address.AddressBook;
import weftex.core.address.MappedRows;
import weftex.core.model.SiteModel;
import weftex.core.row.RowName;
import weftex.core.row.RowStream;
import weftex.core.scan.Finding;
import weftex.core.scan.FindingKind;
import weftex.core.scan.Findings;
import weftex.core.scan.OtherCopy;
import weftex.core.scan.Scanner;
import weftex.core.site.Counter;
import weftex.core.site.SiteMap;
import weftex.core.site.TableModel;
import weftex.store.Refusal;
import weftex.store.copy.Copy;
import weftex.store.copy.Pairing;
import weftex.store.database.CopySpec;
import weftex.store.database.Layout;
import weftex.store.file.CopyFiles;
import weftex.store.rows.Snapshot;

/** Reads a copy once, in one consistent state, and finds what is wrong in it. */
public final class CopyScan {
  private final Copy copy;
  private final List<Layout> layouts;
  private final SiteMap site;
  private final Findings findings;
  private final Optional<CopyFiles> copyFiles;
  private final int kept;
  private final Set<String> named = new HashSet<>();
  private final Scanner.FileProbe files;
  private final Other other;
  private long rows;

  /**
   * The other copy, whose addresses and prefix are leftovers here.
   *
   * @param addresses of both
   * @param known its IDs of rows of this one, as merges know them
   */
  public record Other(CopySpec spec, AddressBook addresses, Map<RowName, BigInteger> known) {
    public Other {
      known = Map.copyOf(known);
    }
  }

  /**
   * @param copyFiles this copy's files; empty if nobody says where they are, or they can't be
   *     reached
   * @param kept how many findings of each sort are kept
   */
  public CopyScan(Copy copy, SiteModel model, Other other, Optional<CopyFiles> copyFiles, int kept)
      throws Refusal {
    this.copy = copy;
    this.layouts = Pairing.of(copy, copy).targetLayouts();
    this.site = SiteMap.resolve(model, layouts.stream().map(Layout::table).toList());
    this.findings = new Findings(kept);
    this.copyFiles = copyFiles;
    this.kept = kept;
    this.files = copyFiles.isPresent() ? this::isThere : Scanner.FileProbe.NONE;
    this.other = other;
  }

  private boolean isThere(String path) throws IOException {
    named.add(path);
    return copyFiles.orElseThrow().find(path).isPresent();
  }

  /**
   * Looks through the folders in which files are that rows name, once the rows are scanned.
   *
   * @param folders below the copy's
   */
  public FolderScan folders(List<String> folders) throws IOException {
    return FolderScan.of(copyFiles.orElseThrow(), folders, named, kept);
  }

  /**
   * Scans. Rows that a reference depends on are looked up through a second connection, since the
   * first one is busy streaming.
   *
   * @param progress is told, now and then, how many rows of the table at hand have been read
   */
  public Findings run(LongConsumer progress) throws Refusal, IOException {
    try (Snapshot reading = copy.snapshot(layouts);
        Snapshot finding = copy.snapshot(layouts);
        TwinAdvice advice = new TwinAdvice(other.spec(), other.known())) {
      Scanner scanner =
          new Scanner(
              site,
              finding,
              new OtherCopy(
                  other.addresses().between(other.spec().name(), copy.name()),
                  other.addresses().mentions(other.spec().name(), copy.name()),
                  new MappedRows.Prefixes(other.spec().prefix(), copy.spec().prefix()),
                  advice),
              other.addresses().hosts(),
              files,
              findings);
      for (TableModel model : scanner.order()) {
        try (RowStream stream = reading.open(model.table())) {
          rows += scanner.table(model, stream, progress);
        }
      }
      scanner.finish();
      for (TableModel model : site.tables()) {
        for (Counter counter : model.after().counters()) {
          counters(reading, model, counter);
        }
      }
    }
    return findings;
  }

  private void counters(Snapshot snapshot, TableModel model, Counter counter) throws IOException {
    String column = model.table().columns().get(counter.column()).name();
    snapshot.offCounters(
        model,
        counter,
        (row, holds, counted) ->
            findings.add(
                new Finding(
                    FindingKind.COUNTER,
                    model.table().name(),
                    row.get(model.table().key().get(0)).display(),
                    column,
                    "it holds " + holds + ", and there are " + counted,
                    model.ownership().role(row)),
                ""));
  }

  /** How many rows were looked at. */
  public long rows() {
    return rows;
  }

  /** How many tables there are. */
  public int tables() {
    return layouts.size();
  }

  /** Whether files could be looked for. */
  public boolean looksForFiles() {
    return copyFiles.isPresent();
  }

  /** Whether leftovers could be looked for: both copies' addresses must be known, and differ. */
  public boolean looksForLeftovers() {
    return !other.addresses().between(other.spec().name(), copy.name()).isNothing();
  }
}
