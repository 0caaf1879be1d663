package weftex.cli.command;

import java.io.IOException;
import java.math.BigInteger;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import org.apache.commons.cli.CommandLine;
import weftex.cli.session.Session;
import weftex.core.change.Answer;
import weftex.core.change.ChangeSetHeader;
import weftex.core.change.Outline;
import weftex.core.change.RowChange;
import weftex.core.merge.ConflictKind;
import weftex.core.row.RowName;
import weftex.core.row.Value;
import weftex.store.Refusal;
import weftex.store.changeset.ChangeSetFile;

/**
 * The third answer to two things of one name: both. What is written then hangs on both copies (a
 * free name, parts that are alike, references of others), so the change set is drafted anew, and
 * what was decided of others is taken along.
 */
final class KeptApart {
  private KeptApart() {}

  static Result draft(CommandLine line, Session session, boolean decides)
      throws Refusal, IOException {
    if (decides || SelectionOptions.isChosen(line)) {
      throw new Refusal(
          Refusal.Kind.WRONG_INPUT,
          "--both drafts anew, so nothing else can be decided with it. Nothing was changed.",
          "Say --both first, then the rest.");
    }
    Workplace place = Workplace.open(line, session);
    Path file = place.changeSet(line);
    ChangeSetFile reviewed = ChangeSetFile.read(file);
    Set<Integer> wanted = new HashSet<>();
    new ChangeNumbers(reviewed.review(), Set.of())
        .resolve(line.getOptionValue("both"), Answer.SOURCE)
        .forEach(meant -> wanted.addAll(meant.changes()));
    List<RowName> rows = new ArrayList<>();
    for (Outline outline : reviewed.outlines()) {
      boolean both = outline.contests().stream().anyMatch(c -> c.kind() == ConflictKind.BOTH_ADDED);
      if (wanted.contains(outline.id()) && both) {
        number(reviewed.change(outline.id()), reviewed)
            .ifPresent(number -> rows.add(new RowName(outline.table(), number)));
      }
    }
    if (rows.isEmpty()) {
      throw new Refusal(
          Refusal.Kind.WRONG_INPUT,
          "'"
              + line.getOptionValue("both")
              + "' means nothing that both copies added under one name. Nothing was changed.",
          "'weftex review --open' lists the conflicts; --both is for those called both-added.");
    }
    return DraftCommand.apart(file, rows, line, session, place);
  }

  /** The number of the row on the copy that the changes come from. */
  private static Optional<BigInteger> number(RowChange change, ChangeSetFile reviewed) {
    String column =
        reviewed.header().tables().stream()
            .filter(table -> table.name().equals(change.table()))
            .map(ChangeSetHeader.TableColumns::number)
            .findFirst()
            .orElse("");
    Value own = change.own().getOrDefault(column, change.key().get(column));
    return own instanceof Value.Whole whole ? Optional.of(whole.number()) : Optional.empty();
  }
}
