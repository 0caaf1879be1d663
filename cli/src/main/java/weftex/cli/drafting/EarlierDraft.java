package weftex.cli.drafting;

import java.io.IOException;
import java.nio.file.Path;
import org.apache.commons.cli.CommandLine;
import weftex.cli.config.SelectionWords;
import weftex.cli.workplace.NamedChangeSet;
import weftex.cli.workplace.SelectionOptions;
import weftex.cli.workplace.Workplace;
import weftex.core.change.ChangeSetHeader;
import weftex.core.decide.CarriedDecisions;
import weftex.core.decide.Joining;
import weftex.store.Refusal;
import weftex.store.changeset.ChangeSetFile;

/**
 * A change set that is brought up to date.
 *
 * @param words what was chosen then
 */
record EarlierDraft(ChangeSetHeader header, SelectionWords words, CarriedDecisions decisions) {

  static EarlierDraft read(CommandLine line, Workplace place) throws Refusal, IOException {
    if (SelectionOptions.isChosen(line) || line.hasOption("into") || line.hasOption("two-way")) {
      throw refusal(
          "--again takes the selection and the direction of the earlier draft, so none can be said"
              + " here.",
          "Leave the other options out, or write a new draft without --again.");
    }
    EarlierDraft earlier = read(NamedChangeSet.of(line, place), place);
    return earlier.with(place.selection(line));
  }

  /** The same, with more that is said now. */
  EarlierDraft with(SelectionWords more) {
    return new EarlierDraft(header, words.and(more), decisions);
  }

  static EarlierDraft read(Path file, Workplace place) throws Refusal, IOException {
    ChangeSetFile reviewed = ChangeSetFile.readWhole(file, place.keys());
    ChangeSetHeader header = reviewed.contents().header();
    if (!header.site().equals(place.pair().site())
        || !header.target().equals(place.pair().copy(header.into()).place())) {
      throw refusal(
          place.shown(file)
              + " is a change set of site '"
              + header.site()
              + "' into "
              + header.target()
              + ", and this folder is about another.",
          "Go to the folder of that site, or name another file.");
    }
    if (header.selection().containsKey(Joining.JOINED)) {
      throw refusal(
          place.shown(file)
              + " was put together from two change sets, which no selection describes.",
          "Bring each of the two up to date with --again, then --join them again.");
    }
    CarriedDecisions decisions = new CarriedDecisions(reviewed.contents().held());
    reviewed.schema().forEach(decisions::old);
    reviewed.eachChange(decisions::old);
    return new EarlierDraft(header, new SelectionWords(header.selection()), decisions);
  }

  private static Refusal refusal(String what, String next) {
    return new Refusal(Refusal.Kind.WRONG_INPUT, what + " No change set was written.", next);
  }
}
