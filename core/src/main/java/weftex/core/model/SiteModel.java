package weftex.core.model;

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
import weftex.core.row.Table;
import weftex.core.row.Value;
import weftex.core.yaml.StrictYaml;
import weftex.core.yaml.YamlProblem;

/**
 * A site model, as its file says it. Every table that it does not name is taken as its schema shows
 * it.
 *
 * @param model its name
 * @param parent the model that it adds to; empty for none
 * @param tables rules by the table's name without prefix
 * @param address where a copy keeps its own base address; null if the model does not say
 * @param people which table holds the people of a copy; null if the model does not say
 * @param markup where numbers of rows stand in running text, in every column that says {@code
 *     markup: true}
 * @param steps what is left for a person after an apply
 * @param linkedFiles paths below the site's address, and below the copy's folder, where files are
 *     that texts link to
 * @param appointments rows that must be entered in a table of appointments
 * @param along rows that go along with another row's status
 * @param shared tables that all sites under one roof have in common
 * @param schemaVersions rows that say in which state the tables are
 */
public record SiteModel(
    String model,
    @JsonProperty("extends") String parent,
    AddressRule address,
    PeopleRule people,
    Map<String, TableRule> tables,
    List<PlaceRule> markup,
    List<StepRule> steps,
    List<String> linkedFiles,
    List<AppointmentRule> appointments,
    List<AlongRule> along,
    List<String> shared,
    List<SchemaVersionRule> schemaVersions) {

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

  /**
   * Rows that must be entered in a table of appointments, which is one serialised value.
   *
   * @param of the table of the rows
   * @param where values that such a row has
   * @param at the column with the time, in UTC
   * @param hook what is called then, with the row's number
   * @param in the cell that holds the appointments
   */
  public record AppointmentRule(
      @JsonProperty(required = true) String of,
      @JsonProperty(required = true) Map<String, List<String>> where,
      @JsonProperty(required = true) String at,
      @JsonProperty(required = true) String hook,
      @JsonProperty(required = true) AddressRule in) {
    public AppointmentRule {
      where = Map.copyOf(where);
    }

    /** Whether a row is to be entered. */
    public boolean isDue(String table, Map<String, Value> row) {
      return of.equals(table) && isTold(where, row) && row.containsKey(at);
    }
  }

  /**
   * Rows that go along with another row's status, as the CMS itself has it: the comments of a page
   * that goes into the bin.
   *
   * @param of the table of the row with the status
   * @param when values that it has then
   * @param rows which rows go along
   * @param remembered where the site keeps what they were before: a serialised map from their
   *     numbers, in a row that is there as long as the status is
   */
  public record AlongRule(
      @JsonProperty(required = true) String of,
      @JsonProperty(required = true) Map<String, List<String>> when,
      @JsonProperty(required = true) Rows rows,
      @JsonProperty(required = true) Memory remembered) {
    public AlongRule {
      when = Map.copyOf(when);
    }

    /**
     * Rows of a numbered table.
     *
     * @param by the column that refers to the row with the status
     * @param becomes what they have in {@code column} as long as it lasts
     */
    public record Rows(
        @JsonProperty(required = true) String table,
        @JsonProperty(required = true) String by,
        @JsonProperty(required = true) String column,
        @JsonProperty(required = true) String becomes) {}

    /**
     * A row of a numbered table.
     *
     * @param by the column that refers to the row with the status
     * @param where values that tell it among others
     */
    public record Memory(
        @JsonProperty(required = true) String table,
        @JsonProperty(required = true) String by,
        @JsonProperty(required = true) Map<String, String> where,
        @JsonProperty(required = true) String column) {
      public Memory {
        where = Map.copyOf(where);
      }
    }

    /** Whether a row has the status. */
    public boolean isTold(Map<String, Value> row) {
      return SiteModel.isTold(when, row);
    }
  }

  /**
   * Rows that say in which state the tables are, so that they go wherever whole tables go.
   *
   * @param where values ({@code *} and {@code ?} match) that tell them
   */
  public record SchemaVersionRule(
      @JsonProperty(required = true) String table,
      @JsonProperty(required = true) Map<String, List<String>> where) {
    public SchemaVersionRule {
      where = Map.copyOf(where);
    }
  }

  /**
   * The people of a copy.
   *
   * @param table without prefix
   * @param knownBy columns of which one tells the same person on both copies, the surest first
   */
  public record PeopleRule(
      @JsonProperty(required = true) String table,
      @JsonProperty(required = true) List<String> knownBy) {
    public PeopleRule {
      knownBy = List.copyOf(knownBy);
    }
  }

  /**
   * What is left for a person after an apply.
   *
   * @param say the step, as a sentence
   * @param after tables of which one must have been written to; any if none is named
   * @param where values that the written row has
   */
  public record StepRule(
      @JsonProperty(required = true) String say,
      List<String> after,
      Map<String, List<String>> where,
      boolean files) {
    public StepRule {
      after = after == null ? List.of() : List.copyOf(after);
      where = where == null ? Map.of() : Map.copyOf(where);
    }

    /** Whether a written row calls for it. */
    public boolean isDue(String table, Map<String, Value> row) {
      return (after.isEmpty() || after.contains(table)) && isTold(where, row);
    }
  }

  private static boolean isTold(Map<String, List<String>> where, Map<String, Value> row) {
    return where.entrySet().stream()
        .allMatch(
            entry ->
                row.containsKey(entry.getKey())
                    && entry.getValue().stream()
                        .anyMatch(p -> Glob.of(p).matches(row.get(entry.getKey()))));
  }

  /** The model that adds nothing to the schema. */
  public static final SiteModel PLAIN =
      new SiteModel(
          "plain", null, null, null, Map.of(), List.of(), List.of(), List.of(), List.of(),
          List.of(), List.of(), List.of());

  public SiteModel {
    if (model == null || model.isBlank()) {
      throw new IllegalArgumentException("a site model needs a name: 'model: …'");
    }
    parent = parent == null ? "" : parent;
    steps = steps == null ? List.of() : List.copyOf(steps);
    tables = tables == null ? Map.of() : Map.copyOf(tables);
    markup = markup == null ? List.of() : List.copyOf(markup);
    linkedFiles = linkedFiles == null ? List.of() : List.copyOf(linkedFiles);
    appointments = appointments == null ? List.of() : List.copyOf(appointments);
    along = along == null ? List.of() : List.copyOf(along);
    shared = shared == null ? List.of() : List.copyOf(shared);
    schemaVersions = schemaVersions == null ? List.of() : List.copyOf(schemaVersions);
  }

  /**
   * The same model with more rows that belong to their copy.
   *
   * @param more table to column to patterns
   */
  public SiteModel withStays(Map<String, Map<String, List<String>>> more) {
    Map<String, TableRule> extended = new HashMap<>(tables);
    more.forEach((table, stays) -> extended.put(table, rule(table).withStays(stays)));
    return with(extended);
  }

  /**
   * The same model with columns whose values on one copy are made up, so that they are neither
   * compared nor carried onto a row that the other copy has.
   *
   * @param masked columns by table
   */
  public SiteModel withMasked(Map<String, List<PersonalRule>> masked) {
    Map<String, TableRule> extended = new HashMap<>(tables);
    masked.forEach((table, columns) -> extended.put(table, rule(table).withMasked(columns)));
    return with(extended);
  }

  private SiteModel with(Map<String, TableRule> rules) {
    return new SiteModel(
        model,
        parent,
        address,
        people,
        rules,
        markup,
        steps,
        linkedFiles,
        appointments,
        along,
        shared,
        schemaVersions);
  }

  /**
   * The same model with a word on whose the rows of some tables are.
   *
   * @param roles by table
   */
  public SiteModel withRoles(Map<String, Role> roles) {
    Map<String, TableRule> extended = new HashMap<>(tables);
    roles.forEach((table, role) -> extended.put(table, rule(table).withRole(role)));
    return with(extended);
  }

  /** Whether it says what the rows of a table mean, and not only whose they are. */
  public boolean describes(String table) {
    return rule(table).describes();
  }

  /** Whether it says whose the rows of a table are. */
  public boolean names(String table) {
    return tables.containsKey(table);
  }

  /** Whose the rows of a table are, as the model says or as the table is judged. */
  public Role role(Table table) {
    return names(table.name())
        ? rule(table.name()).ownership().roleOrContent()
        : Judgement.of(table).role();
  }

  /** This model with what another says, too; where both say one thing, the other's counts. */
  public SiteModel extendedBy(SiteModel more) {
    Map<String, TableRule> all = new HashMap<>(tables);
    more.tables.forEach((table, rule) -> all.merge(table, rule, TableRule::extending));
    return new SiteModel(
        more.model,
        more.parent,
        more.address == null ? address : more.address,
        more.people == null ? people : more.people,
        all,
        Stream.concat(markup.stream(), more.markup.stream()).distinct().toList(),
        Stream.concat(steps.stream(), more.steps.stream()).distinct().toList(),
        Stream.concat(linkedFiles.stream(), more.linkedFiles.stream()).distinct().toList(),
        Stream.concat(appointments.stream(), more.appointments.stream()).distinct().toList(),
        Stream.concat(along.stream(), more.along.stream()).distinct().toList(),
        Stream.concat(shared.stream(), more.shared.stream()).distinct().toList(),
        Stream.concat(schemaVersions.stream(), more.schemaVersions.stream()).distinct().toList());
  }

  /** Which table holds the people of a copy. */
  public Optional<PeopleRule> ownPeople() {
    return Optional.ofNullable(people);
  }

  /** Where a copy keeps its own base address. */
  public Optional<AddressRule> ownAddress() {
    return Optional.ofNullable(address);
  }

  /** Reads a model file's text, without what it extends. */
  public static SiteModel read(String yaml) throws YamlProblem {
    return StrictYaml.read(yaml, SiteModel.class);
  }

  /** The names of the models that come with the program, {@code plain} aside. */
  public static List<String> builtIn() {
    return List.of("wordpress", "wordpress-extensions");
  }

  /** Reads a model that comes with the program. */
  public static SiteModel readBuiltIn(String name) throws YamlProblem {
    try (InputStream in = SiteModel.class.getResourceAsStream("/weftex/models/" + name + ".yaml")) {
      SiteModel said = read(new String(in.readAllBytes(), StandardCharsets.UTF_8));
      return said.parent.isEmpty() ? said : readBuiltIn(said.parent).extendedBy(said);
    } catch (IOException e) {
      throw new UncheckedIOException(e);
    }
  }

  /** The rule for a table; an empty one if the model does not name it. */
  public TableRule rule(String table) {
    return tables.getOrDefault(table, TableRule.NONE);
  }
}
