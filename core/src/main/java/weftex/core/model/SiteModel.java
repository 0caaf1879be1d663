package weftex.core.model;

import com.fasterxml.jackson.annotation.JsonProperty;
import com.fasterxml.jackson.databind.annotation.JsonDeserialize;
import com.fasterxml.jackson.databind.annotation.JsonPOJOBuilder;
import java.io.IOException;
import java.io.InputStream;
import java.io.UncheckedIOException;
import java.nio.charset.StandardCharsets;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import weftex.core.row.Table;
import weftex.core.yaml.StrictYaml;
import weftex.core.yaml.YamlProblem;

/**
 * A site model, as its file says it. Every table that it does not name is taken as its schema shows
 * it.
 *
 * @param model its name
 * @param parent the model that it adds to; empty for none
 * @param tables rules by the table's name without prefix
 * @param copies what each copy has of its own, or both have in common
 * @param texts what stands in texts of any table
 * @param follows what follows from an apply
 */
@JsonDeserialize(builder = SiteModel.Written.class)
public record SiteModel(
    String model,
    String parent,
    CopyRules copies,
    Map<String, TableRule> tables,
    TextRules texts,
    FollowRules follows) {

  /**
   * What each copy has of its own, or both have in common.
   *
   * @param address where a copy keeps its own base address; null if the model does not say
   * @param people which table holds the people of a copy; null if the model does not say
   * @param shared tables that all sites under one roof have in common
   */
  public record CopyRules(AddressRule address, PeopleRule people, List<String> shared) {
    public CopyRules {
      shared = Joined.given(shared);
    }

    private CopyRules extending(CopyRules more) {
      return new CopyRules(
          more.address == null ? address : more.address,
          more.people == null ? people : more.people,
          Joined.lists(shared, more.shared));
    }
  }

  /**
   * What stands in texts of any table.
   *
   * @param markup where numbers of rows stand in running text, in every column that says {@code
   *     markup: true}
   * @param linkedFiles paths below the site's address, and below the copy's folder, where files are
   *     that texts link to
   */
  public record TextRules(List<PlaceRule> markup, List<String> linkedFiles) {
    public TextRules {
      markup = Joined.given(markup);
      linkedFiles = Joined.given(linkedFiles);
    }

    private TextRules extending(TextRules more) {
      return new TextRules(
          Joined.lists(markup, more.markup), Joined.lists(linkedFiles, more.linkedFiles));
    }
  }

  /** A model as its file has it: all keys side by side. */
  @JsonPOJOBuilder
  static final class Written {
    @JsonProperty private String model;

    @JsonProperty("extends")
    private String parent;

    @JsonProperty private AddressRule address;
    @JsonProperty private PeopleRule people;
    @JsonProperty private Map<String, TableRule> tables;
    @JsonProperty private List<PlaceRule> markup;
    @JsonProperty private List<FollowRules.StepRule> steps;
    @JsonProperty private List<String> linkedFiles;
    @JsonProperty private List<FollowRules.AppointmentRule> appointments;
    @JsonProperty private List<FollowRules.AlongRule> along;
    @JsonProperty private List<String> shared;
    @JsonProperty private List<FollowRules.SchemaVersionRule> schemaVersions;

    SiteModel build() {
      return new SiteModel(
          model,
          parent,
          new CopyRules(address, people, shared),
          tables,
          new TextRules(markup, linkedFiles),
          new FollowRules(steps, appointments, along, schemaVersions));
    }
  }

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

  /** The model that adds nothing to the schema. */
  public static final SiteModel PLAIN =
      new SiteModel(
          "plain",
          null,
          new CopyRules(null, null, null),
          null,
          new TextRules(null, null),
          new FollowRules(null, null, null, null));

  public SiteModel {
    if (model == null || model.isBlank()) {
      throw new IllegalArgumentException("a site model needs a name: 'model: …'");
    }
    parent = parent == null ? "" : parent;
    tables = tables == null ? Map.of() : Map.copyOf(tables);
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
    return new SiteModel(model, parent, copies, rules, texts, follows);
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
        copies.extending(more.copies),
        all,
        texts.extending(more.texts),
        follows.extending(more.follows));
  }

  /** Which table holds the people of a copy. */
  public Optional<PeopleRule> ownPeople() {
    return Optional.ofNullable(copies.people());
  }

  /** Where a copy keeps its own base address. */
  public Optional<AddressRule> ownAddress() {
    return Optional.ofNullable(copies.address());
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
