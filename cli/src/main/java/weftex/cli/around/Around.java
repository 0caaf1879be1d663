package weftex.cli.around;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import weftex.cli.config.Pair;
import weftex.cli.config.SiteCommands;
import weftex.cli.config.SiteCommands.Moment;
import weftex.cli.session.Session;
import weftex.store.FailureWords;
import weftex.store.Refusal;
import weftex.store.state.FileClaim;
import weftex.store.state.StateFolder;

/**
 * Runs the site's own commands around an apply or undo. Once those before an apply are begun, those
 * after it are run whatever happens: at its end, on an interrupt, or, where the program was killed,
 * at the next start.
 */
public final class Around implements AutoCloseable {
  private static final String CLAIM = "commands";

  private final Pair pair;
  private final Session session;
  private final Moment after;
  private final Map<String, String> told = new LinkedHashMap<>();
  private final Optional<FileClaim> claim;
  private String outcome = "failed";
  private boolean due;
  private boolean well = true;

  private Around(Pair pair, Session session, Moment after, Optional<FileClaim> claim) {
    this.pair = pair;
    this.session = session;
    this.after = after;
    this.claim = claim;
    told.put("WEFTEX_SITE", pair.site());
  }

  /**
   * Which way an apply or undo goes.
   *
   * @param from the copy that it comes from
   * @param into the copy that is written to
   * @param changeSet the change set's file
   */
  public record Way(String from, String into, String changeSet) {}

  /**
   * Runs what comes before an apply.
   *
   * @throws Refusal if one of the commands fails, or another apply of the pair is at work; what
   *     comes after the apply has been run then, if anything had begun
   */
  public static Around apply(Pair pair, StateFolder state, Session session, Way way)
      throws Refusal, IOException {
    boolean needed =
        !pair.commands().of(Moment.BEFORE_APPLY).isEmpty()
            || !pair.commands().of(Moment.AFTER_APPLY).isEmpty();
    Optional<FileClaim> claim =
        needed ? state.claim(CLAIM, "an apply, since " + session.now()).claim() : Optional.empty();
    if (needed && claim.isEmpty()) {
      throw new Refusal(
          Refusal.Kind.PROTECTED,
          "Another apply of " + pair.site() + " is at work. Nothing was changed.",
          "Wait until it has ended.");
    }
    Around around = new Around(pair, session, Moment.AFTER_APPLY, claim);
    around.tell(way);
    around.due = true;
    session.restorer().due(() -> around.finish("interrupted"));
    Optional<String> failed = around.run(Moment.BEFORE_APPLY);
    if (failed.isPresent()) {
      around.finish("refused");
      throw new Refusal(
          Refusal.Kind.PROTECTED,
          failed.get() + " Nothing was changed.",
          "Mend it, or take it out of 'commands' in weftex.yaml.");
    }
    return around;
  }

  /** Nothing at all. */
  public static Around nothing(Pair pair, Session session) {
    return new Around(pair, session, Moment.AFTER_APPLY, Optional.empty());
  }

  /** What comes after an undo; there is nothing before it. */
  public static Around undo(Pair pair, Session session, Way way) {
    Around around = new Around(pair, session, Moment.AFTER_UNDO, Optional.empty());
    around.tell(way);
    around.due = true;
    return around;
  }

  /** Runs what should have come after an apply whose program was killed. */
  public static void finishKilled(Pair pair, StateFolder state, Session session)
      throws IOException {
    Path file = state.folder().resolve("." + CLAIM + ".open");
    if (pair.commands().of(Moment.AFTER_APPLY).isEmpty()
        || !Files.exists(file)
        || Files.size(file) == 0) {
      return;
    }
    // Only the claim tells whether that apply is still at work.
    Optional<FileClaim> claim =
        state.claim(CLAIM, "what follows an apply, since " + session.now()).claim();
    if (claim.isPresent()) {
      session.err().println("weftex: An apply was killed before its after-apply commands had run.");
      Around around = new Around(pair, session, Moment.AFTER_APPLY, claim);
      around.due = true;
      around.finish("interrupted");
    }
  }

  private void tell(Way way) {
    told.put("WEFTEX_FROM", way.from());
    told.put("WEFTEX_INTO", way.into());
    told.put("WEFTEX_CHANGE_SET", way.changeSet());
  }

  /**
   * Says how it ended; without that it failed.
   *
   * @param outcome {@code applied}, {@code undone} or {@code refused}
   */
  public void ended(String outcome, Optional<String> receipt) {
    this.outcome = outcome;
    receipt.ifPresent(id -> told.put("WEFTEX_RECEIPT", id));
  }

  /** Whether every command did its work so far. */
  public boolean isWell() {
    return well;
  }

  @Override
  public void close() {
    session.restorer().notDue();
    finish(outcome);
  }

  /** Once, be it from here or from an interrupt. */
  private synchronized void finish(String how) {
    if (!due) {
      return;
    }
    due = false;
    told.put("WEFTEX_OUTCOME", how);
    boolean done = how.equals("applied") || how.equals("undone");
    if (after == Moment.AFTER_APPLY || done) {
      run(after).ifPresent(sentence -> warn(sentence + " See to it by hand."));
    }
    if (!done) {
      run(Moment.ON_FAILURE).ifPresent(this::warn);
    }
    try {
      if (claim.isPresent()) {
        claim.get().close();
      }
    } catch (IOException e) {
      warn("The state folder could not be written to: " + FailureWords.of(e));
    }
  }

  private void warn(String sentence) {
    well = false;
    session.err().println("weftex: " + sentence);
  }

  /** Runs the commands of a moment up to the first that fails; the sentence that says so. */
  private Optional<String> run(Moment moment) {
    SiteCommands commands = pair.commands();
    told.put("WEFTEX_MOMENT", moment.key());
    CommandRun run = new CommandRun(pair.folder(), commands.limit(), commands.secrets());
    for (List<String> words : commands.of(moment)) {
      Optional<String> failed =
          run.run(words, told, line -> session.err().println("  " + moment.key() + ": " + line));
      if (failed.isPresent()) {
        return Optional.of(
            "The command '"
                + String.join(" ", words)
                + "' of "
                + moment.key()
                + " "
                + failed.get()
                + ".");
      }
    }
    return Optional.empty();
  }
}
