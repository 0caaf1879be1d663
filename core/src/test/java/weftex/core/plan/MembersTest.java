package weftex.core.plan;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.List;
import java.util.Optional;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import weftex.core.change.RowChange;
import weftex.core.merge.ConflictKind;
import weftex.core.model.SiteModel;
import weftex.core.select.ItemFilter;
import weftex.core.select.MemberFilter;
import weftex.core.select.Selection;
import weftex.core.select.ThingFilter;
import weftex.core.value.Grafting;

/**
 * Single members of a setting are chosen, and those that say where a thing is shown are offered.
 */
class MembersTest {
  /** Stands for a comma in what a sketch writes. */
  private static final char COMMA = '\u0001';

  private Sketch sketch;

  @BeforeEach
  void pagesAndASetting() throws Exception {
    sketch =
        new Sketch(
            SiteModel.read(
                """
                model: test
                tables:
                  pages:
                    item: {kind: page, name: [title]}
                    identity: [slug]
                  notes:
                    item: {kind: setting, name: [page]}
                    inside:
                      text:
                        - refers:
                            - {path: "places.*", to: pages, offer: true}
                            - {path: logo, to: pages}
                """),
            Sketch.PAGES,
            Sketch.NOTES);
    sketch.everywhere("pages", "1, home, Home, NULL");
  }

  private void setting(Sketch.Copy copy, String json) {
    copy.row("notes", "1, " + json.replace(',', COMMA) + ", 1", COMMA);
  }

  private void settings(String base, String source, String target) {
    setting(sketch.base, base);
    setting(sketch.source, source);
    setting(sketch.target, target);
  }

  private static Selection members(List<String> members, List<String> without) {
    return new Selection(
        List.of(),
        List.of(),
        List.of(),
        List.of(),
        List.of(),
        ThingFilter.ALL,
        new MemberFilter(members, without),
        Optional.empty());
  }

  private static Selection item(String item) {
    return new Selection(
        List.of(),
        List.of(),
        List.of(),
        List.of(),
        List.of(),
        new ThingFilter(
            List.of(ItemFilter.parse(item)),
            List.of(),
            List.of(),
            List.of(),
            List.of(),
            List.of(),
            "",
            ""),
        MemberFilter.ALL,
        Optional.empty());
  }

  private static String text(RowChange change) {
    return change.after().get("text").display();
  }

  @Test
  void oneMemberTravelsAndTheRestStaysWithTheTarget() throws Exception {
    settings(
        "{\"a\":1,\"b\":1,\"c\":1}",
        "{\"a\":2,\"b\":2,\"c\":1,\"new\":{\"x\":1}}",
        "{\"a\":1,\"b\":1,\"c\":3}");
    List<RowChange> changes = sketch.plan(members(List.of("b"), List.of()));
    assertThat(changes).hasSize(1);
    assertThat(text(changes.get(0))).isEqualTo("{\"a\":1,\"b\":2,\"c\":3}");
    // What was not chosen is not settled either: the next comparison still finds it.
    assertThat(changes.get(0).drafted().get("text").display())
        .isEqualTo("{\"a\":1,\"b\":2,\"c\":1}");
  }

  @Test
  void everythingButAMemberTravels() throws Exception {
    settings("{\"a\":1,\"b\":1}", "{\"a\":2,\"b\":2}", "{\"a\":1,\"b\":1}");
    assertThat(text(sketch.plan(members(List.of(), List.of("a"))).get(0)))
        .isEqualTo("{\"a\":1,\"b\":2}");
  }

  @Test
  void aMemberThatTheSourceLacksIsTakenAway() throws Exception {
    settings("{\"a\":1,\"b\":1}", "{\"a\":2}", "{\"a\":1,\"b\":1,\"c\":1}");
    assertThat(text(sketch.plan(members(List.of("b"), List.of())).get(0)))
        .isEqualTo("{\"a\":1,\"c\":1}");
  }

  @Test
  void aChoiceWithNothingInItChoosesNothing() throws Exception {
    settings("{\"a\":1,\"b\":1}", "{\"a\":2,\"b\":1}", "{\"a\":1,\"b\":1}");
    sketch.source.row("pages", "2, new, New, NULL");
    sketch.source.without("notes", "9");
    assertThat(sketch.plan(members(List.of("b"), List.of()))).isEmpty();
    assertThat(sketch.plan(members(List.of("nothing"), List.of()))).isEmpty();
  }

