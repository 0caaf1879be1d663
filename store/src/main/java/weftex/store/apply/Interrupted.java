package weftex.store.apply;

import java.io.IOException;
import java.sql.SQLException;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import weftex.core.site.SiteMap;
import weftex.store.FailureWords;
import weftex.store.Refusal;
import weftex.store.copy.Claim;
import weftex.store.copy.Copy;
import weftex.store.engine.Drift;
import weftex.store.engine.SchemaStage;
import weftex.store.placing.FileAccess;
import weftex.store.placing.FileSource;
import weftex.store.placing.FileStage;
import weftex.store.placing.FileStep;
import weftex.store.receipt.Receipt;
import weftex.store.receipt.ReceiptRows;
import weftex.store.receipt.Receipts;
import weftex.store.rows.WriteTransaction;

/** Finds out what became of runs whose process ended before it could say, and finishes them. */
public final class Interrupted {
  private final Receipts receipts;
  private final Files files;

  /** What is needed to finish what was begun with files of a copy; asked only if there is such. */
  public interface Files {
    FileAccess access(Receipt of) throws Refusal;

    /** What the tables of a copy mean. */
    SiteMap means(Copy copy);
  }

  public Interrupted(Receipts receipts, Files files) {
    this.receipts = receipts;
    this.files = files;
  }

  /**
   * What became of receipts whose process ended before it could say.
   *
   * @param ended those that were open, with their true ending
   * @param leftAlone files that are not as they were to be
   * @param isBusy whether there are others, and a run is still at work on the target, which writes
   *     its own receipt
   */
  public record Settled(List<Receipt> ended, List<Drift> leftAlone, boolean isBusy) {}

  /**
   * Asks the ledger, and writes down what it says. New tables and columns that a rolled back apply
   * or a finished undo left are taken away. All of that under the target's claim: a receipt that is
   * open while another run has it is that run's.
   *
   * @param waits whether to wait for another run to end, and to refuse if it does not
   */
  public Settled settle(Copy target, boolean waits) throws IOException, Refusal {
    String place = target.spec().place();
    if (receipts.open(place).isEmpty()) {
      return new Settled(List.of(), List.of(), false);
    }
    Optional<Claim> free = waits ? Optional.of(target.claim()) : target.claimIfFree();
    if (free.isEmpty()) {
      return new Settled(List.of(), List.of(), true);
    }
    List<Receipt> settled = new ArrayList<>();
    List<Drift> left = new ArrayList<>();
    try (Claim claim = free.get()) {
      for (Receipt receipt : receipts.open(place)) {
        boolean committed = isCommitted(receipt, target, claim);
        boolean away = committed == receipt.kind().equals("undo");
        SchemaStage.takeAway(away ? receipts.schema(receipt.id()) : List.of(), target);
        left.addAll(finishFiles(receipt, target, committed));
        settled.add(receipts.end(receipt, committed));
      }
    }
    return new Settled(settled, left, false);
  }

  private List<Drift> finishFiles(Receipt receipt, Copy target, boolean committed)
      throws IOException, Refusal {
    List<FileStep> steps = new ArrayList<>();
    try (ReceiptRows rows = receipts.rows(receipt.id())) {
      for (ReceiptRows.Touched file : rows.files()) {
        steps.add(FileStep.of(file));
      }
    }
    if (steps.isEmpty()) {
      return List.of();
    }
    FileAccess access = access(receipt, committed);
    FileStage stage =
        new FileStage(
            access,
            receipt.id(),
            target,
            files.means(target),
            receipt.undoes().isPresent()
                ? FileSource.of(access.aside())
                : FileSource.of(access.folders().of(receipt.from()).folder(), receipt.from()),
            steps);
    if (committed) {
      return stage.finish();
    }
    stage.takeBack();
    return List.of();
  }

  private FileAccess access(Receipt receipt, boolean committed) throws IOException, Refusal {
    FileAccess access = files.access(receipt);
    if (!access.folders().areOpen()) {
      throw new Refusal(
          Refusal.Kind.UNREACHABLE,
          "The "
              + receipt.kind()
              + " of "
              + receipt.at()
              + " was interrupted, and its files can't be "
              + (committed ? "put in place" : "taken away again")
              + ": "
              + access.folders().problem()
              + ".",
          "Nothing was changed by this run; see to the folder and try again.");
    }
    return access;
  }

  private static boolean isCommitted(Receipt receipt, Copy target, Claim claim) throws Refusal {
    try (WriteTransaction transaction = claim.begin()) {
      return transaction.ledger().find(receipt.id()).isPresent();
    } catch (SQLException e) {
      throw new Refusal(
          Refusal.Kind.UNREACHABLE,
          "An "
              + receipt.kind()
              + " of "
              + receipt.at()
              + " was interrupted, and "
              + target.name()
              + " can't be asked what became of it: "
              + FailureWords.of(e)
              + ".",
          "Nothing was changed by this run; try again.",
          e);
    }
  }
}
