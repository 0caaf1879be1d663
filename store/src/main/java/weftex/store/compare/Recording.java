package weftex.store.compare;

import java.io.IOException;
import java.math.BigInteger;
import java.nio.file.Path;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeSet;
import java.util.function.LongConsumer;
import java.util.stream.Collectors;
import weftex.core.address.AddressBook;
import weftex.core.compare.Side;
import weftex.core.file.NamedFiles;
import weftex.core.mask.Masking;
import weftex.core.model.Role;
import weftex.core.model.SiteModel;
import weftex.core.row.Row;
import weftex.core.row.RowStream;
import weftex.core.row.Table;
import weftex.core.row.Value;
import weftex.core.site.SiteMap;
import weftex.store.Refusal;
import weftex.store.capture.Bases;
import weftex.store.capture.Capture;
import weftex.store.capture.CaptureWriter;
import weftex.store.copy.Copy;
import weftex.store.copy.Pairing;
import weftex.store.database.Layout;
import weftex.store.file.FileRecord;
import weftex.store.file.FileRecorder;
import weftex.store.file.PairFolders;
import weftex.store.rows.Snapshot;
import weftex.store.state.DifferenceFile;

/**
 * Records one copy as a candidate for the base, and looks whether the other copy is like it: by
 * digests, so that of the other only what differs is read.
 *
 * @param site the site's name
 * @param tool the version that records
 * @param model what the tables mean
 * @param addresses by what the copies know themselves
 * @param people who on staging is the same person as somebody on live
 */
public record Recording(
    String site, String tool, SiteModel model, AddressBook addresses, Map<String, String> people) {

  /**
   * What was recorded.
   *
   * @param tables how many
   * @param rows how many
   * @param noise tables that are left out
   * @param files those that rows name; empty where nobody looked
   */
  public record Recorded(
      int tables, long rows, List<String> noise, Optional<FileRecord.Recorded> files) {}

  /**
   * What of a copy is recorded.
   *
   * @param except numbers of rows that are left out, by the table's name without prefix
   * @param folders of both copies, for the files that rows name
   * @param thorough whether files of one size and time are read on both
   */
  public record Scope(Map<String, Set<BigInteger>> except, PairFolders folders, boolean thorough) {
    /** All rows, and no files. */
    public static final Scope ROWS = new Scope(Map.of(), PairFolders.none(""), false);
  }

  /**
   * Records the tables that both copies have, but for noise.
   *
   * @param marked the time to write down, as an ISO 8601 instant
   * @param rows is told how many rows have been recorded so far
   */
  public Recorded record(Copy copy, Copy other, Bases bases, String marked, LongConsumer rows)
      throws Refusal, IOException {
    return record(copy, other, bases, marked, Scope.ROWS, rows);
  }

  /** The same, of what is asked for. */
  public Recorded record(
      Copy copy, Copy other, Bases bases, String marked, Scope scope, LongConsumer rows)
      throws Refusal, IOException {
    boolean isTarget = copy.name().equals(ComparisonRun.LIVE);
    Pairing pairing = isTarget ? Pairing.of(other, copy) : Pairing.of(copy, other);
    SiteMap site =
        SiteMap.resolve(model, pairing.targetLayouts().stream().map(Layout::table).toList());
    Set<String> noise = noise(site);
    List<Layout> layouts =
        (isTarget ? pairing.targetLayouts() : pairing.sourceLayouts())
            .stream().filter(layout -> !noise.contains(layout.table().name())).toList();
    CaptureWriter writer =
        new CaptureWriter(this.site, copy.name(), copy.spec().place(), tool, bases.atRest());
    try (Snapshot snapshot = copy.snapshot(layouts)) {
      Side side =
          scope.except().isEmpty()
              ? snapshot
              : table -> without(snapshot.open(table), table, scope.except().get(table.name()));
      Optional<FileRecorder> recorder = recorder(site, copy, other, scope);
      long written =
          writer.write(
              bases.candidate(),
              layouts,
              recorder.isPresent() ? recorder.get().noting(side) : side,
              marked,
              new CaptureWriter.Extras(Optional.empty(), recorder),
              rows);
      return new Recorded(
          layouts.size(), written, List.copyOf(noise), recorder.flatMap(FileRecorder::summary));
    }
  }

  private Optional<FileRecorder> recorder(SiteMap site, Copy copy, Copy other, Scope scope) {
    return scope.folders().areOpen()
        ? Optional.of(
            new FileRecorder(
                site,
                new NamedFiles(site, addresses.hosts()),
                scope.folders(),
                copy.name(),
                other.name(),
                scope.thorough()))
        : Optional.empty();
  }

  private static Set<String> noise(SiteMap site) {
    return site.tables().stream()
        .filter(table -> table.ownership().role() == Role.NOISE)
        .map(table -> table.table().name())
        .collect(Collectors.toCollection(TreeSet::new));
  }

  private static RowStream without(RowStream rows, Table table, Set<BigInteger> numbers) {
    if (numbers == null) {
      return rows;
    }
    return new RowStream() {
      @Override
      public Row next() throws IOException {
        Row row = rows.next();
        while (row.isPresent()
            && row.values().get(table.number()) instanceof Value.Whole whole
            && numbers.contains(whole.number())) {
          row = rows.next();
        }
        return row;
      }

      @Override
      public void close() throws IOException {
        rows.close();
      }
    };
  }

  /**
   * Compares what was recorded of a copy with the other copy.
   *
   * @param log where differences go for the time being
   * @param rows is told how many rows of the table at hand have been read
   */
  public Likeness compare(Copy copy, Copy other, Bases bases, Path log, LongConsumer rows)
      throws Refusal, IOException {
    Capture recorded = Capture.open(bases.candidate(), site, bases.atRest());
    ComparisonRun.Request request =
        new ComparisonRun.Request(
            other,
            copy,
            Optional.of(recorded),
            new ComparisonRun.Tables(model, Set.of(), Set.of()),
            new ComparisonRun.Terms(addresses, people, Masking.NONE),
            Optional.empty(),
            PairFolders.none(""),
            ComparisonRun.Manner.USUAL);
    DifferenceFile differences = DifferenceFile.create(log, bases.atRest().isSealing());
    ComparisonRun run;
    try {
      run = new ComparisonRun(request, differences, rows);
    } catch (Refusal | IOException | RuntimeException e) {
      differences.close();
      throw e;
    }
    try (run) {
      return Likeness.of(run);
    }
  }
}
