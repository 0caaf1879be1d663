package weftex.core.derive;

import java.io.IOException;
import java.util.ArrayList;
import java.util.Collection;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.regex.Pattern;
import weftex.core.model.ItemRule;
import weftex.core.model.SiteModel;
import weftex.core.row.Column;
import weftex.core.row.ForeignKey;
import weftex.core.row.Table;

/** Guesses which columns hold numbers of rows elsewhere, from their names and their data. */
final class ReferenceGuesser {
  /** Below this share a column that looks like a reference is none. */
  private static final double REFERS = 0.9;

  /** The same for one whose name leaves no doubt: what it referred to may have been removed. */
  private static final double REFERS_BY_NAME = 0.5;

  /** What may come by chance less often than this does not. */
  private static final double CHANCE = 0.05;

  static final Pattern REFERENCE = Pattern.compile("(?i)(.*?)_?(id|no|nr|number|ref)");

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
  private final ReferredTable referred;

  /**
   * @param all every table of the copy: references may lead to any of them
   * @param model what is known of some of them
   */
  ReferenceGuesser(Collection<Table> all, SiteModel model, Evidence evidence) {
    this.all = all;
    this.model = model;
    this.evidence = evidence;
    this.referred = new ReferredTable(model, all, evidence);
  }

  /** The columns that hold numbers of rows elsewhere though no foreign key says so. */
  List<GuessedReference> of(Table table) throws IOException {
    List<GuessedReference> found = new ArrayList<>();
    for (int i = 0; i < table.columns().size(); i++) {
      Column column = table.columns().get(i);
      boolean own = i == table.number() || !ReferredTable.mayBeNumber(column);
      if (own || foreignKeyOf(table, i).isPresent()) {
        continue;
      }
      Optional<Table> target = referred.target(table, column.name());
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
            + ReferredTable.column(target, target.key().get(0))
            + more);
  }

  /**
   * A reference whose name says nothing: its values are keys of rows of one kind, not by chance.
   */
  private Optional<GuessedReference> byValues(Table table, int column) throws IOException {
    List<GuessedReference> likely = new ArrayList<>();
    for (Table target : referred.kindred()) {
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

  private static boolean isCertain(String column) {
    return column.toLowerCase(Locale.ROOT).endsWith("_id");
  }

  /** Whether a column holds numbers of rows of a table. */
  boolean refers(Table from, int column, Table to) throws IOException {
    Optional<ForeignKey> key = foreignKeyOf(from, column);
    if (key.isPresent()) {
      return key.get().table().equals(to.name());
    }
    Optional<Table> target =
        ReferredTable.mayBeNumber(from.columns().get(column))
            ? referred.target(from, from.columns().get(column).name())
            : Optional.empty();
    return target.map(t -> t.name().equals(to.name())).orElse(false);
  }

  /** The foreign key that a column belongs to. */
  static Optional<ForeignKey> foreignKeyOf(Table table, int column) {
    String name = ReferredTable.column(table, column);
    return table.foreignKeys().stream().filter(key -> key.columns().contains(name)).findFirst();
  }
}
