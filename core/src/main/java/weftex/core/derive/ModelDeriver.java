package weftex.core.derive;

import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.Collection;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.TreeMap;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import weftex.core.row.Column;
import weftex.core.row.ForeignKey;
import weftex.core.row.Table;
import weftex.core.row.ValueKind;
import weftex.core.site.ItemRule;
import weftex.core.site.Judgement;
import weftex.core.site.PlaceRule;
import weftex.core.site.Role;
import weftex.core.site.SiteModel;
import weftex.core.site.TableRule;
import weftex.core.value.Structure;
import weftex.core.value.Syntax;

/** Guesses rules for tables from their names, their schema and their data. */
public final class ModelDeriver {
  /** Below this share a column that looks like a reference is none. */
  private static final double REFERS = 0.9;

  /** The same for one whose name leaves no doubt: what it referred to may have been removed. */
  private static final double REFERS_BY_NAME = 0.5;

  /** What may come by chance less often than this does not. */
  private static final double CHANCE = 0.05;

  private static final double COUNTS = 0.9;
  private static final double STRUCTURED = 0.3;

  private static final Pattern REFERENCE = Pattern.compile("(?i)(.*?)_?(id|no|nr|number|ref)");
  private static final Pattern CHANGED =
      Pattern.compile("(?i)(?!.*_by$).*(modified|updated|changed|last_edit|edited_at|maj).*");

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

  private static final Pattern COUNTER =
      Pattern.compile("(?i)(.*_)?(count|counter|total|uses|nb|num)(_.*)?");
  private static final Pattern PERMANENT = Pattern.compile("(?i)(guid|uuid|feed_?id)");
  private static final List<String> NAMES =
      List.of("title", "name", "label", "subject", "heading", "titre", "nom", "slug", "code");
  private static final List<String> IDENTITIES =
      List.of("slug", "code", "login", "sku", "key", "name", "path", "email", "url");

  private final Collection<Table> all;
  private final SiteModel model;
  private final Evidence evidence;
  private MemberReferences members;

  /**
   * @param all every table of the copy: references may lead to any of them
   * @param model what is known of some of them
   */
  public ModelDeriver(Collection<Table> all, SiteModel model, Evidence evidence) {
    this.all = all;
    this.model = model;
    this.evidence = evidence;
  }

  /** Guesses what a table means. */
  public DerivedTable derive(Table table) throws IOException {
    List<DerivedTable.Guess> guesses = new ArrayList<>();
    role(table, guesses);
    number(table, guesses);
    item(table, guesses);
    identity(table, guesses);
    references(table, guesses);
    for (int i = 0; i < table.columns().size(); i++) {
      column(table, i, guesses);
    }
    guesses.addAll(inside(table));
    return new DerivedTable(table.name(), guesses);
  }

  /**
   * Guesses what is inside the values of a table that the model describes, as far as the model does
   * not say it; without rules if nothing is found.
   */
  public DerivedTable deriveInside(Table table) throws IOException {
    return new DerivedTable(table.name(), inside(table));
  }

  private List<DerivedTable.Guess> inside(Table table) throws IOException {
    if (members == null) {
      members = new MemberReferences(all, model, evidence);
    }
    return members.of(table);
  }

  private static void role(Table table, List<DerivedTable.Guess> guesses) {
    Judgement judged = Judgement.of(table);
    if (judged.role() != Role.CONTENT) {
      guesses.add(
          new DerivedTable.Guess(
              "role", judged.role().name().toLowerCase(Locale.ROOT), judged.evidence()));
    }
  }

  private static void number(Table table, List<DerivedTable.Guess> guesses) {
    if (table.isNumbered()) {
      guesses.add(
          new DerivedTable.Guess(
              "",
              "",
              "rows are numbered by " + column(table, table.number()) + ", as the schema shows"));
    } else if (table.key().size() == 1
        && table.columns().get(table.key().get(0)).kind() == ValueKind.WHOLE
        && foreignKeyOf(table, table.key().get(0)).isEmpty()) {
      guesses.add(
          new DerivedTable.Guess(
              "number",
              column(table, table.key().get(0)),
              "a whole-number key; leave this out if the numbers mean something"));
    }
  }

  private static void item(Table table, List<DerivedTable.Guess> guesses) {
    NAMES.stream()
        .map(name -> named(table, name))
        .flatMap(Optional::stream)
        .findFirst()
        .ifPresent(
            i ->
                guesses.add(
                    new DerivedTable.Guess(
                        "item",
                        "{kind: "
                            + singular(table.name()).replace('_', ' ')
                            + ", name: ["
                            + column(table, i)
                            + "]}",
                        "a column that names a row")));
  }

  private void identity(Table table, List<DerivedTable.Guess> guesses) throws IOException {
    if (!table.uniqueKeys().isEmpty()) {
      guesses.add(
          new DerivedTable.Guess(
              "",
              "",
              "known by its unique key ("
                  + String.join(", ", table.names(table.uniqueKeys().get(0)))
                  + "), as the schema shows"));
      return;
    }
    for (String name : IDENTITIES) {
      Optional<Integer> column = named(table, name);
      if (column.isPresent() && table.isNumbered()) {
        Evidence.Share share = evidence.distinct(table, column.get());
        if (share.of() > 1 && share.found() == share.of()) {
          guesses.add(
              new DerivedTable.Guess(
                  "identity",
                  "[" + column(table, column.get()) + "]",
                  "all " + share.of() + " values differ"));
          return;
        }
      }
    }
  }

