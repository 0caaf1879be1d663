package weftex.store.compare;

import java.io.IOException;
import java.math.BigInteger;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.function.LongConsumer;
import weftex.core.address.AddressBook;
import weftex.core.address.AddressMap;
import weftex.core.address.MappedCells;
import weftex.core.address.MappedRows;
import weftex.core.compare.BaseMoves;
import weftex.core.compare.Comparison;
import weftex.core.compare.DifferenceLog;
import weftex.core.compare.KnownRanges;
import weftex.core.compare.RangedSide;
import weftex.core.compare.RowMapping;
import weftex.core.compare.Side;
import weftex.core.compare.Tally;
import weftex.core.file.FileNameMap;
import weftex.core.mask.Masking;
import weftex.core.match.BaseEvidence;
import weftex.core.match.Knowledge;
import weftex.core.match.PastMerges;
import weftex.core.match.Sameness;
import weftex.core.model.SiteModel;
import weftex.core.plan.Planner;
import weftex.core.row.RowName;
import weftex.core.site.SiteMap;
import weftex.core.site.TableModel;
import weftex.store.Refusal;
import weftex.store.capture.Capture;
import weftex.store.copy.Copy;
import weftex.store.file.PairFolders;
import weftex.store.receipt.MergedRows;
import weftex.store.receipt.Receipts;
import weftex.store.rows.Ledger;
import weftex.store.rows.Snapshot;

/** Two copies and a base, compared in one consistent state of each. */
public final class ComparisonRun implements AutoCloseable {
  /** The copy that visitors use. */
  static final String LIVE = "live";

  private final Copy source;
  private final Copy target;
  private final ComparedTables tables;
  private final Optional<Capture> base;
  private final Snapshot sourceState;
  private final Snapshot targetState;
  private final DifferenceLog log;
  private final Comparison comparison;
  private final AddressBook addresses;
  private final MappedCells mapped;
  private final Map<String, String> people;
  private final EarlierMerges merged;
  private final PastMerges past;
  private final FileNameMap fileNames;
  private final PairFolders folders;

  /**
   * What is compared.
   *
   * @param base empty for a two-way comparison
   * @param receipts of earlier merges of the pair; empty if they are not to count
   * @param folders of both copies; closed with the run
   */
  public record Request(
      Copy source,
      Copy target,
      Optional<Capture> base,
      Tables tables,
      Terms terms,
      Optional<Receipts> receipts,
      PairFolders folders,
      Manner manner) {}

  /**
   * Which tables, and what they mean.
   *
   * @param named those that are asked for by name, and so compared even if they are noise
   * @param made those that earlier applies made on the target
   */
  public record Tables(SiteModel model, Set<String> named, Set<String> made) {}

  /**
   * What differs between the copies though it means the same.
   *
   * @param addresses by what the copies know themselves
   * @param people who on the target is the same person as somebody on the source
   * @param masking which of the copies has made-up personal data
   */
  public record Terms(AddressBook addresses, Map<String, String> people, Masking masking) {}

  /**
   * How it is compared.
   *
   * @param thorough whether every row is read, even where digests say that nothing differs
   * @param asksAgain whether what people decided for the target's side in earlier merges is open
   *     again
   * @param pairs which rows of one key are taken for one if there is no base
   * @param known what earlier comparisons found to say the same on both copies
   * @param renames files that are to have another name on the target, by their paths on the source,
   *     beyond those that earlier merges gave another name
   */
  public record Manner(
      boolean thorough,
      boolean asksAgain,
      Comparison.Pairs pairs,
      KnownRanges known,
      Map<String, String> renames) {
    public static final Manner USUAL =
        new Manner(false, false, Comparison.Pairs.BY_IDENTITY, KnownRanges.NONE, Map.of());

    /** The same with every row read. */
    public Manner thorough(boolean every) {
      return new Manner(every, asksAgain, pairs, known, renames);
    }

    /** The same with earlier answers open again. */
    public Manner asksAgain(boolean again) {
      return new Manner(thorough, again, pairs, known, renames);
    }

    /** The same with other pairs. */
    public Manner pairs(Comparison.Pairs other) {
      return new Manner(thorough, asksAgain, other, known, renames);
    }

    /** The same, where something is known of ranges already. */
    public Manner known(KnownRanges ranges) {
      return new Manner(thorough, asksAgain, pairs, ranges, renames);
    }

    /** The same, with other names for some files. */
    public Manner renaming(Map<String, String> files) {
      return new Manner(thorough, asksAgain, pairs, known, files);
    }
  }

