package weftex.store.compare;

import java.io.IOException;
import java.math.BigInteger;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeSet;
import java.util.function.LongConsumer;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import weftex.core.address.AddressBook;
import weftex.core.address.AddressMap;
import weftex.core.address.MappedRows;
import weftex.core.compare.BaseMoves;
import weftex.core.compare.Comparison;
import weftex.core.compare.DifferenceLog;
import weftex.core.compare.KnownRanges;
import weftex.core.compare.RangedSide;
import weftex.core.compare.RowMapping;
import weftex.core.compare.Side;
import weftex.core.compare.Tally;
import weftex.core.derive.GuessedReference;
import weftex.core.file.FileNameMap;
import weftex.core.file.FreeNames;
import weftex.core.mask.Masking;
import weftex.core.plan.BaseEvidence;
import weftex.core.plan.Knowledge;
import weftex.core.plan.PastMerges;
import weftex.core.plan.Planner;
import weftex.core.plan.Sameness;
import weftex.core.row.Column;
import weftex.core.row.RowName;
import weftex.core.site.Role;
import weftex.core.site.SiteMap;
import weftex.core.site.SiteModel;
import weftex.core.site.TableModel;
import weftex.store.Refusal;
import weftex.store.capture.Capture;
import weftex.store.copy.Copy;
import weftex.store.copy.Layout;
import weftex.store.copy.Ledger;
import weftex.store.copy.Pairing;
import weftex.store.copy.SchemaGrowth;
import weftex.store.copy.SharedTable;
import weftex.store.copy.Snapshot;
import weftex.store.file.CopyFiles;
import weftex.store.file.PairFolders;
import weftex.store.receipt.MergedRows;
import weftex.store.receipt.Receipts;

/** Two copies and a base, compared in one consistent state of each. */
public final class ComparisonRun implements AutoCloseable {
  /** The copy that visitors use. */
  static final String LIVE = "live";

  private final Copy source;
  private final Copy target;
  private final SchemaGrowth growth;
  private final Pairing pairing;
  private final UnknownReferences guessed;
  private final SiteMap site;
  private final Optional<Capture> base;
  private final Snapshot sourceState;
  private final Snapshot targetState;
  private final DifferenceLog log;
  private final Comparison comparison;
  private final AddressBook addresses;
  private final MappedRows mapped;
  private final List<String> noise;
  private final Map<String, String> people;
  private final Map<String, CopyMarks.Standing> standings = new LinkedHashMap<>();
  private final Map<String, Boolean> proven = new LinkedHashMap<>();
  private final List<MergedRows> merged;
  private final PastMerges past;
  private final FileNameMap fileNames;
  private final PairFolders folders;

