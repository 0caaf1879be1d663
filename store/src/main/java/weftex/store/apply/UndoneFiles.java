package weftex.store.apply;

import java.io.IOException;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import weftex.core.site.SiteMap;
import weftex.store.Refusal;
import weftex.store.copy.Copy;
import weftex.store.placing.FileAccess;
import weftex.store.placing.FileSource;
import weftex.store.placing.FileStage;
import weftex.store.placing.FileStep;
import weftex.store.receipt.Receipt;
import weftex.store.receipt.ReceiptRows;
import weftex.store.receipt.Receipts;

/** Finds the files that an undo takes back. */
final class UndoneFiles {

  private final Receipts receipts;
  private final Optional<FileAccess.Opening> files;

  UndoneFiles(Receipts receipts, Optional<FileAccess.Opening> files) {
    this.receipts = receipts;
    this.files = files;
  }

  /** The files of an apply that are going to be taken back. */
  UndoFiles filesBack(
      Receipt applied, Receipt receipt, Copy found, SiteMap site, Undoer.Terms terms)
      throws IOException, Refusal {
    List<FileStep> steps = new ArrayList<>();
    try (ReceiptRows rows = receipts.rows(applied.id())) {
      List<ReceiptRows.Touched> touched = rows.files();
      for (int i = touched.size() - 1; i >= 0; i--) {
        if (terms.includes(touched.get(i).change())) {
          steps.add(FileStep.inverse(touched.get(i)));
        }
      }
    }
    if (steps.isEmpty()) {
      return UndoFiles.NOTHING;
    }
    Optional<FileAccess> opened =
        files.isPresent() ? Optional.of(files.get().open()) : Optional.empty();
    if (!opened.map(access -> access.folders().areOpen()).orElse(false)) {
      throw new Refusal(
          Refusal.Kind.PROTECTED,
          "The apply brought files, and "
              + opened.map(access -> access.folders().problem()).orElse("no folder is named")
              + ", so they can't be taken back. Nothing was changed.",
          "See to 'folder' in weftex.yaml.");
    }
    FileAccess access = opened.get();
    return UndoFiles.of(
        new FileStage(access, receipt.id(), found, site, FileSource.of(access.aside()), steps));
  }
}
