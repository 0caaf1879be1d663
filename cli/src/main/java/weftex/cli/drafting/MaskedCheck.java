package weftex.cli.drafting;

import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeSet;
import java.util.stream.IntStream;
import weftex.cli.workplace.Workplace;
import weftex.core.row.Glob;
import weftex.core.row.Table;
import weftex.core.select.Selection;
import weftex.core.yaml.Nearest;
import weftex.store.Refusal;
import weftex.store.copy.Copy;

/** Whether all that is to be masked can be. */
final class MaskedCheck {

  private final Workplace place;

  MaskedCheck(Workplace place) {
    this.place = place;
  }

  /** A pattern that matches no table is a slip of the pen. */
  static void checkNames(Selection selection, Copy source, Copy target) throws Refusal {
    Set<String> known = new TreeSet<>(source.catalog().tables().keySet());
    known.addAll(target.catalog().tables().keySet());
    for (String pattern : selection.writtenPatterns()) {
      if (known.stream().noneMatch(name -> Glob.matches(pattern, name))) {
        throw new Refusal(
            Refusal.Kind.WRONG_INPUT,
            "No table matches '" + pattern + "'. Nothing was changed.",
            Nearest.to(pattern, known)
                .map(name -> "Did you mean '" + name + "'?")
                .orElse("Name tables without the prefix; 'weftex check' lists them."));
      }
    }
  }

  /** A column that is not there would not be kept from anybody. */
  void checkMasked(Copy source, Copy target) throws Refusal {
    for (Map.Entry<String, List<String>> table : place.pair().people().masked().entrySet()) {
      Set<String> known = new TreeSet<>();
      for (Copy copy : List.of(source, target)) {
        copy.catalog()
            .find(table.getKey())
            .ifPresent(found -> known.addAll(found.table().names(allOf(found.table()))));
      }
      for (String column : table.getValue()) {
        if (!known.contains(column)) {
          throw new Refusal(
              Refusal.Kind.WRONG_INPUT,
              "weftex.yaml: 'masked' names "
                  + table.getKey()
                  + "."
                  + column
                  + ", and neither copy has it. Nothing was changed.",
              Nearest.to(column, known)
                  .map(name -> "Did you mean '" + name + "'?")
                  .orElse("Name tables without the prefix; 'weftex check' lists them."));
        }
      }
    }
  }

  static List<Integer> allOf(Table table) {
    return IntStream.range(0, table.columns().size()).boxed().toList();
  }
}
