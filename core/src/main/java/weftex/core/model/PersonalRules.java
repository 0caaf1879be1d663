package weftex.core.model;

import java.util.List;

/**
 * Personal data in a table.
 *
 * @param known columns of personal data, which a report leaves out
 * @param masked columns whose values on staging are made up; no model says that
 */
public record PersonalRules(List<PersonalRule> known, List<PersonalRule> masked) {
  static final PersonalRules NONE = new PersonalRules(null, null);

  public PersonalRules {
    known = Joined.given(known);
    masked = Joined.given(masked);
  }

  PersonalRules withMasked(List<PersonalRule> made) {
    return new PersonalRules(known, Joined.lists(masked, made));
  }

  PersonalRules extending(PersonalRules more) {
    return new PersonalRules(Joined.lists(known, more.known), Joined.lists(masked, more.masked));
  }
}
