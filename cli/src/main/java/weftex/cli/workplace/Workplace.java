package weftex.cli.workplace;

import java.io.IOException;
import java.nio.file.Path;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.apache.commons.cli.CommandLine;
import org.apache.commons.cli.Option;
import weftex.cli.around.Around;
import weftex.cli.config.Pair;
import weftex.cli.config.PairReader;
import weftex.cli.config.RoofSites;
import weftex.cli.config.SelectionWords;
import weftex.cli.page.Times;
import weftex.cli.page.Visible;
import weftex.cli.session.Session;
import weftex.cli.session.Took;
import weftex.core.site.SiteMap;
import weftex.store.FailureWords;
import weftex.store.Refusal;
import weftex.store.capture.Bases;
import weftex.store.capture.Capture;
import weftex.store.capture.LedgerPlace;
import weftex.store.compare.CopyMarks;
import weftex.store.compare.Recording;
import weftex.store.copy.Copy;
import weftex.store.database.CopySpec;
import weftex.store.dump.RestorePoints;
import weftex.store.dump.SqlFile;
import weftex.store.receipt.Receipts;
import weftex.store.seal.AtRest;
import weftex.store.seal.Keyring;
import weftex.store.seal.Receivers;
import weftex.store.state.FileClaim;
import weftex.store.state.Files0600;
import weftex.store.state.StateFolder;
import weftex.store.tidy.InTheClear;
import weftex.store.tidy.Uncompressed;

/** The pair that a command works on, and the files beside it. */
public final class Workplace {
  static final String DEFAULT_FILE = StateFolder.CONFIGURATION;

  /** The option that names one of several sites. */
  public static final String AT = "at";

  private final Pair pair;
  private final StateFolder state;
  private final Session session;
  private final AtRest atRest;
  private final Receivers people;
  private final Receipts receipts;

  private Workplace(Pair pair, StateFolder state, Session session, Receivers people) {
    this.atRest = new AtRest(state.folder(), people, session.keys());
    this.people = people;
    this.pair = pair;
    this.state = state;
    this.session = session;
    this.receipts = new Receipts(state.receipts(), session.clock(), atRest);
  }

  public static Workplace open(CommandLine line, Session session) throws Refusal {
    Path file = file(line, session);
    Optional<RoofSites.At> site = site(line, session);
    Pair pair = PairReader.read(file, session.environment(), site);
    StateFolder state = state(line, session);
    Workplace place =
        new Workplace(pair, state, session, Sealing.receivers(pair, state, session.keys()));
    session.log().open(place.state.folder());
    session.log().event("pair " + place.pair.staging().place() + "; " + place.pair.live().place());
    place.sayExposure();
    place.watch(pair.staging());
    place.watch(pair.live());
    place.finishKilled();
    return place;
  }

  /** Says that a file is loaded, if the copy is one: it can take long. */
  private CopySpec watch(CopySpec copy) {
    SqlFile.of(copy).ifPresent(file -> file.watchedBy(new LoadingShown(this)));
    return copy;
  }

  /** Which of several sites is meant; empty for the first, or where there is only one. */
  private static Optional<RoofSites.At> site(CommandLine line, Session session) throws Refusal {
    Path saved = StateFolder.of(file(line, session)).sites();
    if (!line.hasOption(AT)) {
      return Optional.empty();
    }
    try {
      Optional<RoofSites> sites = RoofSites.saved(saved);
      Optional<RoofSites.At> at = sites.flatMap(known -> known.at(line.getOptionValue(AT)));
      if (at.isEmpty()) {
        // Never the first site in the place of another.
        throw new Refusal(
            Refusal.Kind.WRONG_INPUT,
            "No site is known as '" + line.getOptionValue(AT) + "'. Nothing was changed.",
            "Run 'weftex check', which lists the sites.");
      }
      return at;
    } catch (IOException e) {
      throw new Refusal(
          Refusal.Kind.WRONG_INPUT,
          saved + " can't be read: " + FailureWords.of(e) + ". Nothing was changed.",
          "Remove it; it is written again by any command that reaches both copies.",
          e);
    }
  }

