package weftex.store.testing;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Clock;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.concurrent.atomic.AtomicInteger;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import weftex.core.address.AddressBook;
import weftex.core.change.Review;
import weftex.core.change.RowChange;
import weftex.core.changeset.ChangeSetContents;
import weftex.core.changeset.DecisionLine;
import weftex.core.file.FilePlan;
import weftex.core.mask.Masking;
import weftex.core.model.Role;
import weftex.core.model.SiteModel;
import weftex.core.plan.Plan;
import weftex.core.select.Selection;
import weftex.core.signoff.Answer;
import weftex.core.signoff.Approval;
import weftex.core.signoff.Decision;
import weftex.core.site.SiteMap;
import weftex.store.Refusal;
import weftex.store.apply.Applier;
import weftex.store.apply.ApplyOutcome;
import weftex.store.apply.UndoOutcome;
import weftex.store.apply.Undoer;
import weftex.store.capture.Bases;
import weftex.store.capture.Capture;
import weftex.store.capture.LedgerPlace;
import weftex.store.changeset.ChangeSetFile;
import weftex.store.compare.ComparisonRun;
import weftex.store.compare.CopyMarks;
import weftex.store.compare.Drafting;
import weftex.store.compare.Likeness;
import weftex.store.compare.Recording;
import weftex.store.copy.Copy;
import weftex.store.database.CopySpec;
import weftex.store.engine.CommitGate;
import weftex.store.file.PairFolders;
import weftex.store.receipt.Receipt;
import weftex.store.receipt.Receipts;
import weftex.store.seal.AtRest;
import weftex.store.seal.Keyring;
import weftex.store.seal.Receivers;
import weftex.store.state.DifferenceFile;
import weftex.store.state.SettledRanges;
import weftex.store.state.StateFolder;

/** Two copies and everything that is done with them, for tests. */
public final class Pair {
  private static final AtomicInteger DRAFTS = new AtomicInteger();

  private final Path folder;
  private final CopySpec staging;
  private final CopySpec live;
  private final SiteModel model;
  private AddressBook addresses = AddressBook.EMPTY;
  private final StateFolder state;
  private boolean intoStaging;
  private AtRest atRest = AtRest.CLEAR;

  /** How the two copies are kept. */
  public enum Kind {
    SQLITE,
    MARIADB,
    /** Staging in SQLite, live on MariaDB. */
    MIXED
  }

  private Pair(Path folder, CopySpec staging, CopySpec live, SiteModel model) {
    this.folder = folder;
    this.staging = staging;
    this.live = live;
    this.model = model;
    this.state = StateFolder.of(folder.resolve(StateFolder.CONFIGURATION));
  }

  /** A model that says of some tables that they are content, and nothing else. */
  public static SiteModel content(String... tables) {
    return SiteModel.PLAIN.withRoles(
        Stream.of(tables).collect(Collectors.toMap(table -> table, table -> Role.CONTENT)));
  }

  /** Makes two empty copies. */
  public static Pair create(Kind kind, Path folder, SiteModel model) throws IOException {
    CopySpec staging =
        kind == Kind.MARIADB
            ? MariaDbServer.get().spec("staging", MariaDbServer.get().newDatabase(), "")
            : sqlite("staging", folder);
    CopySpec live =
        kind == Kind.SQLITE
            ? sqlite("live", folder)
            : MariaDbServer.get().spec("live", MariaDbServer.get().newDatabase(), "");
    return new Pair(folder, staging, live, model);
  }

  /** From now on what is kept is encrypted. */
  public Pair sealed() throws Exception {
    Path key = AgeKey.write(folder.resolve("age-key"));
    Receivers receivers = Receivers.said(List.of(AgeKey.receiver(key)), folder, "");
    Keyring keys = new Keyring(List.of(key), List.of(), file -> Optional.empty());
    atRest = new AtRest(state.folder(), receivers, keys);
    return this;
  }

  private static CopySpec sqlite(String name, Path folder) throws IOException {
    Path file = folder.resolve(name + ".db");
    Files.write(file, new byte[0]);
    return new CopySpec.SqliteFile(name, "", file);
  }

  /** The same pair, of which live is merged into staging. */
  public Pair intoStaging() {
    Pair other = new Pair(folder, staging, live, model);
    other.addresses = addresses;
    other.intoStaging = true;
    other.atRest = atRest;
    return other;
  }

