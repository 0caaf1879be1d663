package weftex.cli.applying;

import java.io.IOException;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import org.apache.commons.cli.CommandLine;
import weftex.cli.workplace.Workplace;
import weftex.store.Refusal;
import weftex.store.copy.Copy;
import weftex.store.receipt.Receipt;

/** Which receipt is to be taken back. */
final class UndoChoice {

  private UndoChoice() {}

  static void checkDone(Receipt applied, Copy target) throws Refusal {
    if (applied.outcome() == Receipt.Outcome.UNKNOWN) {
      throw new Refusal(
          Refusal.Kind.PROTECTED,
          "The apply "
              + applied.id()
              + " is still at work on "
              + target.name()
              + ", or was interrupted while another run is. Nothing was changed.",
          "Wait until that has ended, and run 'weftex history'.");
    }
    if (applied.outcome() != Receipt.Outcome.COMMITTED) {
      throw new Refusal(
          Refusal.Kind.WRONG_INPUT,
          "The apply "
              + applied.id()
              + " was rolled back, so there is nothing to undo. Nothing was changed.",
          "'weftex history' lists what was applied.");
    }
  }

  static String listed(Map<String, Integer> things) {
    return String.join(
        ", ",
        things.entrySet().stream()
            .map(
                thing ->
                    thing.getKey()
                        + (thing.getValue() == 1 ? "" : " (" + thing.getValue() + " rows)"))
            .toList());
  }

  /** The apply that is named, or the last one that was not undone. */
  static Receipt chosen(Workplace place, CommandLine line) throws Refusal, IOException {
    List<Receipt> all = place.receipts().all();
    if (!line.getArgList().isEmpty()) {
      String id = line.getArgList().get(0);
      return all.stream()
          .filter(receipt -> receipt.id().equals(id) && receipt.kind().equals("apply"))
          .findFirst()
          .orElseThrow(
              () ->
                  new Refusal(
                      Refusal.Kind.WRONG_INPUT,
                      "There is no receipt '" + id + "' of an apply. Nothing was changed.",
                      "'weftex history' lists them."));
    }
    Set<String> undone = new HashSet<>();
    all.stream()
        .filter(receipt -> receipt.outcome() == Receipt.Outcome.COMMITTED && !receipt.part())
        .forEach(receipt -> receipt.undoes().ifPresent(undone::add));
    Receipt last = null;
    for (Receipt receipt : all) {
      boolean open =
          receipt.outcome() != Receipt.Outcome.ROLLED_BACK && !undone.contains(receipt.id());
      last = receipt.kind().equals("apply") && open ? receipt : last;
    }
    if (last == null) {
      throw new Refusal(
          Refusal.Kind.WRONG_INPUT,
          "Nothing was applied here that is not undone already. Nothing was changed.",
          "'weftex history' lists what was done.");
    }
    return last;
  }
}
