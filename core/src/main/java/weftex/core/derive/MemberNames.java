package weftex.core.derive;

import java.io.IOException;
import java.util.ArrayList;
import java.util.Collection;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.stream.Stream;
import weftex.core.model.ItemRule;
import weftex.core.model.PlaceRule;
import weftex.core.model.SiteModel;
import weftex.core.model.TableRule;
import weftex.core.row.Table;

/**
 * Names by which members of serialised values and attributes of blocks say what their numbers refer
 * to: {@code page_id}, {@code imageId}, {@code sailing_ids}. A name that two tables could mean is
 * none.
 */
final class MemberNames {
  private static final List<String> ENDS = List.of("_id", "_ids", "Id", "Ids", "ID", "IDs");
  private static final List<String> PEOPLE =
      List.of("user", "author", "editor", "owner", "member", "person");

  private final Collection<Table> all;
  private final SiteModel model;
  private final Evidence evidence;

  /** By the word in front of the ending; the empty text where several tables could be meant. */
  private final Map<String, String> tables = new LinkedHashMap<>();

  MemberNames(Collection<Table> all, SiteModel model, Evidence evidence) {
    this.all = all;
    this.model = model;
    this.evidence = evidence;
  }

  /** Finds the words for the tables of the copy. */
  void gather() throws IOException {
    for (Table table : all) {
      if (table.isNumbered() || isNumbered(table)) {
        add(table);
      }
    }
  }

  /** The table whose rows are called so. */
  Optional<String> called(String word) {
    return Optional.ofNullable(tables.get(word)).filter(table -> !table.isEmpty());
  }

  /** The table whose IDs a member of a name holds. */
  Optional<String> target(String member) {
    for (String end : ENDS) {
      if (member.endsWith(end)) {
        String word = member.substring(0, member.length() - end.length());
        return Stream.of(word, word.replaceAll("(?<=[a-z])(?=[A-Z])", "_").toLowerCase(Locale.ROOT))
            .map(tables::get)
            .filter(table -> table != null && !table.isEmpty())
            .findFirst();
      }
    }
    return Optional.empty();
  }

  /** The places of such members, however deep they are, and of such attributes of blocks. */
  List<PlaceRule> places() throws IOException {
    gather();
    List<PlaceRule> places = new ArrayList<>();
    tables.forEach(
        (word, table) -> {
          for (String end : table.isEmpty() ? List.<String>of() : ENDS) {
            String name = "**." + (end.startsWith("_") ? word : camel(word)) + end;
            place(table, name, places);
            if (end.endsWith("s")) {
              place(table, name + ".*", places);
            }
          }
        });
    return places;
  }

  private static void place(String table, String path, List<PlaceRule> places) {
    places.add(PlaceRule.at(table, path, false, "0"));
    places.add(PlaceRule.ofBlock(table, "*", path));
  }

  private boolean isNumbered(Table table) {
    return !model.rule(table.name()).number().isEmpty();
  }

  private void add(Table table) throws IOException {
    TableRule rule = model.rule(table.name());
    Optional<ItemRule> item = Optional.ofNullable(rule.item());
    boolean person = model.ownPeople().filter(p -> p.table().equals(table.name())).isPresent();
    if (person) {
      PEOPLE.forEach(word -> add(word, table));
    } else if (item.isPresent() && !item.get().kindFrom().isEmpty()) {
      add(ReferredTable.singular(table.name()), table);
      for (String kind : kinds(table, item.get())) {
        add(kind, table);
        for (String word : item.get().kinds().getOrDefault(kind, "").split(" ")) {
          if (ReferenceGuesser.PICTURE.matcher(word).matches()) {
            ReferenceGuesser.PICTURES.forEach(picture -> add(picture, table));
          }
        }
      }
    } else if (!model.describes(table.name()) || isReferredTo(table)) {
      String name = ReferredTable.singular(table.name().toLowerCase(Locale.ROOT));
      add(name, table);
      add(name.substring(name.lastIndexOf('_') + 1), table);
    }
  }

  /**
   * Of tables that are described, numbers stand elsewhere only if the model knows of such places.
   */
  private boolean isReferredTo(Table table) {
    boolean byRule =
        model.tables().values().stream()
            .flatMap(rule -> rule.references().values().stream())
            .anyMatch(reference -> reference.to().equals(table.name()));
    return byRule
        || all.stream()
            .flatMap(from -> from.foreignKeys().stream())
            .anyMatch(key -> key.table().equals(table.name()));
  }

  private List<String> kinds(Table table, ItemRule item) throws IOException {
    String holder = item.in().isEmpty() ? table.name() : item.in();
    Optional<Table> of = all.stream().filter(t -> t.name().equals(holder)).findFirst();
    Optional<Integer> column = of.flatMap(t -> t.position(item.kindFrom()));
    return column.isPresent() ? evidence.values(of.get(), column.get()) : List.of();
  }

  private void add(String word, Table table) {
    if (word.matches("[a-zA-Z][a-zA-Z0-9_]*")) {
      tables.merge(word, table.name(), (one, other) -> one.equals(other) ? one : "");
    }
  }

  private static String camel(String word) {
    StringBuilder camel = new StringBuilder();
    for (String part : word.split("_")) {
      camel.append(
          camel.isEmpty() || part.isEmpty()
              ? part
              : part.substring(0, 1).toUpperCase(Locale.ROOT) + part.substring(1));
    }
    return camel.toString();
  }
}
