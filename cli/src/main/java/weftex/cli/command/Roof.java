package weftex.cli.command;

import java.io.IOException;
import java.nio.file.Path;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Collectors;
import org.apache.commons.cli.CommandLine;
import org.apache.commons.cli.Option;
import weftex.cli.config.Pair;
import weftex.cli.config.PairReader;
import weftex.cli.config.RoofSites;
import weftex.cli.session.Session;
import weftex.cli.workplace.Command;
import weftex.cli.workplace.Workplace;
import weftex.store.Refusal;
import weftex.store.state.StateFolder;

/**
 * Several sites that one configuration file describes ({@code sites: all}): a command is run for
 * each of them in turn, or for the one that {@code --at} names.
 */
public final class Roof {
  /** Commands that are about no site of the file, or about what all have in common. */
  private static final Set<CommandName> OF_NO_SITE =
      Set.of(CommandName.DEMO, CommandName.PAIR, CommandName.MODEL);

  private Roof() {}

  /** The option by which one site is named. */
  public static Option option() {
    return Option.builder()
        .longOpt(Workplace.AT)
        .hasArg()
        .argName("SITE")
        .desc(
            "where weftex.yaml says 'sites': one of them, by its number or the end of its address")
        .get();
  }

  /**
   * The sites for which a command line is to be run, each by {@code --at} and its number.
   *
   * @return empty if it is run once, as it stands
   * @throws Refusal if a site is named that is none, or none is where one must be
   */
  public static List<RoofSites.Site> sites(
      CommandName name, Command command, CommandLine line, Session session)
      throws Refusal, IOException {
    Optional<Pair> pair = OF_NO_SITE.contains(name) ? Optional.empty() : pair(line, session);
    boolean isNamed = line.hasOption(Workplace.AT);
    if (pair.isEmpty() || pair.get().sites().isEmpty()) {
      if (isNamed) {
        throw new Refusal(
            Refusal.Kind.WRONG_INPUT,
            "--at names one of several sites, and "
                + Workplace.file(line, session).getFileName()
                + " does not say 'sites'. Nothing was changed.",
            "Leave --at out, or add 'sites: all' to the file.");
      }
      return List.of();
    }
    RoofSites found = found(pair.get(), StateFolder.of(Workplace.file(line, session)).sites());
    if (isNamed) {
      String said = line.getOptionValue(Workplace.AT);
      if (found.find(said).isEmpty()) {
        throw new Refusal(
            Refusal.Kind.WRONG_INPUT,
            "No site is called '" + said + "'. Nothing was changed.",
            "There are " + words(found) + ".");
      }
      return List.of();
    }
    if (command.isForOneSite(line, session)) {
      throw new Refusal(
          Refusal.Kind.WRONG_INPUT,
          "This is done for one site at a time. Nothing was changed.",
          "Name it with --at; there are " + words(found) + ".");
    }
    return found.sites();
  }

  /** Whatever is wrong with the file the command says itself. */
  private static Optional<Pair> pair(CommandLine line, Session session) {
    try {
      return Optional.of(PairReader.read(Workplace.file(line, session), session.environment()));
    } catch (Refusal e) {
      return Optional.empty();
    }
  }

  /** Without the copies, those that were found before are good for what needs no copy. */
  private static RoofSites found(Pair pair, Path file) throws Refusal, IOException {
    try {
      RoofSites sites = RoofSites.find(pair);
      sites.save(file);
      return sites;
    } catch (Refusal e) {
      if (e.kind() == Refusal.Kind.UNREACHABLE) {
        Optional<RoofSites> saved = RoofSites.saved(file);
        if (saved.isPresent()) {
          return saved.get();
        }
      }
      throw e;
    }
  }

  private static String words(RoofSites sites) {
    return sites.sites().stream().map(RoofSites.Site::words).collect(Collectors.joining("; "));
  }
}
