package weftex.core.derive;

import java.io.IOException;
import java.util.ArrayList;
import java.util.Collection;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.TreeMap;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import weftex.core.model.ItemRule;
import weftex.core.model.SiteModel;
import weftex.core.model.TableRule;
import weftex.core.row.Column;
import weftex.core.row.Table;
import weftex.core.row.ValueKind;

/** Which table the name of a column speaks of. */
final class ReferredTable {

  /** Columns that hold the number of somebody. */
  private static final Pattern PERSON =
      Pattern.compile(
          "(.*_)?(author|user|editor|owner|member|creator|customer|person)(_?id)?|.*_by(_?id)?");

  private final SiteModel model;
  private final Collection<Table> all;
  private final Evidence evidence;

  ReferredTable(SiteModel model, Collection<Table> all, Evidence evidence) {
    this.model = model;
    this.all = all;
    this.evidence = evidence;
  }

  /** The tables of the model whose rows are of several kinds. */
  List<Table> kindred() {
    List<Table> found = new ArrayList<>();
    for (Map.Entry<String, TableRule> entry : new TreeMap<>(model.tables()).entrySet()) {
      ItemRule item = entry.getValue().item();
      if (item != null && item.in().isEmpty()) {
        table(entry.getKey())
            .filter(t -> t.key().size() == 1 && t.position(item.kindFrom()).isPresent())
            .ifPresent(found::add);
      }
    }
    return found;
  }

  /** The table whose numbers a column holds, by its name. */
  Optional<Table> target(Table table, String column) throws IOException {
    String lower = column.toLowerCase(Locale.ROOT);
    if (lower.contains("parent")) {
      return Optional.of(table).filter(t -> t.key().size() == 1);
    }
    Optional<Table> people = people();
    if (people.isPresent() && PERSON.matcher(lower).matches()) {
      return people;
    }
    Matcher matcher = ReferenceGuesser.REFERENCE.matcher(column);
    if (!matcher.matches() || matcher.group(1).isEmpty()) {
      return Optional.empty();
    }
    String stem = matcher.group(1).toLowerCase(Locale.ROOT);
    Optional<Table> named =
        all.stream()
            .filter(t -> t.key().size() == 1)
            .filter(t -> mayBeNumber(t.columns().get(t.key().get(0))))
            .filter(t -> isCalled(t, stem))
            .min(java.util.Comparator.comparing(t -> t.name().length()));
    return named.isPresent() ? named : ofKind(stem);
  }

  Optional<Table> people() {
    return model.ownPeople().flatMap(rule -> table(rule.table())).filter(t -> t.key().size() == 1);
  }

  Optional<Table> table(String name) {
    return all.stream().filter(t -> t.name().equals(name)).findFirst();
  }

  /** The table of the model that has rows of a kind called so, such as pages among posts. */
  Optional<Table> ofKind(String stem) throws IOException {
    String kind = stem.substring(stem.lastIndexOf('_') + 1);
    for (Table table : kindred()) {
      ItemRule item = model.rule(table.name()).item();
      if (evidence.has(table, table.position(item.kindFrom()).orElseThrow(), kind)
          || ReferenceGuesser.PICTURE.matcher(kind).matches()
              && item.kinds().values().stream().anyMatch(ReferredTable::isPicture)) {
        return Optional.of(table);
      }
    }
    return Optional.empty();
  }

  static boolean isPicture(String words) {
    return List.of(words.split(" ")).stream()
        .anyMatch(word -> ReferenceGuesser.PICTURE.matcher(word).matches());
  }

  /** Also where the column says more than the table ({@code author_user_id}), or less. */
  static boolean isCalled(Table table, String stem) {
    String name = singular(table.name().toLowerCase(Locale.ROOT));
    String last = name.substring(name.lastIndexOf('_') + 1);
    return name.equals(stem)
        || last.equals(stem)
        || stem.endsWith("_" + name)
        || stem.endsWith("_" + last);
  }

  /** SQLite does not bind a column to a type. */
  static boolean mayBeNumber(Column column) {
    return column.kind() == ValueKind.WHOLE || column.kind() == ValueKind.ANY;
  }

  /** The name of a column. */
  static String column(Table table, int position) {
    return table.columns().get(position).name();
  }

  /** A name without the end of the plural. */
  static String singular(String name) {
    if (name.endsWith("ies")) {
      return name.substring(0, name.length() - 3) + "y";
    }
    return name.endsWith("s") && !name.endsWith("ss") ? name.substring(0, name.length() - 1) : name;
  }
}
