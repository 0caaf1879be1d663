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
import weftex.core.row.ForeignKey;
import weftex.core.row.Table;
import weftex.core.row.ValueKind;

/** Guesses which columns hold numbers of rows elsewhere, from their names and their data. */
final class ReferenceGuesser {
  /** Below this share a column that looks like a reference is none. */
  private static final double REFERS = 0.9;

  /** The same for one whose name leaves no doubt: what it referred to may have been removed. */
  private static final double REFERS_BY_NAME = 0.5;

  /** What may come by chance less often than this does not. */
  private static final double CHANCE = 0.05;

  private static final Pattern REFERENCE = Pattern.compile("(?i)(.*?)_?(id|no|nr|number|ref)");

  /** Columns that hold the number of somebody. */
  private static final Pattern PERSON =
      Pattern.compile(
          "(.*_)?(author|user|editor|owner|member|creator|customer|person)(_?id)?|.*_by(_?id)?");

  /** Words for what is shown; a site keeps all of it in one place. */
  static final List<String> PICTURES =
      List.of(
          "picture",
          "image",
          "photo",
          "thumb",
          "thumbnail",
          "media",
          "logo",
          "icon",
          "cover",
          "banner",
          "file");

  static final Pattern PICTURE = Pattern.compile("(" + String.join("|", PICTURES) + ")s?");

  private final Collection<Table> all;
  private final SiteModel model;
  private final Evidence evidence;

  /**
   * @param all every table of the copy: references may lead to any of them
   * @param model what is known of some of them
   */
  ReferenceGuesser(Collection<Table> all, SiteModel model, Evidence evidence) {
    this.all = all;
    this.model = model;
    this.evidence = evidence;
  }

  /** The columns that hold numbers of rows elsewhere though no foreign key says so. */
  List<GuessedReference> of(Table table) throws IOException {
    List<GuessedReference> found = new ArrayList<>();
    for (int i = 0; i < table.columns().size(); i++) {
      Column column = table.columns().get(i);
      boolean own = i == table.number() || !mayBeNumber(column);
      if (own || foreignKeyOf(table, i).isPresent()) {
        continue;
      }
      Optional<Table> target = target(table, column.name());
      if (target.isPresent()) {
        Evidence.Share share = evidence.keysOf(table, i, target.get());
        if (share.isAtLeast(isCertain(column.name()) ? REFERS_BY_NAME : REFERS)) {
          found.add(guess(column, target.get(), share, ""));
        }
      } else if (REFERENCE.matcher(column.name()).matches()) {
        byValues(table, i).ifPresent(found::add);
      }
    }
    return found;
  }

  private static GuessedReference guess(
      Column column, Table target, Evidence.Share share, String more) {
    return new GuessedReference(
        column.name(),
        target.name(),
        share.empty() > 0,
        share.percent()
            + " % of "
            + share.of()
            + " values exist in "
            + target.name()
            + "."
            + column(target, target.key().get(0))
            + more);
  }

  /**
   * A reference whose name says nothing: its values are keys of rows of one kind, not by chance.
   */
  private Optional<GuessedReference> byValues(Table table, int column) throws IOException {
    List<GuessedReference> likely = new ArrayList<>();
    for (Table target : kindred()) {
      Evidence.Share share = evidence.keysOf(table, column, target);
      if (!share.isAtLeast(REFERS)) {
        continue;
      }
      ItemRule item = model.rule(target.name()).item();
      Evidence.Kinds kinds =
          evidence.kindsOf(table, column, target, target.position(item.kindFrom()).orElseThrow());
      if (kinds.chance() < CHANCE) {
        likely.add(
            guess(
                table.columns().get(column),
                target,
                share,
                ", all of kind '" + kinds.kind() + "'"));
      }
    }
    return likely.size() == 1 ? Optional.of(likely.get(0)) : Optional.empty();
  }

  /** The tables of the model whose rows are of several kinds. */
  private List<Table> kindred() {
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

  private static boolean isCertain(String column) {
    return column.toLowerCase(Locale.ROOT).endsWith("_id");
  }

  /** The table whose numbers a column holds, by its name. */
  private Optional<Table> target(Table table, String column) throws IOException {
    String lower = column.toLowerCase(Locale.ROOT);
    if (lower.contains("parent")) {
      return Optional.of(table).filter(t -> t.key().size() == 1);
    }
    Optional<Table> people = people();
    if (people.isPresent() && PERSON.matcher(lower).matches()) {
      return people;
    }
    Matcher matcher = REFERENCE.matcher(column);
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

  private Optional<Table> people() {
    return model.ownPeople().flatMap(rule -> table(rule.table())).filter(t -> t.key().size() == 1);
  }

  private Optional<Table> table(String name) {
    return all.stream().filter(t -> t.name().equals(name)).findFirst();
  }

  /** The table of the model that has rows of a kind called so, such as pages among posts. */
  private Optional<Table> ofKind(String stem) throws IOException {
    String kind = stem.substring(stem.lastIndexOf('_') + 1);
    for (Table table : kindred()) {
      ItemRule item = model.rule(table.name()).item();
      if (evidence.has(table, table.position(item.kindFrom()).orElseThrow(), kind)
          || PICTURE.matcher(kind).matches()
              && item.kinds().values().stream().anyMatch(ReferenceGuesser::isPicture)) {
        return Optional.of(table);
      }
    }
    return Optional.empty();
  }

  private static boolean isPicture(String words) {
    return List.of(words.split(" ")).stream().anyMatch(word -> PICTURE.matcher(word).matches());
  }

  /** Also where the column says more than the table ({@code author_user_id}), or less. */
  private static boolean isCalled(Table table, String stem) {
    String name = singular(table.name().toLowerCase(Locale.ROOT));
    String last = name.substring(name.lastIndexOf('_') + 1);
    return name.equals(stem)
        || last.equals(stem)
        || stem.endsWith("_" + name)
        || stem.endsWith("_" + last);
  }

  /** Whether a column holds numbers of rows of a table. */
  boolean refers(Table from, int column, Table to) throws IOException {
    Optional<ForeignKey> key = foreignKeyOf(from, column);
    if (key.isPresent()) {
      return key.get().table().equals(to.name());
    }
    Optional<Table> target =
        mayBeNumber(from.columns().get(column))
            ? target(from, from.columns().get(column).name())
            : Optional.empty();
    return target.map(t -> t.name().equals(to.name())).orElse(false);
  }

  /** The foreign key that a column belongs to. */
  static Optional<ForeignKey> foreignKeyOf(Table table, int column) {
    String name = column(table, column);
    return table.foreignKeys().stream().filter(key -> key.columns().contains(name)).findFirst();
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
