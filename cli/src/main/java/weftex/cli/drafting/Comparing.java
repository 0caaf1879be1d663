package weftex.cli.drafting;

import java.io.IOException;
import java.nio.file.Path;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeSet;
import org.apache.commons.cli.CommandLine;
import weftex.cli.config.Pair;
import weftex.cli.page.Progress;
import weftex.cli.page.Times;
import weftex.cli.workplace.AddressCheck;
import weftex.cli.workplace.Folders;
import weftex.cli.workplace.MaskedPeople;
import weftex.cli.workplace.Remade;
import weftex.cli.workplace.StandingText;
import weftex.cli.workplace.Workplace;
import weftex.core.select.Selection;
import weftex.store.Refusal;
import weftex.store.capture.Capture;
import weftex.store.capture.DamagedBase;
import weftex.store.compare.ComparisonRun;
import weftex.store.compare.CopyMarks;
import weftex.store.copy.Copy;
import weftex.store.database.CopySpec;
import weftex.store.file.PairFolders;
import weftex.store.rows.Ledger;
import weftex.store.state.DifferenceFile;
import weftex.store.state.SettledRanges;

/** Compares the copies of a pair as a command line asks for it. */
final class Comparing {
  private final Workplace place;
  private final CommandLine line;

  Comparing(Workplace place, CommandLine line) {
    this.place = place;
    this.line = line;
  }

  /**
   * Compares the two copies, and checks that a selection's tables are there.
   *
   * @param renames files that are to have another name on the receiving copy
   */
  ComparisonRun run(Selection selection, boolean asksAgain, Map<String, String> renames)
      throws Refusal, IOException {
    return run(
        Workplace.into(line),
        line.hasOption("two-way"),
        selection,
        ComparisonRun.Manner.USUAL.asksAgain(asksAgain).renaming(renames),
        false);
  }

  /**
   * The same, for a receiving copy that is not named on the command line.
   *
   * @param sealed whether nothing of the content may be on the disk in the clear
   */
  ComparisonRun run(
      String target,
      boolean twoWay,
      Selection selection,
      ComparisonRun.Manner manner,
      boolean sealed)
      throws Refusal, IOException {
    Pair pair = place.pair();
    CopySpec into = pair.copy(target);
    new Remade(place, into.name()).check();
    new Remade(place, pair.other(into.name()).name()).check();
    Optional<Capture> base = twoWay ? Optional.empty() : Optional.of(place.base());
    if (base.isPresent() && !base.get().isSealed()) {
      place.say(
          "The base was recorded by an older version, without hashes, so it can't be checked that it"
              + " is as it was recorded.");
    }
    List<Copy> both = Copy.reach(pair.other(into.name()), into);
    Copy source = both.get(0);
    Copy receiving = both.get(1);
    AddressCheck.check(pair, source, receiving);
    MaskedCheck.checkNames(selection, source, receiving);
    new MaskedCheck(place).checkMasked(source, receiving);
    Path spill = place.state().temporary("differences");
    DifferenceFile log = DifferenceFile.create(spill, sealed || place.atRest().isSealing());
    SettledRanges known =
        SettledRanges.open(
            place.state().settled(into.name()),
            base.isPresent() ? ComparisonTerms.of(pair, base.get()) : "");
    return compared(selection, manner, base, both, log, known);
  }

  private ComparisonRun compared(
      Selection selection,
      ComparisonRun.Manner manner,
      Optional<Capture> base,
      List<Copy> both,
      DifferenceFile log,
      SettledRanges known)
      throws Refusal, IOException {
    PairFolders folders = Folders.open(place, line.hasOption("thorough"));
    ComparisonRun.Request request =
        request(
            both,
            base,
            selection,
            folders,
            manner.thorough(line.hasOption("thorough")).known(known));
    try {
      return compared(request, log, known);
    } catch (DamagedBase e) {
      log.close();
      folders.close();
      throw new Refusal(
          Refusal.Kind.WRONG_INPUT,
          e.getMessage() + ". Nothing was changed.",
          "Bring "
              + place.shown(place.bases().current())
              + " back from a backup, or record the base again with 'weftex mark' when both copies"
              + " have the same content.",
          e);
    } catch (Refusal | IOException | RuntimeException e) {
      log.close();
      folders.close();
      throw e;
    }
  }

  private ComparisonRun compared(
      ComparisonRun.Request request, DifferenceFile log, SettledRanges known)
      throws Refusal, IOException {
    Optional<Capture> base = request.base();
    boolean again = request.manner().asksAgain();
    long about = base.isPresent() ? base.get().rows() : request.target().roughRows();
    try (Progress progress = Progress.start(place.session(), "comparing", about)) {
      ComparisonRun run = new ComparisonRun(request, log, progress);
      sayFound(run);
      boolean looked = base.isPresent() && !again && !line.hasOption("thorough");
      if (looked) {
        known.save();
      }
      if (again) {
        place.say(
            "What was decided for "
                + request.target().name()
                + "'s side in earlier merges is asked again.");
      }
      return run;
    }
  }

  /**
   * @param both the source and the receiving copy
   */
  private ComparisonRun.Request request(
      List<Copy> both,
      Optional<Capture> base,
      Selection selection,
      PairFolders folders,
      ComparisonRun.Manner manner)
      throws Refusal, IOException {
    Pair pair = place.pair();
    Copy receiving = both.get(1);
    return new ComparisonRun.Request(
        both.get(0),
        receiving,
        base,
        new ComparisonRun.Tables(
            pair.model(), named(selection), place.receipts().madeTables(receiving.spec().place())),
        new ComparisonRun.Terms(
            pair.addresses(),
            pair.people(receiving.name()),
            MaskedPeople.masking(place, both.get(0).name(), receiving.name())),
        Optional.of(place.receipts()),
        folders,
        manner);
  }

  private void sayFound(ComparisonRun run) throws Refusal {
    for (Map.Entry<String, CopyMarks.Standing> copy : run.standings().entrySet()) {
      String other = place.pair().other(copy.getKey()).name();
      StandingText.sentence(copy.getKey(), other, copy.getValue()).ifPresent(place::say);
    }
    run.missingReceipts().forEach(this::sayMissing);
  }

  /** Whoever merges from a second folder must share its receipts. */
  private void sayMissing(String copy, List<Ledger.Entry> missing) {
    Ledger.Entry first = missing.get(0);
    place.say(
        copy
            + " was merged on "
            + Times.shown(first.writtenAt())
            + " from another folder"
            + (missing.size() > 1 ? ", and " + (missing.size() - 1) + " times since" : "")
            + ": the receipt "
            + first.receipt()
            + " is not in "
            + place.shown(place.state().receipts())
            + ". If that was this pair, copy the other folder's .weftex/receipts here first, or what was"
            + " merged comes a second time; if it was another pair, it counts as an edit of "
            + copy
            + ".");
  }

  /** Tables of noise that are asked for. */
  private static Set<String> named(Selection selection) {
    Set<String> named = new TreeSet<>(selection.tables());
    named.addAll(selection.with());
    return named;
  }
}