  private void references(Table table, List<DerivedTable.Guess> guesses) throws IOException {
    for (ForeignKey key : table.foreignKeys()) {
      guesses.add(
          new DerivedTable.Guess(
              "",
              "",
              String.join(", ", key.columns())
                  + " refers to "
                  + key.table()
                  + ", as the schema shows"));
    }
    boolean partOf = false;
    for (GuessedReference guess : references(table)) {
      guesses.add(
          new DerivedTable.Guess(
              "references",
              guess.column()
                  + ": {to: "
                  + guess.to()
                  + (guess.unset() ? ", unset: \"0\"" : "")
                  + "}",
              guess.why()));
      boolean detail =
          !guess.to().equals(table.name()) && table.name().startsWith(singular(guess.to()));
      if (detail && !partOf) {
        partOf = true;
        guesses.add(
            new DerivedTable.Guess(
                "part-of", guess.column(), "the table's name begins like " + guess.to()));
      }
    }
  }

  /** The columns that hold numbers of rows elsewhere though no foreign key says so. */
  public List<GuessedReference> references(Table table) throws IOException {
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

  /** Places inside values of any table whose names say what their numbers refer to. */
  public List<PlaceRule> members() throws IOException {
    return new MemberNames(all, model, evidence).places();
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
              && item.kinds().values().stream().anyMatch(ModelDeriver::isPicture)) {
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

  private void column(Table table, int i, List<DerivedTable.Guess> guesses) throws IOException {
    Column column = table.columns().get(i);
    if (i == table.number() || table.key().contains(i)) {
      return;
    }
    if (CHANGED.matcher(column.name()).matches()) {
      guesses.add(
          new DerivedTable.Guess(
              "columns", column.name() + ": newer", "a time of change, by its name"));
    } else if (PERMANENT.matcher(column.name()).matches()) {
      guesses.add(
          new DerivedTable.Guess(
              "permanent",
              "[" + column.name() + "]",
              "an identifier for the outside world, by its name"));
    } else if (mayBeNumber(column) && COUNTER.matcher(column.name()).matches()) {
      counter(table, i, guesses);
    } else if (mayBeText(column)) {
      format(table, i, guesses);
    }
  }

  private void counter(Table table, int column, List<DerivedTable.Guess> guesses)
      throws IOException {
    String name = column(table, column).toLowerCase(Locale.ROOT);
    List<Table> likelyFirst =
        all.stream()
            .sorted(
                java.util.Comparator.comparing(
                    (Table of) -> !name.contains(singular(of.name().toLowerCase(Locale.ROOT)))))
            .toList();
    for (Table of : likelyFirst) {
      for (int by = 0; by < of.columns().size(); by++) {
        boolean refers = refers(of, by, table);
        if (!refers || of.name().equals(table.name())) {
          continue;
        }
        Evidence.Share share = evidence.counts(table, column, of, by);
        if (share.isAtLeast(COUNTS)) {
          guesses.add(
              new DerivedTable.Guess(
                  "counters",
                  column(table, column) + ": {of: " + of.name() + ", by: " + column(of, by) + "}",
                  "it equals the rows of " + of.name() + " in " + share.percent() + " % of rows"));
          return;
        }
      }
    }
  }

  private boolean refers(Table from, int column, Table to) throws IOException {
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

  private void format(Table table, int column, List<DerivedTable.Guess> guesses)
      throws IOException {
    List<String> sample = evidence.sample(table, column);
    long serialized = sample.stream().filter(v -> isWritten(v, Syntax.SERIALIZED)).count();
    long json = sample.stream().filter(v -> isWritten(v, Syntax.JSON)).count();
    if (!sample.isEmpty() && serialized + json >= STRUCTURED * sample.size()) {
      guesses.add(
          new DerivedTable.Guess(
              "",
              "",
              column(table, column)
                  + " holds "
                  + (serialized >= json ? "serialised values" : "JSON")
                  + " ("
                  + Math.max(serialized, json)
                  + " of "
                  + sample.size()
                  + " looked at), which is detected automatically; IDs of rows inside need 'inside'"));
    }
  }

  private static boolean isWritten(String value, Syntax syntax) {
    return value.length() > 2
        && Structure.detect(value.getBytes(StandardCharsets.UTF_8))
            .map(structure -> structure.syntax() == syntax)
            .orElse(false);
  }

  private static Optional<ForeignKey> foreignKeyOf(Table table, int column) {
    String name = column(table, column);
    return table.foreignKeys().stream().filter(key -> key.columns().contains(name)).findFirst();
  }

  private static Optional<Integer> named(Table table, String name) {
    for (int i = 0; i < table.columns().size(); i++) {
      String own = column(table, i).toLowerCase(Locale.ROOT);
      boolean text = mayBeText(table.columns().get(i));
      if (text && (own.equals(name) || own.endsWith("_" + name))) {
        return Optional.of(i);
      }
    }
    return Optional.empty();
  }

  /** SQLite does not bind a column to a type. */
  private static boolean mayBeNumber(Column column) {
    return column.kind() == ValueKind.WHOLE || column.kind() == ValueKind.ANY;
  }

  private static boolean mayBeText(Column column) {
    return column.kind() == ValueKind.TEXT || column.kind() == ValueKind.ANY;
  }

  private static String column(Table table, int position) {
    return table.columns().get(position).name();
  }

  static String singular(String name) {
    if (name.endsWith("ies")) {
      return name.substring(0, name.length() - 3) + "y";
    }
    return name.endsWith("s") && !name.endsWith("ss") ? name.substring(0, name.length() - 1) : name;
  }
}
