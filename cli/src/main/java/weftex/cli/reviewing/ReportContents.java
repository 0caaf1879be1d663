package weftex.cli.reviewing;

import java.io.IOException;
import weftex.cli.report.Masking;
import weftex.cli.report.Pictures;
import weftex.cli.report.Report;
import weftex.cli.report.ReportBuilder;
import weftex.cli.workplace.Folders;
import weftex.cli.workplace.Workplace;
import weftex.core.change.ChangeSetHeader;
import weftex.core.file.FileRows;
import weftex.store.Refusal;
import weftex.store.changeset.ChangeSetFile;
import weftex.store.file.PairFolders;

/** Gathers what a report holds. */
final class ReportContents {

  private ReportContents() {}

  static Report gather(ChangeSetFile reviewed, String format, Workplace place, Masking masking)
      throws Refusal, IOException {
    boolean shows =
        format.equals(ReportCommand.FORMATS.get(0))
            && reviewed.outlines().stream().anyMatch(FileRows::isFile);
    ChangeSetHeader header = reviewed.header();
    try (PairFolders folders = shows ? folders(place) : PairFolders.none("")) {
      ReportBuilder builder =
          new ReportBuilder(
              reviewed.contents(),
              reviewed.review(),
              new Pictures(folders, header.from(), header.into()));
      reviewed.schema().forEach(builder::add);
      reviewed.eachChange(change -> builder.add(masking.masked(change)));
      return builder.build();
    }
  }

  /** A report is also written where no folder is in reach; it has no pictures then. */
  static PairFolders folders(Workplace place) {
    try {
      return Folders.open(place, false);
    } catch (Refusal e) {
      place.say("The report is without pictures: " + e.reason());
      return PairFolders.none("");
    }
  }
}