  private CopySpec source() {
    return intoStaging ? live : staging;
  }

  public CopySpec target() {
    return intoStaging ? staging : live;
  }

  public CopySpec spec(String copy) {
    return copy.equals("live") ? live : staging;
  }

  /** Runs statements on both copies. */
  public Pair both(String... statements) {
    on("staging", statements);
    on("live", statements);
    return this;
  }

  /** Runs statements on one copy: with the server's own client, or in the file. */
  public Pair on(String copy, String... statements) {
    CopySql.run(spec(copy), statements);
    return this;
  }

  /** What a query says, a row a line, columns separated by tabs. */
  public List<String> ask(String copy, String query) {
    return CopySql.ask(spec(copy), query);
  }

  /** Records live as the base. */
  public Pair mark() throws Refusal, IOException {
    return mark("live");
  }

  /** Records a copy as the base, which is not compared with the other. */
  public Pair mark(String copy) throws Refusal, IOException {
    Map<String, LedgerPlace> places = CopyMarks.now(Copy.reach(staging), Copy.reach(live));
    record(copy);
    for (CopySpec each : List.of(staging, live)) {
      places.put(
          each.name(),
          CopyMarks.write(Copy.reach(each), places.get(each.name()), Instant.now().toString()));
    }
    bases().accept(places);
    return this;
  }

  /** Records a copy as a candidate for the base, and says how the other differs from it. */
  public Likeness likeness(String copy) throws Refusal, IOException {
    record(copy);
    return recording()
        .compare(
            Copy.reach(spec(copy)),
            Copy.reach(copy.equals("live") ? staging : live),
            bases(),
            state.temporary("differences"),
            rows -> {});
  }

  private void record(String copy) throws Refusal, IOException {
    recording()
        .record(
            Copy.reach(spec(copy)),
            Copy.reach(copy.equals("live") ? staging : live),
            bases(),
            "2026-11-25T10:00:00Z",
            rows -> {});
  }

  private Recording recording() {
    return new Recording("test", "test", model, addresses, Map.of());
  }

  public Bases bases() {
    return new Bases(state.folder(), atRest);
  }

  /** Says by what the copies know themselves. */
  public Pair addresses(AddressBook addresses) {
    this.addresses = addresses;
    return this;
  }

  /** Compares. */
  public ComparisonRun compare() throws Refusal, IOException {
    return compare(false);
  }

  /** The same, and says whether every row is read. */
  public ComparisonRun compare(boolean thorough) throws Refusal, IOException {
    return compare(ComparisonRun.Manner.USUAL.thorough(thorough));
  }

  /** The same, in a manner of its own. */
  public ComparisonRun compare(ComparisonRun.Manner manner) throws Refusal, IOException {
    Capture base = bases().open("test");
    String terms = base.id() + System.identityHashCode(model) + " " + addresses.hashCode();
    SettledRanges known = SettledRanges.open(state.settled(target().name()), terms);
    ComparisonRun run =
        new ComparisonRun(
            new ComparisonRun.Request(
                Copy.reach(source()),
                Copy.reach(target()),
                Optional.of(base),
                new ComparisonRun.Tables(model, Set.of(), receipts().madeTables(target().place())),
                new ComparisonRun.Terms(addresses, Map.of(), Masking.NONE),
                Optional.of(receipts()),
                PairFolders.none(""),
                manner.known(known)),
            DifferenceFile.create(state.temporary("differences"), false),
            rows -> {});
    if (!manner.thorough() && !manner.asksAgain()) {
      known.save();
    }
    return run;
  }

  /** The changes that a draft would have. */
  public List<RowChange> changes() throws Refusal, IOException {
    return changes(ComparisonRun.Manner.USUAL);
  }

  /** The same, compared in a manner of its own. */
  public List<RowChange> changes(ComparisonRun.Manner manner) throws Refusal, IOException {
    List<RowChange> changes = new ArrayList<>();
    try (ComparisonRun run = compare(manner)) {
      run.planner().choose(Selection.CONTENT).forEach(changes::add);
    }
    return changes;
  }

  /** Drafts everything, takes the source's side in every conflict, and approves. */
  public Path approvedDraft() throws Exception {
    return approvedDraft(false);
  }