  public static StateFolder state(CommandLine line, Session session) throws Refusal {
    StateFolder state = StateFolder.of(file(line, session));
    return site(line, session).map(at -> state.ofSite(at.site().number())).orElse(state);
  }

  private void finishKilled() {
    try {
      Around.finishKilled(pair, state, session);
    } catch (IOException e) {
      // Whoever needs the folder will say what is wrong with it.
    }
  }

  private void sayExposure() {
    try {
      state
          .exposure()
          .ifPresent(
              how ->
                  say(
                      "The folder "
                          + shown(state.folder())
                          + " "
                          + how
                          + ", so others could change what is applied and taken back: make it yours"
                          + " alone with 'chmod 700 "
                          + shown(state.folder())
                          + "'."));
    } catch (IOException e) {
      // Whoever needs the folder will say what is wrong with it.
    }
  }

  public static Path file(CommandLine line, Session session) {
    return session.folder().resolve(line.getOptionValue("config", DEFAULT_FILE)).normalize();
  }

  public Pair pair() {
    return pair;
  }

  public Session session() {
    return session;
  }

  /** The user's private keys. */
  public Keyring keys() {
    return session.keys();
  }

  /** How the files of the state folder are kept. */
  public AtRest atRest() {
    return atRest;
  }

  /** For whom what is kept is encrypted, and drafts with it. */
  public Receivers people() {
    return people;
  }

  public StateFolder state() {
    return state;
  }

  /** The base in force, and those before it. */
  public Bases bases() {
    return new Bases(state.folder(), atRest);
  }

  public Receipts receipts() {
    return receipts;
  }

  /** The saved copies of the site. */
  public RestorePoints restorePoints() {
    return new RestorePoints(
        pair.restorePoints().folder().orElse(state.restorePoints()),
        pair.site(),
        Session.TOOL,
        session.clock(),
        atRest);
  }

  /** What was written before somebody said that it is to be sealed. */
  public InTheClear inTheClear() {
    return new InTheClear(state, atRest, receipts(), restorePoints());
  }

  /** How long the command took so far, and how large something is that it wrote. */
  public Took took(Path written) throws IOException {
    return Took.since(session.log().began(), Files0600.size(written));
  }

  /** What can be compressed. */
  public Uncompressed uncompressed() {
    return new Uncompressed(state, atRest, receipts(), session.clock().instant());
  }

  public static Option into() {
    return Option.builder()
        .longOpt("into")
        .hasArg()
        .argName("COPY")
        .desc("the copy that receives the changes: live (default) or staging")
        .get();
  }

  public static Option twoWay() {
    return Option.builder()
        .longOpt("two-way")
        .desc("compare without a base: every difference is a question")
        .get();
  }

  public static Option thorough() {
    return Option.builder()
        .longOpt("thorough")
        .desc("read every row, even where digests say that nothing differs")
        .get();
  }

  /** The copy that receives the changes. */
  public static String into(CommandLine line) {
    return line.getOptionValue("into", "live");
  }

  /** What records a copy as the base. */
  public Recording recording(String copy) {
    return new Recording(
        pair.site(), Session.TOOL, pair.model(), pair.addresses(), pair.people(copy));
  }

  /** A copy of the pair as a backup has it. */
  public CopySpec earlier(CommandLine line, String name, Path file) throws Refusal {
    return watch(
        PairReader.earlier(
            file(line, session), session.environment(), site(line, session), name, file, atRest));
  }

  /** Scratch databases on servers into which files may have been loaded. */
  public List<CopySpec> scratches(CommandLine line) throws Refusal {
    return PairReader.scratches(file(line, session), session.environment(), site(line, session));
  }

  /** What is chosen on the command line, or under the name that it asks for. */
  public SelectionWords selection(CommandLine line) throws Refusal {
    return SelectionOptions.read(line, pair.selections());
  }