  @Test
  void aClashElsewhereInTheValueIsNone() throws Exception {
    settings("{\"a\":1,\"b\":1}", "{\"a\":2,\"b\":2}", "{\"a\":3,\"b\":1}");
    assertThat(sketch.plan(members(List.of("b"), List.of())).get(0).conflicts()).isEmpty();
    assertThat(sketch.plan(members(List.of("a"), List.of())).get(0).conflicts())
        .singleElement()
        .satisfies(
            conflict -> {
              assertThat(conflict.kind()).isEqualTo(ConflictKind.BOTH_EDITED);
              assertThat(conflict.places()).containsExactly("a");
              assertThat(conflict.source().get("text").display()).isEqualTo("{\"a\":2,\"b\":1}");
            });
  }

  @Test
  void anAddedSettingComesWithItsChosenMembersAlone() throws Exception {
    setting(sketch.source, "{\"a\":1,\"mail\":{\"to\":\"x\",\"copy\":1}}");
    assertThat(text(sketch.plan(members(List.of("mail.to"), List.of())).get(0)))
        .isEqualTo("{\"mail\":{\"to\":\"x\"}}");
    assertThat(sketch.plan(members(List.of("mail.from"), List.of()))).isEmpty();
  }

  @Test
  void aReferenceInWhatIsNotChosenNeedsNothing() throws Exception {
    sketch.everywhere("pages", "7, old, Old, NULL");
    sketch.target.without("pages", "7");
    settings("{\"b\":1}", "{\"b\":2,\"logo\":7}", "{\"b\":1}");
    List<RowChange> changes = sketch.plan(members(List.of("b"), List.of()));
    assertThat(changes).hasSize(1);
    assertThat(changes.get(0).needs()).isEmpty();
    assertThat(sketch.plan(Selection.CONTENT).stream().anyMatch(RowChange::offered)).isTrue();
  }

  @Test
  void aChosenThingOffersTheMemberThatShowsIt() throws Exception {
    sketch.source.row("pages", "12, winter, Winter, NULL");
    sketch.target.row("pages", "12, storm, Storm, NULL");
    settings(
        "{\"colour\":\"red\",\"places\":{\"top\":1}}",
        "{\"colour\":\"blue\",\"places\":{\"top\":12,\"foot\":1}}",
        "{\"colour\":\"red\",\"places\":{\"top\":1}}");
    List<RowChange> changes = sketch.plan(item("page:Winter"));
    assertThat(changes).hasSize(2);
    assertThat(changes.get(0).offered()).isFalse();
    assertThat(changes.get(1).offered()).isTrue();
    assertThat(text(changes.get(1)))
        .isEqualTo("{\"colour\":\"red\",\"places\":{\"top\":‹pages#12›}}");
    assertThat(changes.get(1).needs())
        .singleElement()
        .satisfies(need -> assertThat(need.change()).isEqualTo(changes.get(0).id()));
    assertThat(sketch.plan(item("page:Home"))).isEmpty();
  }

  @ParameterizedTest(name = "{0} without {1}, at {2}: {3}")
  @CsvSource({
    "'', '', a.b, ALL",
    "a, '', a, ALL",
    "a, '', a.b, ALL",
    "a, '', '', SOME",
    "a, '', b, NONE",
    "a.b, '', a, SOME",
    "a.b, '', a.c, NONE",
    "'a.*_to', '', a.mail_to, ALL",
    "a, a.b, a, SOME",
    "a, a.b, a.b.c, NONE",
    "'', a, a, NONE",
    "'', a, b, ALL",
    "'', a, '', SOME",
    "'a\\.b', '', a, NONE"
  })
  void aPatternMeansAMemberAndAllBelowIt(
      String members, String without, String path, Grafting.Part part) {
    MemberFilter filter =
        new MemberFilter(
            members.isEmpty() ? List.of() : List.of(members),
            without.isEmpty() ? List.of() : List.of(without));
    assertThat(filter.of(path.isEmpty() ? List.of() : List.of(path.split("\\.")))).isEqualTo(part);
  }

  @Test
  void aDotInAKeyIsNoStepInside() {
    MemberFilter filter = MemberFilter.ofPaths(List.of(List.of("a.b", "c")));
    assertThat(filter.of(List.of("a.b", "c"))).isEqualTo(Grafting.Part.ALL);
    assertThat(filter.of(List.of("a", "b"))).isEqualTo(Grafting.Part.NONE);
  }
}
