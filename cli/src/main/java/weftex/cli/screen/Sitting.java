package weftex.cli.screen;

import java.util.Map;
import java.util.Optional;
import java.util.function.Supplier;
import weftex.cli.session.Restorer;
import weftex.core.model.SiteModel;
import weftex.store.changeset.ChangeSetFile;
import weftex.store.changeset.DecisionLog;

/**
 * Who reviews what, and how.
 *
 * @param index a glance at the change set is enough; it is proved while it is shown
 * @param file the change set as the reader would name it
 * @param log where decisions go; empty if nothing can be decided
 * @param readOnly why nothing can be decided; empty if it can
 * @param by who decides
 * @param signing what becomes of an approval; it may need the terminal
 * @param now the time, as an ISO 8601 instant
 * @param model which tables hold accounts and settings
 */
public record Sitting(
    ChangeSetFile index,
    String file,
    Optional<DecisionLog> log,
    String readOnly,
    String by,
    ApprovalSigning signing,
    Supplier<String> now,
    SiteModel model,
    Seat seat) {

  /**
   * Where the reader sits.
   *
   * @param colour whether colours are wanted
   * @param restorer gives the terminal back if the program is ended
   */
  public record Seat(boolean colour, Map<String, String> environment, Restorer restorer) {}
}