  /** The base in force. */
  public Capture base() throws Refusal, IOException {
    if (!Capture.isIn(bases().current())) {
      throw new Refusal(
          Refusal.Kind.WRONG_INPUT,
          "No base has been recorded for this pair, so nobody can say which copy changed. Nothing was changed.",
          "Record one with 'weftex mark' while both copies are alike, work one out with 'weftex mark --worked-out', or compare without with --two-way."
              + elsewhere());
    }
    return bases().open(pair.site());
  }

  /** Earlier versions kept the state of all pairs of a folder in one place. */
  private String elsewhere() {
    Path shared = pair.folder().resolve(".weftex");
    return shared.equals(state.folder()) || !Capture.isIn(shared.resolve("base"))
        ? ""
        : " If "
            + shown(shared)
            + " is this pair's, as in earlier versions, rename it to "
            + shown(state.folder())
            + ".";
  }

  /**
   * Puts the recorded candidate in force, and notes that in the ledgers of both copies, by which
   * they are known again.
   *
   * @param places where the base stands in them
   */
  public void accept(Map<String, LedgerPlace> places, String marked, Copy... copies)
      throws Refusal, IOException {
    Map<String, LedgerPlace> noted = new LinkedHashMap<>(places);
    for (Copy copy : copies) {
      try {
        noted.put(copy.name(), CopyMarks.write(copy, places.get(copy.name()), marked));
      } catch (Refusal e) {
        say(
            "The base could not be noted on "
                + copy.name()
                + " ("
                + e.reason()
                + "), so it will not be noticed if that copy is restored from a backup or recreated.");
      }
    }
    bases().accept(noted);
    for (Copy copy : copies) {
      new Remade(this, copy.name()).forget();
    }
  }

  /** What a copy's own tables mean. */
  public SiteMap siteMap(Copy copy) {
    return SiteMap.resolve(
        pair.model(), copy.catalog().all().stream().map(table -> table.table()).toList());
  }

  /** Says something on the side, while a command goes on. */
  public void say(String sentence) {
    session.err().println("weftex: " + Visible.line(sentence));
  }

  /** The copy that is named on the command line, or else live. */
  public String copyName(CommandLine line) throws Refusal {
    List<String> names = line.getArgList();
    if (names.size() > 1) {
      throw new Refusal(
          Refusal.Kind.WRONG_INPUT,
          "More than one copy is named. Nothing was changed.",
          "Name staging or live.");
    }
    return names.isEmpty() ? "live" : names.get(0);
  }

  /**
   * A name as somebody gives it with an option, or the user's.
   *
   * @throws Refusal if it is none that could stand on a line
   */
  public static String name(CommandLine line, Session session) throws Refusal {
    String name = line.getOptionValue("by", session.user()).strip();
    if (name.isEmpty() || !Visible.line(name).equals(name)) {
      throw new Refusal(
          Refusal.Kind.WRONG_INPUT,
          name.isEmpty()
              ? "The name after --by is empty. Nothing was changed."
              : "The name after --by has signs that are not shown. Nothing was changed.",
          "Say who it is, such as --by 'Mira Tangen'.");
    }
    return name;
  }

  /**
   * Holds a file of the state folder while something is written there that only one process may
   * write at a time.
   *
   * @throws Refusal if another process is at it
   */
  public FileClaim hold(String name, String what) throws Refusal, IOException {
    FileClaim.Attempt attempt =
        state.claim(name, session.user() + ", since " + Times.shown(session.now()));
    return attempt
        .claim()
        .orElseThrow(
            () ->
                new Refusal(
                    Refusal.Kind.PROTECTED,
                    "Another process is "
                        + what
                        + " here ("
                        + attempt.holder().orElse("somebody")
                        + "). Nothing was changed.",
                    "Wait until it has ended, and run the command again."));
  }

  /** A path as the user would type it. */
  public String shown(Path path) {
    Path absolute = path.toAbsolutePath().normalize();
    Path here = session.folder().toAbsolutePath().normalize();
    return absolute.startsWith(here) ? here.relativize(absolute).toString() : absolute.toString();
  }
}
