package weftex.core.match;

import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import weftex.core.model.ColumnRule;
import weftex.core.reference.RowFinder;
import weftex.core.row.Table;
import weftex.core.row.Value;
import weftex.core.site.TableModel;

/**
 * Names for things that stay two though they are called the same: {@code winter-2}, as the CMS
 * itself would have called the second one.
 */
public final class FreedNames {
  private static final Pattern LENGTH = Pattern.compile("\\((\\d+)\\)");

  private final RowFinder source;
  private final RowFinder target;
  private final Set<List<Object>> given = new HashSet<>();

  FreedNames(RowFinder source, RowFinder target) {
    this.source = source;
    this.target = target;
  }

  /** The column of a row's identity that gets a number. */
  public static Optional<Integer> column(TableModel model) {
    return model.identity().columns().stream()
        .filter(column -> model.handling().columns().get(column) == ColumnRule.NUMBERED)
        .findFirst();
  }

  /**
   * The first name that neither copy has, nor another row got from here.
   *
   * @param row in the target's terms
   */
  Value free(TableModel model, int column, List<Value> row) throws IOException {
    Table table = model.table();
    Matcher length = LENGTH.matcher(table.columns().get(column).type());
    int longest = length.find() ? Integer.parseInt(length.group(1)) : Integer.MAX_VALUE;
    String name = row.get(column).display();
    for (int number = 2; ; number++) {
      Value candidate = Value.text(cut(name, longest, "-" + number) + "-" + number);
      List<Value> with = new ArrayList<>(row);
      with.set(column, candidate);
      List<Value> identity = Table.pick(with, model.identity().columns());
      boolean known = identity.stream().noneMatch(Value::isOpen);
      boolean taken =
          known
              && (!target.find(table, model.identity().columns(), identity, 1).isEmpty()
                  || !source.find(table, List.of(column), List.of(candidate), 1).isEmpty());
      if (!taken && given.add(List.of(table.name(), identity))) {
        return candidate;
      }
    }
  }

  private static String cut(String name, int longest, String end) {
    String cut = name;
    while (!cut.isEmpty()
        && (cut + end).getBytes(StandardCharsets.UTF_8).length > longest
        && cut.codePointCount(0, cut.length()) + end.length() > longest) {
      cut = cut.substring(0, cut.offsetByCodePoints(cut.length(), -1));
    }
    return cut;
  }
}
