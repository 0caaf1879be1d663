package weftex.core.site;

import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import weftex.core.model.ContentsRule;
import weftex.core.model.FileRule;
import weftex.core.row.Table;
import weftex.core.row.Value;
import weftex.core.value.Format;

/**
 * What the values of a table hold besides themselves.
 *
 * @param inside what is inside the values of its columns
 * @param files columns that name files of the copy
 * @param prefixed columns of names that may begin with the copy's own prefix of table names
 */
public record Contents(
    List<Inside> inside, List<NamedFile> files, Map<Integer, ContentsRule.PrefixRule> prefixed) {
  public Contents {
    inside = List.copyOf(inside);
    files = List.copyOf(files);
    prefixed = Map.copyOf(prefixed);
  }

  /**
   * A column that names files of the copy.
   *
   * @param column its position
   * @param under the folder that the path begins in, from the copy's folder
   * @param path members of the value that are paths, as keys from the outside in; empty for all of
   *     the value
   * @param beside a member of the value that names a file, in whose folder those are; empty for
   *     none
   */
  public record NamedFile(Condition when, int column, String under, String path, String beside) {}

  static Contents of(Table table, ContentsRule said, List<Inside> inside) {
    Map<Integer, ContentsRule.PrefixRule> prefixed = new LinkedHashMap<>();
    said.prefixed()
        .forEach((column, names) -> table.position(column).ifPresent(i -> prefixed.put(i, names)));
    return new Contents(inside, files(table, said.files()), prefixed);
  }

  private static List<NamedFile> files(Table table, List<FileRule> rules) {
    List<NamedFile> files = new ArrayList<>();
    for (FileRule said : rules) {
      Optional<Condition> when = Condition.of(table, said.when());
      Optional<Integer> column = table.position(said.column());
      if (when.isPresent() && column.isPresent()) {
        files.add(
            new NamedFile(when.get(), column.get(), said.under(), said.path(), said.beside()));
      }
    }
    return files;
  }

  /** How a column's value is written in a row, as far as the model says it. */
  public Format format(int column, List<Value> row) {
    for (Inside rule : inside) {
      if (rule.column() == column && rule.format() != Format.AUTO && rule.holdsFor(row)) {
        return rule.format();
      }
    }
    return Format.AUTO;
  }

  /** Whether a value may hold more than its bytes show. */
  public boolean hasEncoded() {
    return inside.stream().anyMatch(rule -> rule.format() == Format.BASE64);
  }
}
