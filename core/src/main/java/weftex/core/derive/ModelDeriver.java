package weftex.core.derive;

import java.io.IOException;
import java.util.ArrayList;
import java.util.Collection;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.regex.Pattern;
import weftex.core.model.Judgement;
import weftex.core.model.PlaceRule;
import weftex.core.model.Role;
import weftex.core.model.SiteModel;
import weftex.core.row.Column;
import weftex.core.row.ForeignKey;
import weftex.core.row.Table;
import weftex.core.row.ValueKind;

/** Guesses rules for tables from their names, their schema and their data. */
public final class ModelDeriver {

  private static final Pattern CHANGED =
      Pattern.compile("(?i)(?!.*_by$).*(modified|updated|changed|last_edit|edited_at|maj).*");

  private static final Pattern COUNTER =
      Pattern.compile("(?i)(.*_)?(count|counter|total|uses|nb|num)(_.*)?");
  private static final Pattern PERMANENT = Pattern.compile("(?i)(guid|uuid|feed_?id)");
  private static final List<String> NAMES =
      List.of("title", "name", "label", "subject", "heading", "titre", "nom", "slug", "code");

  private final Collection<Table> all;
  private final SiteModel model;
  private final Evidence evidence;
  private final ReferenceGuesser references;
  private MemberReferences members;
  private final ColumnGuesses contents;
  private final IdentityGuess identities;

  /**
   * @param all every table of the copy: references may lead to any of them
   * @param model what is known of some of them
   */
  public ModelDeriver(Collection<Table> all, SiteModel model, Evidence evidence) {
    this.all = all;
    this.model = model;
    this.evidence = evidence;
    this.references = new ReferenceGuesser(all, model, evidence);
    this.contents = new ColumnGuesses(all, references, evidence);
    this.identities = new IdentityGuess(evidence);
  }

  /** Guesses what a table means. */
  public DerivedTable derive(Table table) throws IOException {
    List<DerivedTable.Guess> guesses = new ArrayList<>();
    role(table, guesses);
    number(table, guesses);
    item(table, guesses);
    identities.identity(table, guesses);
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
              "rows are numbered by "
                  + ReferredTable.column(table, table.number())
                  + ", as the schema shows"));
    } else if (table.key().size() == 1
        && table.columns().get(table.key().get(0)).kind() == ValueKind.WHOLE
        && ReferenceGuesser.foreignKeyOf(table, table.key().get(0)).isEmpty()) {
      guesses.add(
          new DerivedTable.Guess(
              "number",
              ReferredTable.column(table, table.key().get(0)),
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
                            + ReferredTable.singular(table.name()).replace('_', ' ')
                            + ", name: ["
                            + ReferredTable.column(table, i)
                            + "]}",
                        "a column that names a row")));
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
          !guess.to().equals(table.name())
              && table.name().startsWith(ReferredTable.singular(guess.to()));
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
    return references.of(table);
  }

  /** Places inside values of any table whose names say what their numbers refer to. */
  public List<PlaceRule> members() throws IOException {
    return new MemberNames(all, model, evidence).places();
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
    } else if (ReferredTable.mayBeNumber(column) && COUNTER.matcher(column.name()).matches()) {
      contents.counter(table, i, guesses);
    } else if (mayBeText(column)) {
      contents.format(table, i, guesses);
    }
  }

  static Optional<Integer> named(Table table, String name) {
    for (int i = 0; i < table.columns().size(); i++) {
      String own = ReferredTable.column(table, i).toLowerCase(Locale.ROOT);
      boolean text = mayBeText(table.columns().get(i));
      if (text && (own.equals(name) || own.endsWith("_" + name))) {
        return Optional.of(i);
      }
    }
    return Optional.empty();
  }

  private static boolean mayBeText(Column column) {
    return column.kind() == ValueKind.TEXT || column.kind() == ValueKind.ANY;
  }
}
