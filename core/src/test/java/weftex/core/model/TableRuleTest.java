package weftex.core.model;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.Test;
import weftex.core.yaml.YamlProblem;

class TableRuleTest {
  private static final String PARENT =
      """
      model: ferries
      tables:
        sailings:
          role: content
          number: id
          identity: [departs]
          identity-unless: {departs: ["0000*"]}
          references: {route_id: {to: routes}}
          stays: {state: [draft]}
          rows: [{when: {kind: [booking]}, role: live}]
          secret: [pin]
          part-of: route_id
          word: sailing
          inside: {notes: [{markup: true}]}
          files: [{column: picture}]
          prefixed: {options: {names: [sailings_*]}}
          permanent: [guid]
          columns: {changed: newer}
          counters: {seats: {of: bookings, by: sailing_id}}
          clear: [{when: {kind: [cache]}, column: notes}]
          personal: [skipper]
      """;

  private static final String CHILD =
      """
      model: more
      extends: ferries
      tables:
        sailings:
          identity: [route_id, departs]
          identity-unless: {departs: [never]}
          references: {route_id: {to: lines}, ship_id: {to: ships}}
          stays: {state: [held]}
          rows: [{when: {kind: [booking]}, role: own}]
          secret: [pin, code]
          word: crossing
          files: [{column: map}]
          permanent: [slug]
          columns: {changed: ignored}
          personal: [{column: mate, when: {kind: [crew]}}]
      """;

  private static TableRule rule(String yaml) throws YamlProblem {
    return SiteModel.read(yaml).rule("sailings");
  }

  private static TableRule extended() throws YamlProblem {
    return SiteModel.read(PARENT).extendedBy(SiteModel.read(CHILD)).rule("sailings");
  }

  @Test
  void whatBothSayOfOneThingIsAsTheExtensionSaysIt() throws Exception {
    TableRule rule = extended();
    assertThat(rule.identity().columns()).containsExactly("route_id", "departs");
    assertThat(rule.references().get("route_id").to()).isEqualTo("lines");
    assertThat(rule.references()).containsKey("ship_id");
    assertThat(rule.part().word()).isEqualTo("crossing");
    assertThat(rule.handling().columns()).containsEntry("changed", ColumnRule.IGNORED);
  }

  @Test
  void whatItDoesNotSayStaysAsItWas() throws Exception {
    TableRule rule = extended();
    assertThat(rule.number()).isEqualTo("id");
    assertThat(rule.ownership().role()).isEqualTo(Role.CONTENT);
    assertThat(rule.part().of()).isEqualTo("route_id");
    assertThat(rule.contents().inside()).containsKey("notes");
    assertThat(rule.contents().prefixed()).containsKey("options");
    assertThat(rule.after()).isEqualTo(rule(PARENT).after());
    assertThat(rule.item()).isNull();
  }

  @Test
  void listsAreJoinedAndTheExtensionsRowsAreAskedFirst() throws Exception {
    TableRule rule = extended();
    assertThat(rule.identity().unless()).isEqualTo(Map.of("departs", List.of("0000*", "never")));
    assertThat(rule.ownership().stays()).isEqualTo(Map.of("state", List.of("draft", "held")));
    assertThat(rule.ownership().rows())
        .extracting(OwnershipRule.RowRule::role)
        .containsExactly(Role.OWN, Role.LIVE);
    assertThat(rule.ownership().secret()).containsExactly("pin", "code");
    assertThat(rule.contents().files())
        .extracting(FileRule::column)
        .containsExactly("picture", "map");
    assertThat(rule.handling().permanent()).containsExactly("guid", "slug");
    assertThat(rule.personal().known())
        .extracting(PersonalRule::column)
        .containsExactly("skipper", "mate");
  }

  @Test
  void aRuleThatSaysOnlyWhoseTheRowsAreDescribesNothing() throws Exception {
    String whose =
        """
        model: m
        tables:
          sailings:
            role: live
            stays: {state: [draft]}
            rows: [{when: {kind: [a]}, role: own}]
            personal: [skipper]
        """;
    assertThat(rule(whose).describes()).isFalse();
    assertThat(TableRule.NONE.describes()).isFalse();
    for (String more : List.of("secret: [pin]", "word: w", "number: id", "permanent: [guid]")) {
      assertThat(rule(whose + "    " + more + "\n").describes()).as(more).isTrue();
    }
    TableRule masked = rule(whose).withMasked(List.of(PersonalRule.of("skipper")));
    assertThat(masked.describes()).isTrue();
  }

  @Test
  void aWordOnWhoseTheRowsAreLeavesTheRest() throws Exception {
    TableRule own = rule(PARENT).withRole(Role.OWN);
    assertThat(own.ownership().role()).isEqualTo(Role.OWN);
    assertThat(own.withRole(Role.CONTENT)).isEqualTo(rule(PARENT));
    TableRule stays = rule(PARENT).withStays(Map.of("state", List.of("held")));
    assertThat(stays.ownership().stays()).isEqualTo(Map.of("state", List.of("draft", "held")));
  }

  @Test
  void anUnknownKeyIsNamedWithItsLineAndTheOneThatWasMeant() {
    assertThatThrownBy(() -> rule(PARENT + "    identty-in: {}\n"))
        .isInstanceOfSatisfying(
            YamlProblem.class,
            problem -> {
              assertThat(problem.line()).isEqualTo(PARENT.lines().count() + 1);
              assertThat(problem.getMessage()).contains("unknown key 'identty-in'");
              assertThat(problem.suggestion()).contains("identity-in");
            });
  }
}
