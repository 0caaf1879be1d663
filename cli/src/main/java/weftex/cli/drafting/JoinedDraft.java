package weftex.cli.drafting;

import java.io.IOException;
import java.nio.file.Path;
import java.util.EnumMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.stream.Collectors;
import org.apache.commons.cli.CommandLine;
import weftex.cli.render.BriefText;
import weftex.cli.result.BriefReport;
import weftex.cli.session.ExitStatus;
import weftex.cli.session.Session;
import weftex.cli.workplace.NamedChangeSet;
import weftex.cli.workplace.Result;
import weftex.cli.workplace.Sealing;
import weftex.cli.workplace.SelectionOptions;
import weftex.cli.workplace.Signing;
import weftex.cli.workplace.Workplace;
import weftex.core.change.RowChange;
import weftex.core.change.SchemaChange;
import weftex.core.changeset.ChangeSetWriter;
import weftex.core.decide.Joining;
import weftex.store.Refusal;
import weftex.store.changeset.ChangeSetFile;
import weftex.store.compare.Drafting;
import weftex.store.seal.Receivers;
import weftex.store.state.StateFolder;

/** Puts two change sets together. */
final class JoinedDraft {
  private static final int NAMED = 20;

  private JoinedDraft() {}

  private enum Part {
    SCHEMA,
    ROWS,
    ALIKE
  }

  /** Finds the file for what is put together. */
  interface Place {
    Path of(Receivers receivers) throws Refusal, IOException;
  }

  static Result run(CommandLine line, Session session, Workplace place, Place where)
      throws Refusal, IOException {
    if (SelectionOptions.isSaid(line) || line.hasOption("again")) {
      throw refusal(
          "--join takes two change sets as they are, so nothing can be chosen here.",
          "Leave the other options out.");
    }
    Path first = NamedChangeSet.of(line, place);
    Path second = StateFolder.kept(session.folder().resolve(line.getOptionValue("join")));
    ChangeSetFile one = ChangeSetFile.readWhole(first, place.keys());
    ChangeSetFile other = ChangeSetFile.readWhole(second, place.keys());
    if (one.contents().draft().equals(other.contents().draft())) {
      throw refusal(
          place.shown(first) + " and " + place.shown(second) + " are the same change set.",
          "Name another one.");
    }
    Receivers receivers = Sealing.receivers(line, place, session, one, other);
    Sealing.checkSigned(line, session, receivers);
    Path out = where.of(receivers);
    Map<Joining.Which, ChangeSetFile> both = new EnumMap<>(Joining.Which.class);
    both.put(Joining.Which.FIRST, one);
    both.put(Joining.Which.SECOND, other);
    Joining joining = joining(one, other);
    see(both, joining, place.shown(first) + ", " + place.shown(second));
    int changes =
        Drafting.write(
            out,
            joining.header(session.now(), Session.TOOL, receivers.lines()),
            joining.held(),
            writer -> write(both, joining, writer));
    Signing.draft(out, line, session, place);
    return joined(place, out, one, changes, joining.held().size());
  }

  private static Joining joining(ChangeSetFile one, ChangeSetFile other) {
    return new Joining(
        one.contents().header(),
        one.contents().held(),
        other.contents().header(),
        other.contents().held());
  }

  private static Result joined(
      Workplace place, Path out, ChangeSetFile like, int changes, int decisions)
      throws IOException {
    BriefReport.Joined joined =
        new BriefReport.Joined(
            place.shown(out),
            like.header().from(),
            like.header().into(),
            changes,
            decisions,
            NamedChangeSet.argument(place, out));
    return new Result(ExitStatus.DONE, joined, page -> BriefText.print(page, joined));
  }

  /** Looks through both; {@code files} is what they are called. */
  private static void see(Map<Joining.Which, ChangeSetFile> both, Joining joining, String files)
      throws Refusal, IOException {
    for (Joining.Which which : both.keySet()) {
      for (SchemaChange change : both.get(which).schema()) {
        joining.see(which, change);
      }
      both.get(which).eachChange(change -> joining.see(which, change));
    }
    List<String> clashes = joining.clashes();
    if (!clashes.isEmpty()) {
      throw refusal(
          "The two change sets conflict ("
              + files
              + "): "
              + clashes.stream()
                  .limit(NAMED)
                  .map(clash -> clash.replaceFirst("\\.$", ""))
                  .collect(Collectors.joining("; "))
              + (clashes.size() > NAMED ? "; and " + (clashes.size() - NAMED) + " more" : "")
              + ".",
          "Bring both up to date with 'weftex draft --again', or draft one change set of all of it.");
    }
  }

  private static void write(
      Map<Joining.Which, ChangeSetFile> both, Joining joining, ChangeSetWriter writer)
      throws IOException {
    // New tables and columns of both stand before all rows, and what is alike behind
    // them.
    for (Joining.Which which : Joining.Which.values()) {
      for (SchemaChange change : both.get(which).schema()) {
        Optional<SchemaChange> numbered = joining.renumbered(which, change);
        if (numbered.isPresent()) {
          writer.write(numbered.get());
        }
      }
    }
    for (Joining.Which which : Joining.Which.values()) {
      both.get(which)
          .eachChange(
              change -> {
                Optional<RowChange> numbered = joining.renumbered(which, change);
                if (numbered.isPresent()) {
                  writer.write(numbered.get());
                }
              });
    }
    for (ChangeSetFile file : both.values()) {
      file.eachAlike(writer::write);
    }
  }

  private static Refusal refusal(String what, String next) {
    return new Refusal(Refusal.Kind.WRONG_INPUT, what + " No change set was written.", next);
  }
}
