package weftex.cli.applying;

import java.io.IOException;
import java.util.Map;
import org.apache.commons.cli.CommandLine;
import weftex.cli.page.Times;
import weftex.cli.render.RestoreText;
import weftex.cli.result.RestoreReport;
import weftex.cli.session.Session;
import weftex.cli.workplace.MaskedPeople;
import weftex.cli.workplace.Workplace;
import weftex.store.Refusal;
import weftex.store.database.CopySpec;
import weftex.store.dump.Restorer;
import weftex.store.dump.Restoring;
import weftex.store.refit.Refitting;

/** What is said and asked before a copy is replaced. */
final class RestoreQuestions {

  private RestoreQuestions() {}

  static void saySetAside(Workplace place, CopySpec spec, RestoreSource source)
      throws Refusal, IOException {
    if (source.isOtherCopy() && place.pair().people().areMasked()) {
      place.say(
          "What "
              + spec.name()
              + " had before is set aside, with its personal data: 'weftex restore "
              + spec.name()
              + " --remove-aside' takes it away.");
    }
  }

  static void sayBefore(
      Workplace place,
      CopySpec spec,
      RestoreSource source,
      Restorer restorer,
      Map<String, Restoring.Since> since) {
    String copy = spec.name() + " (" + spec.place() + ")";
    String size = RestoreText.size(restorer.tables(), restorer.rows());
    if (source.kept().isPresent()) {
      place.say(copy + " is made anew from " + source.words() + ": " + size);
      place.say(RestoreText.kept(spec.name(), kept(source.kept().get())));
      MaskedPeople.say(place, spec.name());
    } else if (source.taken().isEmpty()) {
      place.say(copy + " becomes what " + source.words() + " has: " + size);
    } else {
      place.say(copy + " becomes what it was on " + Times.shown(source.taken()) + ": " + size);
      place.say("It comes from " + source.words() + ".");
    }
    if (!source.missing().isEmpty()) {
      place.say("These tables are not there and go: " + String.join(", ", source.missing()) + ".");
    }
    place.say(
        since.isEmpty()
            ? "No row was added or edited there since."
            : source.kept().isPresent()
                ? "What else is there goes: " + RestoreText.apart(since) + "."
                : "What was added or edited there since goes: " + RestoreText.since(since) + ".");
  }

  static RestoreReport.Kept kept(Refitting.Kept kept) {
    return new RestoreReport.Kept(kept.settings(), kept.secrets(), kept.accounts(), kept.emptied());
  }

  /** Whoever replaces a whole copy says its site's name, which nobody types by accident. */
  static void confirm(CommandLine line, Session session, Workplace place, CopySpec spec)
      throws Refusal, IOException {
    String site = place.pair().site();
    String answer = line.getOptionValue("yes", "");
    if (answer.isEmpty() && session.terminal().in() && !line.hasOption("json")) {
      session.err().print("Type the name of the site to go on: ");
      session.err().flush();
      String typed = session.in().readLine();
      answer = typed == null ? "" : typed.strip();
    }
    if (!answer.equals(site)) {
      throw new Refusal(
          Refusal.Kind.PROTECTED,
          (answer.isEmpty()
                  ? "Nobody confirmed it."
                  : "'" + answer + "' is not the name of the site.")
              + " Nothing was changed on "
              + spec.name()
              + ".",
          "Say --yes " + site + ".");
    }
  }
}
