package weftex.cli.page;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.stream.IntStream;

/**
 * A table without lines. Cells break between words where the terminal is too narrow, so that no
 * name is ever cut; a column that is empty throughout is left out.
 */
final class TextTable {
  private static final int GAP = 2;

  private final List<Page.Heading> headings;
  private final List<List<String>> rows;
  private final int[] widths;

  /**
   * @param rows as many cells each as there are headings
   * @param width of the terminal
   */
  TextTable(List<Page.Heading> headings, List<List<String>> rows, int width) {
    int[] shown =
        IntStream.range(0, headings.size())
            .filter(i -> rows.isEmpty() || rows.stream().anyMatch(row -> !row.get(i).isEmpty()))
            .toArray();
    this.headings = Arrays.stream(shown).mapToObj(headings::get).toList();
    this.rows = rows.stream().map(row -> Arrays.stream(shown).mapToObj(row::get).toList()).toList();
    this.widths = widths(width);
  }

  private int[] widths(int width) {
    int[] wanted = new int[headings.size()];
    int[] least = new int[headings.size()];
    for (int i = 0; i < wanted.length; i++) {
      wanted[i] = Columns.width(headings.get(i).text());
      least[i] = Columns.longestWord(headings.get(i).text());
      for (List<String> row : rows) {
        wanted[i] = Math.max(wanted[i], Columns.width(row.get(i)));
        least[i] = Math.max(least[i], Columns.longestWord(row.get(i)));
      }
    }
    int over = Arrays.stream(wanted).sum() + GAP * (wanted.length - 1) + 1 - width;
    while (over > 0) {
      int widest = -1;
      for (int i = 0; i < wanted.length; i++) {
        if (wanted[i] > least[i] && (widest < 0 || wanted[i] > wanted[widest])) {
          widest = i;
        }
      }
      if (widest < 0) {
        break;
      }
      wanted[widest]--;
      over--;
    }
    return wanted;
  }

  /** The heading's lines. */
  List<String> heading() {
    return lines(headings.stream().map(Page.Heading::text).toList());
  }

  /** The rows' lines. */
  List<String> body() {
    return rows.stream().flatMap(row -> lines(row).stream()).toList();
  }

  private List<String> lines(List<String> cells) {
    List<List<String>> wrapped = new ArrayList<>();
    for (int i = 0; i < cells.size(); i++) {
      wrapped.add(Columns.wrapped(cells.get(i), widths[i]));
    }
    int height = wrapped.stream().mapToInt(List::size).max().orElse(0);
    List<String> lines = new ArrayList<>();
    for (int at = 0; at < height; at++) {
      StringBuilder line = new StringBuilder(" ");
      for (int i = 0; i < widths.length; i++) {
        String cell = at < wrapped.get(i).size() ? wrapped.get(i).get(at) : "";
        String filler = " ".repeat(Math.max(0, widths[i] - Columns.width(cell)));
        line.append(i == 0 ? "" : " ".repeat(GAP))
            .append(headings.get(i).number() ? filler + cell : cell + filler);
      }
      lines.add(line.toString().stripTrailing());
    }
    return lines;
  }
}
