package weftex.cli.reviewing;

import java.io.IOException;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeSet;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import org.apache.commons.cli.CommandLine;
import org.apache.commons.cli.Option;
import weftex.cli.session.Session;
import weftex.cli.workplace.Chosen;
import weftex.cli.workplace.OpenLog;
import weftex.cli.workplace.Reviewer;
import weftex.cli.workplace.Signing;
import weftex.cli.workplace.Workplace;
import weftex.core.change.ChangeSetHeader;
import weftex.core.change.Review;
import weftex.core.change.RowChange;
import weftex.core.changeset.DecisionLine;
import weftex.core.changeset.WrittenValue;
import weftex.core.decide.Consequences;
import weftex.core.decide.RuleBook;
import weftex.core.row.Value;
import weftex.core.select.Selection;
import weftex.core.signoff.Answer;
import weftex.core.signoff.Approval;
import weftex.core.signoff.Decision;
import weftex.core.signoff.Withdrawal;
import weftex.store.Refusal;
import weftex.store.changeset.ChangeSetFile;
import weftex.store.changeset.DecisionLog;

/** Writes what the options of a review decide; all of it, or nothing if one thing does not fit. */
final class ReviewDecisions {
  static final Map<String, Answer> ANSWERS = new LinkedHashMap<>();
  private static final Pattern SETTING =
      Pattern.compile("(\\d{1,9})\\.([^=]+)=(.*)", Pattern.DOTALL);

  static {
    ANSWERS.put("take", Answer.SOURCE);
    ANSWERS.put("keep", Answer.TARGET);
    ANSWERS.put("both", Answer.BOTH);
    ANSWERS.put("skip", Answer.SKIP);
    ANSWERS.put("include", Answer.INCLUDE);
    ANSWERS.put("bring", Answer.BRING);
    ANSWERS.put("reopen", Answer.REOPEN);
    ANSWERS.put("note", Answer.NOTE);
  }

  private final CommandLine line;
  private final Session session;
  private final Workplace place;
  private final ChangeSetFile index;
  private final Review review;
  private final String by;
  private final List<byte[]> lines = new ArrayList<>();
  private final List<Decision> followed = new ArrayList<>();

  private ReviewDecisions(
      CommandLine line, Session session, Workplace place, ChangeSetFile index, String by) {
    this.line = line;
    this.session = session;
    this.place = place;
    this.index = index;
    this.review = index.review();
    this.by = by;
  }

  /** Whether anything is to be decided. */
  static boolean areAsked(CommandLine line) {
    return ANSWERS.keySet().stream()
            .anyMatch(word -> line.hasOption(word) && !KeptApart.isAsked(word, line))
        || line.hasOption("set")
        || line.hasOption("withdraw")
        || line.hasOption("by-rules");
  }

  /**
   * Decides.
   *
   * @param selection that of the command line
   * @return what followed from the answers
   */
  static List<Decision> write(
      CommandLine line, Session session, Workplace place, Path file, Optional<Selection> selection)
      throws Refusal, IOException {
    String by = Reviewer.name(line, session);
    try (DecisionLog log = OpenLog.of(file, place, by, session)) {
      ChangeSetFile read = ChangeSetFile.read(file, session.keys());
      ReviewDecisions decisions = new ReviewDecisions(line, session, place, read, by);
      decisions.gather(selection.isPresent() ? Chosen.some(read, selection.get()) : Set.of());
      log.append(decisions.lines);
      return decisions.followed;
    }
  }

  /** In the order in which they are written, since a later decision replaces an earlier one. */
  private void gather(Set<Integer> chosen) throws Refusal, IOException {
    for (Option option : line.getOptions()) {
      String word = option.getLongOpt();
      for (String text : option.hasArg() ? option.getValuesList() : List.of("")) {
        if (ANSWERS.containsKey(word)) {
          answer(ANSWERS.get(word), text, chosen);
        } else if ("set".equals(word)) {
          set(text);
        } else if ("withdraw".equals(word)) {
          withdraw(text);
        } else if ("by-rules".equals(word)) {
          byRules();
        }
      }
    }
  }

  private void answer(Answer answer, String text, Set<Integer> chosen) throws Refusal, IOException {
    String why = line.getOptionValue("why", "");
    if (answer == Answer.NOTE && why.isBlank()) {
      throw refusal("A note needs words.", "Add --why 'TEXT'.");
    }
    Set<Integer> open = open();
    Set<Integer> about = new TreeSet<>();
    for (ChangeNumbers.Meant meant : new ChangeNumbers(review, chosen).resolve(text, answer)) {
      about.addAll(meant.changes());
      Map<Optional<Decision.Passage>, List<Integer>> byPassage = new LinkedHashMap<>();
      for (int id : meant.changes()) {
        for (Optional<Decision.Passage> passage : passages(id, meant, answer)) {
          byPassage.computeIfAbsent(passage, k -> new ArrayList<>()).add(id);
        }
      }
      for (var entry : byPassage.entrySet()) {
        enter(
            new Decision(
                entry.getValue(),
                meant.column(),
                entry.getKey(),
                answer,
                Optional.empty(),
                by,
                session.now(),
                why));
      }
    }
    if (answer != Answer.NOTE && answer != Answer.REOPEN && ChangeNumbers.isByWord(text)) {
      // An answer to all conflicts leaves none.
      open.removeAll(text.equals("conflicts") ? open() : about);
      for (Decision decision : Consequences.of(review, answer, open, by, session.now())) {
        lines.add(DecisionLine.of(decision));
        followed.add(decision);
      }
    }
  }