  /**
   * Compares.
   *
   * @param log where differences go; closed with the run
   * @param rows is told, now and then, how many rows of the table at hand have been read
   * @throws Refusal if a copy can't be reached, or the base does not fit
   */
  public ComparisonRun(Request request, DifferenceLog log, LongConsumer rows)
      throws Refusal, IOException {
    this.source = request.source();
    this.base = request.base();
    this.people = request.terms().people();
    this.folders = request.folders();
    this.log = log;
    this.tables = new ComparedTables(request);
    this.target = tables.target();
    List<TableModel> compared = tables.compared();
    this.sourceState = source.snapshot(tables.pairing().sourceLayouts());
    this.targetState = target.snapshot(tables.targetLayouts());
    this.addresses = request.terms().addresses();
    MappedRows mappedRows =
        new MappedRows(
            addresses.between(source.name(), target.name()),
            addresses.between(target.name(), source.name()),
            new MappedRows.Prefixes(source.spec().prefix(), target.spec().prefix()),
            request.terms().masking(),
            compared);
    this.mapped = mappedRows.counting(log);
    Optional<Receipts> receipts = base.flatMap(recorded -> request.receipts());
    try {
      this.merged =
          receipts.isPresent()
              ? EarlierMerges.of(
                  source, target, base.get(), receipts.get(), request.manner().asksAgain())
              : EarlierMerges.NONE;
      merged.checkLikeness(compared, sourceState, targetState);
    } catch (Refusal | IOException | RuntimeException e) {
      sourceState.close();
      targetState.close();
      throw e;
    }
    Optional<PairMerges> both =
        merged.isAny()
            ? Optional.of(
                new PairMerges(merged.onTarget(), merged.onSource(), tables.site(), compared))
            : Optional.empty();
    this.past = both.<PastMerges>map(merges -> merges).orElse(PastMerges.NONE);
    BaseMoves moves = both.<BaseMoves>map(merges -> merges).orElse(BaseMoves.NONE);
    this.fileNames =
        new MergedNames(source.name(), target.name(), folders)
            .of(merged.all(), request.manner().renames());
    RowMapping mapping = fileNames.over(mappedRows, compared);
    this.comparison =
        base.isPresent()
            ? Comparison.threeWay(compared, sides(request, compared, moves, mapping), log, rows)
            : Comparison.twoWay(
                compared,
                new Comparison.TwoSides(
                    sourceState, targetState, mapping, request.manner().pairs()),
                log,
                rows);
    if (both.isPresent()) {
      both.get().tellRemoved(comparison, sourceState, targetState);
    }
  }

  /** The folders of both copies. */
  public PairFolders folders() {
    return folders;
  }

  /** Files that have another name on the target. */
  FileNameMap fileNames() {
    return fileNames;
  }

  /** How the ledgers of the copies stand to the base, by the copy's name; none without a base. */
  public Map<String, CopyMarks.Standing> standings() {
    return merged.standings();
  }

  /** A base of the target is in its terms already. */
  private Comparison.Sides sides(
      Request request, List<TableModel> compared, BaseMoves moves, RowMapping mapping) {
    Capture recorded = base.orElseThrow();
    boolean fromSource = recorded.copy().equals(source.name());
    MappedRows ofBase =
        new MappedRows(
            addresses.between(recorded.copy(), target.name()),
            AddressMap.NONE,
            fromSource
                ? new MappedRows.Prefixes(source.spec().prefix(), target.spec().prefix())
                : MappedRows.Prefixes.SAME,
            fromSource ? request.terms().masking() : Masking.NONE,
            compared);
    RowMapping baseMapping = ofBase.isNothing() ? RowMapping.NONE : ofBase;
    RangedSide grown = GrownBase.of(recorded, tables.growth().fills());
    // A side that is not a ranged one has no digests.
    Side read = request.manner().thorough() ? grown::open : grown;
    // Where earlier answers are asked again, what they settled is not.
    boolean usual = !request.manner().asksAgain() && fileNames.isNothing();
    KnownRanges known = usual ? request.manner().known() : KnownRanges.NONE;
    return new Comparison.Sides(read, sourceState, targetState, baseMapping, mapping, moves, known);
  }

  /** What is mapped from the source's addresses to the target's. */
  public MappedCells mapped() {
    return mapped;
  }

  public Comparison comparison() {
    return comparison;
  }

  /** Matches and classifies the differences. */
  public Planner planner() throws IOException {
    return planner(Set.of(), Map.of());
  }

  /**
   * The same.
   *
   * @param apart rows of the source that stay things of their own
   * @param same the ID on the target of what is the same thing as a row of the source
   */
  public Planner planner(Set<RowName> apart, Map<RowName, BigInteger> same) throws IOException {
    Planner planner =
        new Planner(
            comparison,
            tables.site(),
            tables.growth().changes(),
            sourceState,
            targetState,
            new Knowledge(addresses.hosts(), new Sameness(people, apart, same), past, evidence()));
    // What earlier merges brought does not count any more.
    for (int i = 0; base.isPresent() && i < comparison.tables().size(); i++) {
      Tally tally = comparison.tally(i);
      long came = target.name().equals(LIVE) ? tally.targetAdded() : tally.sourceAdded();
      if (came > 0) {
        tables.site().foundOnLive(comparison.tables().get(i).table().name(), came);
      }
    }
    return planner;
  }

  private BaseEvidence evidence() throws IOException {
    return base.isEmpty() ? BaseEvidence.NONE : base.get().evidence();
  }

  /** What earlier merges settled, on the target and on the source; nothing without a base. */
  List<MergedRows> merged() {
    return merged.all();
  }

  /** The hosts by which the copies are known. */
  Set<String> hosts() {
    return addresses.hosts();
  }

  /** The rows of the target, as they are now. */
  public Snapshot targetState() {
    return targetState;
  }

  /** The rows of the source, as they are now. */
  public Snapshot sourceState() {
    return sourceState;
  }

  /** Which tables are compared, and how they lie on the copies. */
  public ComparedTables tables() {
    return tables;
  }

  public SiteMap site() {
    return tables.site();
  }

  /** Applies that a copy's ledger knows and of which no receipt is here, by the copy's name. */
  public Map<String, List<Ledger.Entry>> missingReceipts() {
    return merged.missing();
  }

  public Copy source() {
    return source;
  }

  public Copy target() {
    return target;
  }

  public Optional<Capture> base() {
    return base;
  }

  @Override
  public void close() throws IOException {
    try (log;
        folders) {
      sourceState.close();
      targetState.close();
      merged.close();
    }
  }
}