  /**
   * Drafts everything, decides, and approves.
   *
   * @param skipWhatIsBound whether changes are skipped that can't be taken, and those that need a
   *     skipped one
   */
  public Path approvedDraft(boolean skipWhatIsBound) throws Exception {
    Path file = draft();
    for (List<Integer> open = open(file); !open.isEmpty(); open = open(file)) {
      Review review = ChangeSetFile.read(file, Keyring.NONE).review();
      for (int id : open) {
        boolean bound = review.refusal(id, Optional.empty(), Answer.SOURCE).isPresent();
        boolean offered =
            review.unmetNeeds(id).stream()
                .anyMatch(need -> review.standing(need) == Review.Standing.OFFERED);
        Answer answer = bound && skipWhatIsBound || offered ? Answer.SKIP : Answer.SOURCE;
        append(
            file,
            DecisionLine.of(Decision.of(List.of(id), Optional.empty(), answer, "test", "now", "")));
      }
    }
    approve(file);
    return file;
  }

  private static List<Integer> open(Path file) throws Refusal {
    Review review = ChangeSetFile.read(file, Keyring.NONE).review();
    return review.ids().stream().filter(id -> review.standing(id) == Review.Standing.OPEN).toList();
  }

  /** Writes a change set of everything. */
  public Path draft() throws Refusal, IOException {
    Path file = folder.resolve("draft-" + DRAFTS.incrementAndGet() + ".jsonl");
    try (ComparisonRun run = compare()) {
      Plan plan = run.planner().choose(Selection.CONTENT);
      Drafting.write(
          file,
          run,
          plan,
          FilePlan.Files.NONE,
          new Drafting.Terms(
              "test",
              "2026-11-25T11:00:00Z",
              "test",
              java.util.Map.of(),
              List.of(),
              Optional.empty(),
              Receivers.NONE,
              false));
    }
    return file;
  }

  /** Approves a change set as it stands. */
  public void approve(Path file) throws Exception {
    ChangeSetContents contents = ChangeSetFile.read(file, Keyring.NONE).contents();
    append(
        file,
        DecisionLine.of(Approval.unsigned("Mira", "2026-11-25T12:00:00Z", contents.sha256())));
  }

  private static void append(Path file, byte[] line) throws IOException {
    Files.write(file, line, java.nio.file.StandardOpenOption.APPEND);
  }

  /** Applies. */
  public ApplyOutcome apply(Path file) throws Refusal, IOException {
    return apply(file, false);
  }

  /** The same, and says whether tables are written whose engine can't roll back. */
  public ApplyOutcome apply(Path file, boolean evenIfNoRollback) throws Refusal, IOException {
    Copy target = Copy.reach(target());
    return new Applier(receipts(), new CommitGate(), "test", "test")
        .apply(
            // A large file is passed over, a small one kept: both ways are taken.
            target() instanceof CopySpec.SqliteFile
                ? ChangeSetFile.readWhole(file, Keyring.NONE)
                : ChangeSetFile.read(file, Keyring.NONE),
            "test",
            target,
            this::means,
            evenIfNoRollback,
            done -> {});
  }

  public SiteMap means(Copy target) {
    return SiteMap.resolve(model, target.catalog().all().stream().map(t -> t.table()).toList());
  }

  /** Undoes the last apply. */
  public UndoOutcome undo(boolean alsoChanged) throws Refusal, IOException {
    return undo(Undoer.Terms.all(alsoChanged, false));
  }

  /** Undoes the last apply. */
  public UndoOutcome undo(Undoer.Terms terms) throws Refusal, IOException {
    return undo(Copy.reach(target()), terms);
  }

  /** The same, for a target that may have been looked at a while ago. */
  public UndoOutcome undo(Copy target, Undoer.Terms terms) throws Refusal, IOException {
    Receipt last =
        receipts().all().stream()
            .filter(r -> r.kind().equals("apply") && r.into().equals(target.name()))
            .reduce((a, b) -> b)
            .orElseThrow();
    return new Undoer(receipts(), new CommitGate(), "test", "test")
        .undo(last, target, means(target), terms, done -> {});
  }

  public Receipts receipts() {
    return new Receipts(state.receipts(), Clock.systemUTC(), atRest);
  }

  public StateFolder state() {
    return state;
  }
}
