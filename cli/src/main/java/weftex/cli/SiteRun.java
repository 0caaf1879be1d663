package weftex.cli;

import java.io.IOException;
import org.apache.commons.cli.CommandLine;
import weftex.cli.session.Session;
import weftex.cli.workplace.Command;
import weftex.cli.workplace.Result;
import weftex.store.Refusal;

/**
 * What came out for one of several sites.
 *
 * @param result as it is for one alone; null if it was refused
 */
/** The run of a command on one site under a roof. */
final class SiteRun implements Work {
  private final Command command;
  private final CommandLine line;
  private final Session session;
  private final boolean json;
  Object data;
  boolean nothing;

  SiteRun(Command command, CommandLine line, Session session, boolean json) {
    this.command = command;
    this.line = line;
    this.session = session;
    this.json = json;
  }

  @Override
  public Ended run() throws Refusal, IOException {
    try {
      Result result = command.run(line, session);
      data = result.data();
      if (!json) {
        Cli.print(result, session);
      }
      return Ended.done(result.status());
    } catch (Refusal e) {
      nothing = e.kind() == Refusal.Kind.NOTHING;
      throw e;
    }
  }
}
