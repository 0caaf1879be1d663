package weftex.core.model;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.catchThrowableOfType;

import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.Test;
import weftex.core.row.Value;
import weftex.core.yaml.YamlProblem;

class SiteModelTest {
  private static final String FERRIES =
      """
      model: ferries
      address: {table: options, where: {name: site}, column: value}
      people: {table: people, known-by: [mail, login]}
      shared: [people]
      tables:
        pages: {role: content, word: page}
        visits: {role: noise}
      linked-files: [media]
      steps:
        - {say: Purge the cache.}
        - {say: Send the newsletter., after: [news], where: {status: [published]}}
      """;

  @Test
  void whatIsNotSaidIsEmpty() throws YamlProblem {
    SiteModel model = SiteModel.read("model: bare");
    assertThat(model.parent()).isEmpty();
    assertThat(model.ownAddress()).isEmpty();
    assertThat(model.ownPeople()).isEmpty();
    assertThat(model.tables()).isEmpty();
    assertThat(model.follows().steps()).isEmpty();
    assertThat(model.rule("pages")).isEqualTo(SiteModel.PLAIN.rule("pages"));
    assertThat(model.names("pages")).isFalse();
  }

  @Test
  void aModelNeedsAName() {
    assertThat(
            catchThrowableOfType(YamlProblem.class, () -> SiteModel.read("steps: []")).sentence())
        .contains("a site model needs a name: 'model: …'");
  }

  @Test
  void oneModelExtendsAnotherAndItsOwnWordCounts() throws YamlProblem {
    SiteModel more =
        SiteModel.read(
            """
            model: ferries-shop
            extends: ferries
            people: {table: accounts, known-by: [mail]}
            shared: [people, carts]
            tables:
              visits: {role: live}
              carts: {role: live}
            steps:
              - {say: Purge the cache.}
              - {say: Count the stock.}
            """);
    SiteModel both = SiteModel.read(FERRIES).extendedBy(more);
    assertThat(both.model()).isEqualTo("ferries-shop");
    assertThat(both.ownAddress().orElseThrow().table()).isEqualTo("options");
    assertThat(both.ownPeople().orElseThrow().table()).isEqualTo("accounts");
    assertThat(both.copies().shared()).containsExactly("people", "carts");
    assertThat(both.texts().linkedFiles()).containsExactly("media");
    assertThat(both.follows().steps())
        .extracting(FollowRules.StepRule::say)
        .containsExactly("Purge the cache.", "Send the newsletter.", "Count the stock.");
    assertThat(both.tables()).containsOnlyKeys("pages", "visits", "carts");
    assertThat(both.rule("visits").ownership().roleOrContent()).isEqualTo(Role.LIVE);
  }

  @Test
  void aStepIsDueAfterItsTablesAndValues() throws YamlProblem {
    List<FollowRules.StepRule> steps = SiteModel.read(FERRIES).follows().steps();
    Map<String, Value> published = Map.of("status", Value.text("published"));
    Map<String, Value> draft = Map.of("status", Value.text("draft"));
    assertThat(steps.get(0).isDue("anything", Map.of())).isTrue();
    assertThat(steps.get(1).isDue("news", published)).isTrue();
    assertThat(steps.get(1).isDue("news", draft)).isFalse();
    assertThat(steps.get(1).isDue("news", Map.of())).as("not written").isFalse();
    assertThat(steps.get(1).isDue("pages", published)).isFalse();
  }

  @Test
  void anAppointmentIsForRowsThatSayWhen() throws YamlProblem {
    FollowRules.AppointmentRule rule =
        SiteModel.read(
                """
                model: ferries
                appointments:
                  - of: news
                    where: {status: ['future*']}
                    at: published_at
                    hook: publish
                    in: {table: options, where: {name: cron}, column: value}
                """)
            .follows()
            .appointments()
            .get(0);
    Value future = Value.text("future-post");
    assertThat(rule.isDue("news", Map.of("status", future, "published_at", Value.text("x"))))
        .isTrue();
    assertThat(rule.isDue("news", Map.of("status", future))).isFalse();
    assertThat(rule.isDue("pages", Map.of("status", future, "published_at", Value.text("x"))))
        .isFalse();
  }

  @Test
  void furtherRolesAndRowsThatStayAreAdded() throws YamlProblem {
    SiteModel model =
        SiteModel.read(FERRIES)
            .withRoles(Map.of("bookings", Role.LIVE))
            .withStays(Map.of("options", Map.of("name", List.of("mail_*"))));
    assertThat(model.names("bookings")).isTrue();
    assertThat(model.describes("bookings")).as("whose, not what").isFalse();
    assertThat(model.describes("pages")).isTrue();
    assertThat(model.rule("options").ownership().stays()).containsKey("name");
  }

  @Test
  void theModelsThatComeAlongCanBeRead() throws YamlProblem {
    for (String name : SiteModel.builtIn()) {
      SiteModel model = SiteModel.readBuiltIn(name);
      assertThat(model.model()).isEqualTo(name);
      assertThat(model.texts().markup()).isNotEmpty();
    }
  }
}
