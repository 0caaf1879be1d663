package weftex.cli.screen;

import java.io.IOException;
import java.util.ArrayList;
import java.util.List;
import weftex.cli.page.Columns;
import weftex.cli.page.Summary;
import weftex.cli.page.Visible;
import weftex.cli.paint.Line;
import weftex.cli.paint.Style;
import weftex.core.change.ChangeSetHeader;
import weftex.store.Refusal;
import weftex.store.changeset.ChangeSetFile;

/** Pages that stand in place of everything else until a key is pressed. */
final class ScreenPages {
  private ScreenPages() {}

  /** The keys. */
  static List<Line> help() {
    List<Line> lines = new ArrayList<>();
    lines.add(
        Line.of("Arrows, PgUp, PgDn, Home and End move; Enter and ← go in and out.", Style.PLAIN));
    for (Keys key : Keys.values()) {
      if (!key.meaning().isEmpty()) {
        lines.add(
            new Line.Builder()
                .add(Columns.fit(key.key(), 5), Style.STRONG)
                .add(key.meaning(), Style.PLAIN)
                .build());
      }
    }
    lines.add(Line.of("Any key goes back.", Style.FAINT));
    return lines;
  }

  /** What an approval would mean. */
  static List<Line> approval(ChangeSetHeader header, ChangeSetFile index, Sitting sitting)
      throws IOException, Refusal {
    List<Line> lines = new ArrayList<>();
    lines.add(
        Line.of(
            "Approving " + header.from() + " → " + header.into() + " would mean:", Style.STRONG));
    lines.add(Line.blank());
    for (Summary.Entry entry : new Summary(index, index.review(), sitting.model()).entries()) {
      lines.add(
          new Line.Builder()
              .add("  " + Columns.fit(entry.heading(), 12), Style.FAINT)
              .add(entry.text(), Style.PLAIN)
              .build());
    }
    lines.add(
        new Line.Builder()
            .add("  " + Columns.fit("SHA-256", 12), Style.FAINT)
            .add(index.contents().sha256(), Style.PLAIN)
            .build());
    lines.add(Line.blank());
    lines.add(
        Line.of(
            "y approves as " + Visible.text(sitting.by()) + "; any other key goes back.",
            Style.ALERT));
    return lines;
  }
}
