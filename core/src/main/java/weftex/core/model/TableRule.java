package weftex.core.model;

import com.fasterxml.jackson.annotation.JsonProperty;
import com.fasterxml.jackson.databind.annotation.JsonDeserialize;
import java.util.List;
import java.util.Map;

/**
 * What a model says of a table, by facets. What is not said is empty, or null where that is not
 * told apart from it.
 *
 * @param number the column that numbers the rows, where the schema does not show it; empty if none
 * @param references columns that hold the number of a row elsewhere
 * @param item how a person calls a row; null if the table's rows have no name of their own
 * @param identity by what two rows are the same thing
 * @param ownership whose its rows are
 * @param part what its rows are parts of
 * @param contents what its values hold
 * @param handling columns that are not merged like others
 * @param after what follows from an apply
 * @param personal which columns have personal data
 */
@JsonDeserialize(builder = WrittenRule.class)
public record TableRule(
    String number,
    Map<String, ReferenceRule> references,
    ItemRule item,
    IdentityRule identity,
    OwnershipRule ownership,
    PartRule part,
    ContentsRule contents,
    HandlingRule handling,
    AfterRule after,
    PersonalRules personal) {

  static final TableRule NONE =
      new TableRule(
          null,
          null,
          null,
          IdentityRule.NONE,
          OwnershipRule.NONE,
          PartRule.NONE,
          ContentsRule.NONE,
          HandlingRule.NONE,
          AfterRule.NONE,
          PersonalRules.NONE);

  public TableRule {
    number = Joined.given(number);
    references = Joined.given(references);
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
      column = Joined.given(column);
      unset = Joined.given(unset);
    }
  }

  /** Whether it says what its rows mean, and not only whose they are. */
  boolean describes() {
    TableRule whose =
        NONE.with(new OwnershipRule(ownership.role(), ownership.stays(), ownership.rows(), null))
            .with(new PersonalRules(personal.known(), null));
    return !equals(whose);
  }

  private TableRule with(OwnershipRule other) {
    return new TableRule(
        number, references, item, identity, other, part, contents, handling, after, personal);
  }

  private TableRule with(PersonalRules other) {
    return new TableRule(
        number, references, item, identity, ownership, part, contents, handling, after, other);
  }

  /** The same with a word on whose its rows are. */
  TableRule withRole(Role said) {
    return with(ownership.withRole(said));
  }

  /** The same with more rows that belong to their copy. */
  TableRule withStays(Map<String, List<String>> more) {
    return with(ownership.withStays(more));
  }

  /** The same with columns whose values on one copy are made up. */
  TableRule withMasked(List<PersonalRule> made) {
    return with(personal.withMasked(made));
  }

  /** This rule with what another says, too; where both say one thing, the other's counts. */
  TableRule extending(TableRule more) {
    return new TableRule(
        more.number.isEmpty() ? number : more.number,
        Joined.maps(references, more.references),
        more.item == null ? item : more.item,
        identity.extending(more.identity),
        ownership.extending(more.ownership),
        part.extending(more.part),
        contents.extending(more.contents),
        handling.extending(more.handling),
        after.extending(more.after),
        personal.extending(more.personal));
  }
}
