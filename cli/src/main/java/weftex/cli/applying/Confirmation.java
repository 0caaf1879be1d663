package weftex.cli.applying;

import java.io.IOException;
import java.util.LinkedHashMap;
import java.util.Map;
import weftex.cli.page.Times;
import weftex.cli.session.ExitStatus;
import weftex.cli.workplace.Result;
import weftex.cli.workplace.Workplace;
import weftex.store.Refusal;
import weftex.store.copy.Copy;
import weftex.store.receipt.Receipt;

/** Whether what was written for an import was imported: the ledger of the newest export knows. */
final class Confirmation {
  private Confirmation() {}

  static Result of(Workplace place) throws Refusal, IOException {
    Receipt last =
        place.receipts().all().stream()
            .filter(receipt -> receipt.kind().equals("apply"))
            .filter(receipt -> receipt.outcome() == Receipt.Outcome.COMMITTED)
            .filter(receipt -> isFile(place, receipt.into()))
            .reduce((earlier, later) -> later)
            .orElseThrow(
                () ->
                    new Refusal(
                        Refusal.Kind.WRONG_INPUT,
                        "Nothing was applied yet to a copy that is a file, so there is nothing to"
                            + " confirm. Nothing was changed.",
                        "'weftex history' lists what was applied."));
    Copy copy = Copy.reach(place.pair().copy(last.into()));
    boolean ran = copy.ledger().stream().anyMatch(entry -> entry.receipt().equals(last.id()));
    Map<String, Object> data = new LinkedHashMap<>();
    data.put("receipt", last.id());
    data.put("copy", last.into());
    data.put("ran", ran);
    return new Result(
        ran ? ExitStatus.DONE : ExitStatus.TO_DECIDE,
        data,
        page -> {
          page.words(
              "The apply of "
                  + Times.shown(last.at())
                  + (ran ? " was imported: " : " was not imported: ")
                  + copy.spec().origin().orElseThrow().place()
                  + (ran
                      ? " has it."
                      : " does not have it, and the next comparison goes without it."));
          page.line(
              page.faint(
                  ran
                      ? "Next: weftex compare"
                      : "Next: import the script, export again, and weftex apply --confirm"));
        });
  }

  private static boolean isFile(Workplace place, String copy) {
    try {
      return place.pair().copy(copy).origin().isPresent();
    } catch (Refusal e) {
      return false;
    }
  }
}
