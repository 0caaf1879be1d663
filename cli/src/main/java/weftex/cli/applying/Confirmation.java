package weftex.cli.applying;

import java.io.IOException;
import weftex.cli.render.BriefText;
import weftex.cli.result.BriefReport;
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
    BriefReport.Confirmed confirmed =
        new BriefReport.Confirmed(
            last.id(), last.into(), ran, last.at(), copy.spec().origin().orElseThrow().place());
    return new Result(
        ran ? ExitStatus.DONE : ExitStatus.TO_DECIDE,
        confirmed,
        page -> BriefText.print(page, confirmed));
  }

  private static boolean isFile(Workplace place, String copy) {
    try {
      return place.pair().copy(copy).origin().isPresent();
    } catch (Refusal e) {
      return false;
    }
  }
}
