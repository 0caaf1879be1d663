package weftex.core.site;

import com.fasterxml.jackson.annotation.JsonProperty;
import java.io.IOException;
import java.io.InputStream;
import java.io.UncheckedIOException;
import java.nio.charset.StandardCharsets;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.stream.Stream;
import weftex.core.yaml.StrictYaml;
import weftex.core.yaml.YamlProblem;

/**
 * A site model, as its file says it. Every table that it does not name is taken as its schema shows
 * it.
 *
 * @param model its name
 * @param tables rules by the table's name without prefix
 * @param address where a copy keeps its own base address; null if the model does not say
 * @param markup where numbers of rows stand in running text, in every column that says {@code
 *     markup: true}
 */
public record SiteModel(
    String model, AddressRule address, Map<String, TableRule> tables, List<PlaceRule> markup) {

  /**
   * The cell that holds a copy's own base address.
   *
   * @param table without prefix
   * @param where values of other columns that tell its row
   * @param column the cell's column
   */
  public record AddressRule(
      @JsonProperty(required = true) String table,
      @JsonProperty(required = true) Map<String, String> where,
      @JsonProperty(required = true) String column) {
    public AddressRule {
      where = Map.copyOf(where);
    }
  }

  /** The model that adds nothing to the schema. */
  public static final SiteModel PLAIN = new SiteModel("plain", null, Map.of(), List.of());

  public SiteModel {
    if (model == null || model.isBlank()) {
      throw new IllegalArgumentException("a site model needs a name: 'model: …'");
    }
    tables = tables == null ? Map.of() : Map.copyOf(tables);
    markup = markup == null ? List.of() : List.copyOf(markup);
  }

  /**
   * The same model with more rows that belong to their copy.
   *
   * @param more table to column to patterns
   */
  public SiteModel withStays(Map<String, Map<String, List<String>>> more) {
    Map<String, TableRule> extended = new HashMap<>(tables);
    more.forEach((table, stays) -> extended.put(table, rule(table).withStays(stays)));
    return new SiteModel(model, address, extended, markup);
  }

  /** Where a copy keeps its own base address. */
  public Optional<AddressRule> ownAddress() {
    return Optional.ofNullable(address);
  }

  /** Reads a model file's text. */
  public static SiteModel read(String yaml) throws YamlProblem {
    return StrictYaml.read(yaml, SiteModel.class);
  }

  /** The names of the models that come with the program, {@code plain} aside. */
  public static List<String> builtIn() {
    return List.of("wordpress");
  }

  /** Reads a model that comes with the program. */
  public static SiteModel readBuiltIn(String name) throws YamlProblem {
    try (InputStream in = SiteModel.class.getResourceAsStream("/weftex/models/" + name + ".yaml")) {
      return read(new String(in.readAllBytes(), StandardCharsets.UTF_8));
    } catch (IOException e) {
      throw new UncheckedIOException(e);
    }
  }

  /** The rule for a table; an empty one if the model does not name it. */
  public TableRule rule(String table) {
    return tables.getOrDefault(table, TableRule.NONE);
  }

  /**
   * What a model says of a table.
   *
   * @param role whose its rows are
   * @param number the column that numbers the rows, where the schema does not show it; empty if
   *     none
   * @param identity columns by which two rows are the same thing whatever their number
   * @param references columns that hold the number of a row elsewhere
   * @param stays rows that belong to their copy and never travel: column to patterns
   * @param inside what is inside the values of a column
   * @param item how a person calls a row; null if the table's rows have no name of their own
   * @param partOf the column that refers to the row of another table that these rows are a part of
   * @param word what such a part is called, such as {@code detail}
   * @param permanent columns that identify a row for the outside world: left alone where the target
   *     has the row
   */
  public record TableRule(
      Role role,
      String number,
      List<String> identity,
      Map<String, ReferenceRule> references,
      Map<String, List<String>> stays,
      Map<String, List<InsideRule>> inside,
      List<String> permanent,
      ItemRule item,
      String partOf,
      String word) {

    static final TableRule NONE =
        new TableRule(null, null, null, null, null, null, null, null, null, null);

    public TableRule {
      role = role == null ? Role.CONTENT : role;
      number = number == null ? "" : number;
      identity = identity == null ? List.of() : List.copyOf(identity);
      references = references == null ? Map.of() : Map.copyOf(references);
      stays = stays == null ? Map.of() : Map.copyOf(stays);
      inside = inside == null ? Map.of() : Map.copyOf(inside);
      permanent = permanent == null ? List.of() : List.copyOf(permanent);
      partOf = partOf == null ? "" : partOf;
      word = word == null ? "" : word;
    }

    private TableRule withStays(Map<String, List<String>> more) {
      Map<String, List<String>> all = new HashMap<>(stays);
      more.forEach(
          (column, patterns) ->
              all.merge(
                  column,
                  patterns,
                  (one, other) -> Stream.concat(one.stream(), other.stream()).toList()));
      return new TableRule(
          role, number, identity, references, all, inside, permanent, item, partOf, word);
    }
  }

  /**
   * A reference that the schema does not declare.
   *
   * @param to the table referred to, without prefix
   * @param column the column there; empty for its key
   * @param unset the value that refers to nothing, such as {@code 0}; empty if only NULL does
   */
  public record ReferenceRule(
      @JsonProperty(required = true) String to, String column, String unset) {
    public ReferenceRule {
      column = column == null ? "" : column;
      unset = unset == null ? "" : unset;
    }
  }
}
