package weftex.cli.reviewing;

import java.io.IOException;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Set;
import org.apache.commons.cli.CommandLine;
import weftex.cli.drafting.DraftCommand;
import weftex.cli.session.Session;
import weftex.cli.workplace.NamedChangeSet;
import weftex.cli.workplace.Result;
import weftex.cli.workplace.SelectionOptions;
import weftex.cli.workplace.Workplace;
import weftex.core.change.ChangeSetHeader;
import weftex.core.change.Outline;
import weftex.core.decide.TwoThings;
import weftex.core.merge.ConflictKind;
import weftex.core.row.RowName;
import weftex.core.signoff.Answer;
import weftex.store.Refusal;
import weftex.store.changeset.ChangeSetFile;

/**
 * The third answer to two things of one name: both. What is written then hangs on both copies (a
 * free name, parts that are alike, references of others), so the change set is drafted anew, and
 * what was decided of others is taken along.
 */
final class KeptApart {
  private KeptApart() {}

  /** Whether an option asks for two things, and not for both sides' words in a text. */
  static boolean isAsked(String word, CommandLine line) {
    return word.equals("both")
        && line.hasOption(word)
        && !ChangeNumbers.isOfColumns(line.getOptionValues(word));
  }

  static Result draft(CommandLine line, Session session, boolean decides)
      throws Refusal, IOException {
    if (decides || SelectionOptions.isChosen(line)) {
      throw new Refusal(
          Refusal.Kind.WRONG_INPUT,
          "--both drafts again, so nothing else can be decided with it. Nothing was changed.",
          "Say --both first, then the rest.");
    }
    Workplace place = Workplace.open(line, session);
    Path file = NamedChangeSet.of(line, place);
    ChangeSetFile reviewed = ChangeSetFile.read(file, session.keys());
    Set<Integer> wanted = new HashSet<>();
    String said = String.join(",", line.getOptionValues("both"));
    for (ChangeNumbers.Meant meant :
        new ChangeNumbers(reviewed.review(), Set.of()).resolve(said, Answer.SOURCE)) {
      if (meant.column().isPresent()) {
        throw new Refusal(
            Refusal.Kind.WRONG_INPUT,
            "'" + said + "' names things and passages of texts. Nothing was changed.",
            "Say --both for the things first; they are drafted again.");
      }
      wanted.addAll(meant.changes());
    }
    List<RowName> rows = rows(reviewed, wanted);
    if (rows.isEmpty()) {
      throw new Refusal(
          Refusal.Kind.WRONG_INPUT,
          "'"
              + said
              + "' means nothing that both copies added under one name. Nothing was changed.",
          "'weftex review --open' lists the conflicts; --both is for those called both-added, and"
              + " for passages of a text, such as 9.body#2.");
    }
    return DraftCommand.apart(file, rows, line, session, place).result();
  }

  /**
   * Drafts anew for changes that both copies added.
   *
   * @return the new change set
   */
  static Path draft(Path file, List<Integer> changes, CommandLine line, Session session)
      throws Refusal, IOException {
    List<RowName> rows = rows(ChangeSetFile.read(file, session.keys()), Set.copyOf(changes));
    return DraftCommand.apart(file, rows, line, session, Workplace.open(line, session)).file();
  }

  private static List<RowName> rows(ChangeSetFile reviewed, Set<Integer> wanted)
      throws IOException {
    List<RowName> rows = new ArrayList<>();
    for (Outline outline : reviewed.outlines()) {
      boolean both = outline.contests().stream().anyMatch(c -> c.kind() == ConflictKind.BOTH_ADDED);
      if (wanted.contains(outline.id()) && both) {
        TwoThings.row(reviewed.change(outline.id()), number(outline.table(), reviewed))
            .ifPresent(rows::add);
      }
    }
    return rows;
  }

  /** The column that numbers the rows of a table; empty if none does. */
  private static String number(String table, ChangeSetFile reviewed) {
    return reviewed.header().tables().stream()
        .filter(columns -> columns.name().equals(table))
        .map(ChangeSetHeader.TableColumns::number)
        .findFirst()
        .orElse("");
  }
}