  private Set<Integer> open() {
    return HoldingBack.openOf(review);
  }

  /** The passages that are meant; none stands for the column or the change as a whole. */
  private List<Optional<Decision.Passage>> passages(
      int id, ChangeNumbers.Meant meant, Answer answer) throws Refusal, IOException {
    if (meant.passage() == 0 && answer != Answer.BOTH) {
      return List.of(Optional.empty());
    }
    String column = meant.column().orElseThrow();
    List<Decision.Passage> open =
        index.change(id).conflicts().stream()
            .flatMap(conflict -> conflict.allPassages(column).stream())
            .toList();
    if (!answer.isOfPassages() || open.isEmpty() || meant.passage() > open.size()) {
      throw refusal(
          "Column "
              + column
              + " of change "
              + id
              + (open.isEmpty()
                  ? " has no passages that can be decided one by one."
                  : " has "
                      + open.size()
                      + (open.size() == 1 ? " passage" : " passages")
                      + " to take or keep."),
          "'weftex review --change " + id + "' shows it.");
    }
    return meant.passage() == 0
        ? open.stream().map(Optional::of).toList()
        : List.of(Optional.of(open.get(meant.passage() - 1)));
  }

  private void set(String text) throws Refusal, IOException {
    Matcher setting = SETTING.matcher(text);
    if (!setting.matches() || !review.ids().contains(Integer.parseInt(setting.group(1)))) {
      throw refusal("'" + text + "' sets no value.", "Write --set 4.title='New title'.");
    }
    int id = Integer.parseInt(setting.group(1));
    Optional<String> column = Optional.of(setting.group(2).strip());
    Optional<String> reason =
        index.isSchema(id)
            ? Optional.of("Change " + id + " has no values to set.")
            : review.refusal(id, column, Answer.VALUE);
    if (reason.isPresent()) {
      throw refusal(reason.get(), "'weftex review --change " + id + "' shows it.");
    }
    RowChange change = index.change(id);
    ChangeSetHeader.ColumnType type =
        index.contents().header().column(change.table(), column.get()).orElseThrow();
    Value value;
    try {
      value = WrittenValue.parse(type, review.current(change, column.get()), setting.group(3));
    } catch (IllegalArgumentException e) {
      throw refusal(e.getMessage(), "'weftex review --change " + id + "' shows what is there.");
    }
    enter(
        new Decision(
            List.of(id),
            column,
            Optional.empty(),
            Answer.VALUE,
            Optional.of(value),
            by,
            session.now(),
            line.getOptionValue("why", "")));
  }

  private void withdraw(String text) throws Refusal, IOException {
    Set<Integer> held = index.contents().held().keySet();
    if (!text.matches("\\d{1,9}") || !held.contains(Integer.parseInt(text))) {
      throw refusal(
          "There is no decision '" + text + "' that holds.",
          "'weftex review --decisions' lists them by number.");
    }
    lines.add(DecisionLine.of(new Withdrawal(Integer.parseInt(text), by, session.now())));
  }

  private void byRules() throws Refusal, IOException {
    if (place.pair().rules().isEmpty()) {
      throw refusal("weftex.yaml has no rules.", "docs/configuration.md says how to write them.");
    }
    RuleBook rules = new RuleBook(place.pair().rules(), index.contents().header().from(), review);
    index.schema().forEach(rules::see);
    index.eachChange(rules::see);
    for (Decision decision : rules.decisions(session.now())) {
      enter(decision);
    }
  }

  private void enter(Decision decision) throws IOException {
    review.add(decision);
    lines.add(DecisionLine.of(decision));
  }

  /**
   * Approves what stands there.
   *
   * @return how many changes were held back first, as nobody is asked: they were undone before
   */
  static int approve(CommandLine line, Session session, Workplace place, Path file)
      throws Refusal, IOException {
    String by = Reviewer.name(line, session);
    if (by.isEmpty()) {
      throw refusal("An approval needs a name.", "Add --by NAME.");
    }
    try (DecisionLog log = OpenLog.of(file, place, by, session)) {
      int held =
          line.hasOption("if-nothing-open")
              ? HoldingBack.holdBack(place, session, file, by, log)
              : 0;
      ChangeSetFile index = ChangeSetFile.read(file, session.keys());
      int open = index.review().count(Review.Standing.OPEN);
      if (open > 0) {
        throw new Refusal(
            Refusal.Kind.UNDECIDED,
            open
                + (open == 1 ? " change still needs" : " changes still need")
                + " a decision. The change set was not approved.",
            "See them with 'weftex review --open'.");
      }
      Approval approval = Approval.unsigned(by, session.now(), index.contents().sha256());
      log.append(List.of(DecisionLine.of(Signing.approval(approval, line, session, place))));
      return held;
    }
  }

  private static Refusal refusal(String what, String next) {
    return new Refusal(Refusal.Kind.WRONG_INPUT, what + " No decision was written.", next);
  }
}