  /**
   * What is compared.
   *
   * @param base empty for a two-way comparison
   * @param addresses by what the copies know themselves
   * @param people who on the target is the same person as somebody on the source
   * @param named tables that are asked for by name, and so compared even if they are noise
   * @param made tables that earlier applies made on the target
   * @param receipts of earlier merges of the pair; empty if they are not to count
   * @param folders of both copies; closed with the run
   * @param masking which of the copies has made-up personal data
   */
  public record Request(
      Copy source,
      Copy target,
      Optional<Capture> base,
      SiteModel model,
      AddressBook addresses,
      Map<String, String> people,
      Set<String> named,
      Set<String> made,
      Optional<Receipts> receipts,
      PairFolders folders,
      Masking masking,
      Manner manner) {}

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
    this.people = request.people();
    this.folders = request.folders();
    this.log = log;
    this.growth = growth(request);
    this.target = growth.target();
    Pairing whole = Pairing.of(source, target);
    this.pairing = base.isPresent() ? whole.within(this::knownColumns) : whole;
    List<Layout> outside = pairing.outside(target);
    this.guessed =
        UnknownReferences.of(
            source,
            request.model(),
            pairing.shared().stream().map(table -> table.source().table()).toList());
    this.site =
        SiteMap.resolve(
            request.model(),
            Stream.concat(pairing.targetLayouts().stream(), outside.stream())
                .map(Layout::table)
                .toList(),
            guessed.rules());
    if (base.isPresent()) {
      base.get().checkOrder(pairing.targetLayouts());
    }
    this.noise =
        whole.shared().stream()
            .map(SharedTable::name)
            .filter(name -> site.table(name).role() == Role.NOISE)
            .filter(name -> !request.named().contains(name))
            .toList();
    Set<String> shared =
        pairing.shared().stream().map(SharedTable::name).collect(Collectors.toSet());
    List<TableModel> compared =
        site.tables().stream()
            .filter(model -> shared.contains(model.table().name()))
            .filter(model -> !noise.contains(model.table().name()))
            .toList();
    this.sourceState = source.snapshot(pairing.sourceLayouts());
    this.targetState =
        target.snapshot(Stream.concat(pairing.targetLayouts().stream(), outside.stream()).toList());
    this.addresses = request.addresses();
    this.mapped =
        new MappedRows(
            addresses.between(source.name(), target.name()),
            addresses.between(target.name(), source.name()),
            new MappedRows.Prefixes(source.spec().prefix(), target.spec().prefix()),
            request.masking(),
            compared);
    Optional<Receipts> receipts = base.flatMap(recorded -> request.receipts());
    try {
      this.merged =
          receipts.isPresent() ? merged(receipts.get(), request.manner().asksAgain()) : List.of();
      checkLikeness(compared);
    } catch (Refusal | IOException | RuntimeException e) {
      sourceState.close();
      targetState.close();
      throw e;
    }
    Optional<PairMerges> both =
        merged.isEmpty()
            ? Optional.empty()
            : Optional.of(new PairMerges(merged.get(0), merged.get(1), site, compared));
    this.past = both.<PastMerges>map(merges -> merges).orElse(PastMerges.NONE);
    BaseMoves moves = both.<BaseMoves>map(merges -> merges).orElse(BaseMoves.NONE);
    this.fileNames = fileNames(request.manner().renames());
    RowMapping mapping = fileNames.over(mapped, compared);
    this.comparison =
        base.isPresent()
            ? Comparison.threeWay(compared, sides(request, compared, moves, mapping), log, rows)
            : Comparison.twoWay(
                compared, sourceState, targetState, mapping, request.manner().pairs(), log, rows);
    if (both.isPresent()) {
      both.get().tellRemoved(comparison, sourceState, targetState);
    }
  }

  /** The names that merges gave to files, and further ones. */
  private FileNameMap fileNames(Map<String, String> further) throws IOException {
    Map<String, String> toTarget = new FileSteps(merged).names();
    toTarget.putAll(further);
    if (folders.areOpen()) {
      toTarget.putAll(shadowed(toTarget));
    }
    return toTarget.isEmpty() ? FileNameMap.SAME : new FileNameMap(toTarget);
  }

  /** Names for files of the source whose own names others of its files have on the target. */
  private Map<String, String> shadowed(Map<String, String> toTarget) throws IOException {
    CopyFiles there = folders.of(source.name());
    CopyFiles here = folders.of(target.name());
    Set<String> shadowed = new TreeSet<>();
    for (String path : toTarget.values()) {
      if (!toTarget.containsKey(path) && there.find(path).isPresent()) {
        shadowed.add(path);
      }
    }
    FreeNames free =
        new FreeNames(
            name ->
                there.find(name).isEmpty()
                    && here.find(name).isEmpty()
                    && !toTarget.containsKey(name)
                    && !toTarget.containsValue(name));
    free.collideAll(shadowed);
    return free.renames();
  }

  /** The folders of both copies. */
  public PairFolders folders() {
    return folders;
  }

  /** Files that have another name on the target. */
  FileNameMap fileNames() {
    return fileNames;
  }

  /** What earlier merges settled, on the target and on the source. */
  private List<MergedRows> merged(Receipts receipts, boolean asksAgain)
      throws Refusal, IOException {
    CopyMarks ofTarget = CopyMarks.of(target, source.name(), base.orElseThrow());
    CopyMarks ofSource = CopyMarks.of(source, target.name(), base.orElseThrow());
    standings.put(target.name(), ofTarget.standing());
    standings.put(source.name(), ofSource.standing());
    checkStandings();
    proven.put(target.name(), ofTarget.isProven());
    proven.put(source.name(), ofSource.isProven());
    return List.of(
        MergedRows.of(ofTarget.since(), receipts, asksAgain),
        MergedRows.of(ofSource.since(), receipts, false));
  }

  /** A copy that was recreated from the other has the other's IDs, which the base would misread. */
  private void checkStandings() throws Refusal {
    for (Map.Entry<String, CopyMarks.Standing> entry : standings.entrySet()) {
      if (entry.getValue() == CopyMarks.Standing.OTHERS) {
        String copy = entry.getKey();
        String other = copy.equals(source.name()) ? target.name() : source.name();
        throw new Refusal(
            Refusal.Kind.PROTECTED,
            copy
                + " was recreated from "
                + other
                + " since the base was recorded: it has "
                + other
                + "'s ledger and IDs, and by this base its rows would be taken for others. Nothing was changed.",
            "Record a new base with 'weftex mark', which says if the copies differ already.");
      }
    }
  }

  /** The same where no ledger came along to tell. */
  private void checkLikeness(List<TableModel> compared) throws Refusal, IOException {
    if (merged.isEmpty()) {
      return;
    }
    Map<String, TableModel> models =
        compared.stream().collect(Collectors.toMap(m -> m.table().name(), m -> m));
    MergedRows into = merged.get(0);
    MergedRows back = merged.get(1);
    if (!proven.get(source.name())
        && new MadeAnew(models, sourceState, targetState).isSo(into, back)) {
      throw MadeAnew.refusal(source.name(), target.name());
    }
    if (!proven.get(target.name())
        && new MadeAnew(models, targetState, sourceState).isSo(back, into)) {
      throw MadeAnew.refusal(target.name(), source.name());
    }
  }

  /** How the ledgers of the copies stand to the base, by the copy's name; none without a base. */
  public Map<String, CopyMarks.Standing> standings() {
    return standings;
  }

  private static SchemaGrowth growth(Request request) throws Refusal {
    if (request.base().isEmpty()) {
      return SchemaGrowth.none(request.source(), request.target());
    }
    return SchemaGrowth.of(
        request.source(),
        request.target(),
        request.base().get()::columns,
        name ->
            request
                    .source()
                    .catalog()
                    .find(name)
                    .filter(table -> request.model().role(table.table()) == Role.NOISE)
                    .isEmpty()
                || request.named().contains(name),
        request.made()::contains);
  }

  /** The columns of a table that the base has, or that are newer than it. */
  private List<String> knownColumns(String table) {
    if (growth.isNew(table)) {
      return target.catalog().find(table).orElseThrow().table().columns().stream()
          .map(Column::name)
          .toList();
    }
    List<String> known = new ArrayList<>(base.orElseThrow().columns(table));
    known.addAll(growth.fills().getOrDefault(table, Map.of()).keySet());
    return known;
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
            fromSource ? request.masking() : Masking.NONE,
            compared);
    RowMapping baseMapping = ofBase.isNothing() ? RowMapping.NONE : ofBase;
    RangedSide grown = GrownBase.of(recorded, growth.fills());
    // A side that is not a ranged one has no digests.
    Side read = request.manner().thorough() ? grown::open : grown;
    // Where earlier answers are asked again, what they settled is not.
    boolean usual = !request.manner().asksAgain() && fileNames.isNothing();
    KnownRanges known = usual ? request.manner().known() : KnownRanges.NONE;
    return new Comparison.Sides(read, sourceState, targetState, baseMapping, mapping, moves, known);
  }

  /** What is mapped from the source's addresses to the target's. */
  public MappedRows mapped() {
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
            site,
            growth.changes(),
            sourceState,
            targetState,
            new Knowledge(addresses.hosts(), new Sameness(people, apart, same), past, evidence()));
    // What earlier merges brought does not count any more.
    for (int i = 0; base.isPresent() && i < comparison.tables().size(); i++) {
      Tally tally = comparison.tally(i);
      long came = target.name().equals(LIVE) ? tally.targetAdded() : tally.sourceAdded();
      if (came > 0) {
        site.foundOnLive(comparison.tables().get(i).table().name(), came);
      }
    }
    return planner;
  }

  private BaseEvidence evidence() throws IOException {
    return base.isEmpty() ? BaseEvidence.NONE : base.get().evidence();
  }

  /** What earlier merges settled, on the target and on the source; nothing without a base. */
  List<MergedRows> merged() {
    return merged;
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

  /** How the target's compared tables lie there. */
  public List<Layout> targetLayouts() {
    return pairing.targetLayouts().stream()
        .filter(layout -> !noise.contains(layout.table().name()))
        .toList();
  }

  public SiteMap site() {
    return site;
  }

  /** Applies that a copy's ledger knows and of which no receipt is here, by the copy's name. */
  public Map<String, List<Ledger.Entry>> missingReceipts() {
    Map<String, List<Ledger.Entry>> missing = new LinkedHashMap<>();
    for (int i = 0; i < merged.size(); i++) {
      if (!merged.get(i).missing().isEmpty()) {
        missing.put((i == 0 ? target : source).name(), merged.get(i).missing());
      }
    }
    return missing;
  }

  /** References of tables that no model names, by table. */
  public Map<String, List<GuessedReference>> guessedReferences() {
    return guessed.byTable();
  }

  /** Tables that were passed over as noise. */
  public List<String> noise() {
    return noise;
  }

  /** New tables and columns, and which of them can't be brought. */
  public SchemaGrowth growth() {
    return growth;
  }

  public Pairing pairing() {
    return pairing;
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

  /** A table as both copies have it. */
  SharedTable shared(String name) {
    return pairing.shared().stream()
        .filter(table -> table.name().equals(name))
        .findFirst()
        .orElseThrow();
  }

  @Override
  public void close() throws IOException {
    try (log;
        folders) {
      sourceState.close();
      targetState.close();
      for (MergedRows rows : merged) {
        rows.close();
      }
    }
  }
}
