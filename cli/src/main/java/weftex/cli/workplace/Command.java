package weftex.cli.workplace;

import java.io.IOException;
import java.util.List;
import java.util.Map;
import org.apache.commons.cli.CommandLine;
import org.apache.commons.cli.Options;
import weftex.cli.session.Session;
import weftex.store.Refusal;

/** A command. */
public interface Command {

  /** Its own options; those that all commands have are added to them. */
  Options options();

  /**
   * Headings for a long list of options, in order, with the long names of those that stand under
   * each. The others stand before them.
   */
  default Map<String, List<String>> headings() {
    return Map.of();
  }

  /** The arguments for a line of usage. */
  String arguments();

  /** At least two real command lines. */
  List<String> examples();

  /**
   * Whether it can be run for one of several sites alone: what it is told, or where it writes, is
   * of one site.
   */
  default boolean isForOneSite(CommandLine line, Session session) {
    return line.hasOption("o");
  }

  /**
   * Does its work. Prints nothing on standard output.
   *
   * @throws Refusal if it can't or won't
   */
  Result run(CommandLine line, Session session) throws Refusal, IOException;
}
