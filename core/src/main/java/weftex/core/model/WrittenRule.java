package weftex.core.model;

import com.fasterxml.jackson.annotation.JsonProperty;
import com.fasterxml.jackson.databind.annotation.JsonPOJOBuilder;
import java.util.List;
import java.util.Map;

/** A rule for a table as a model file has it: the keys of all facets side by side. */
@JsonPOJOBuilder
final class WrittenRule {
  @JsonProperty private Role role;
  @JsonProperty private String number;
  @JsonProperty private List<String> identity;
  @JsonProperty private IdentityRule.In identityIn;
  @JsonProperty private Map<String, List<String>> identityUnless;
  @JsonProperty private Map<String, TableRule.ReferenceRule> references;
  @JsonProperty private Map<String, List<String>> stays;
  @JsonProperty private Map<String, List<InsideRule>> inside;
  @JsonProperty private List<String> permanent;
  @JsonProperty private ItemRule item;
  @JsonProperty private String partOf;
  @JsonProperty private PartRule.Through partThrough;
  @JsonProperty private String word;
  @JsonProperty private Map<String, ColumnRule> columns;
  @JsonProperty private List<OwnershipRule.RowRule> rows;
  @JsonProperty private Map<String, AfterRule.CounterRule> counters;
  @JsonProperty private List<String> secret;
  @JsonProperty private List<AfterRule.ClearRule> clear;
  @JsonProperty private List<FileRule> files;
  @JsonProperty private List<PersonalRule> personal;
  @JsonProperty private Map<String, ContentsRule.PrefixRule> prefixed;

  TableRule build() {
    return new TableRule(
        number,
        references,
        item,
        new IdentityRule(identity, identityIn, identityUnless),
        new OwnershipRule(role, stays, rows, secret),
        new PartRule(partOf, partThrough, word),
        new ContentsRule(inside, files, prefixed),
        new HandlingRule(permanent, columns),
        new AfterRule(counters, clear),
        new PersonalRules(personal, null));
  }
}
