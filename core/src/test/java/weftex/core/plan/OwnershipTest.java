package weftex.core.plan;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.List;
import java.util.Optional;
import org.junit.jupiter.api.Test;
import weftex.core.change.Item;
import weftex.core.change.Review;
import weftex.core.change.RowChange;
import weftex.core.model.Role;
import weftex.core.model.SiteModel;
import weftex.core.row.Column;
import weftex.core.row.Table;
import weftex.core.row.ValueKind;
import weftex.core.select.ItemFilter;
import weftex.core.select.MemberFilter;
import weftex.core.select.Selection;
import weftex.core.select.ThingFilter;
import weftex.core.yaml.YamlProblem;

/** Whose rows are, what they are a part of, and what two rows make the same thing. */
class OwnershipTest {
  private static final Table DETAILS = numbered("details", "id", "page_no", "name", "value");
  private static final Table PEOPLE = numbered("people", "id", "login", "mail", "secret");
  private static final Table ARTICLES =
      numbered("articles", "id", "title", "state", "page_no", "changed", "seen");

  private static Table numbered(String name, String... columns) {
    List<Column> shapes =
        List.of(columns).stream()
            .map(
                column -> {
                  boolean number = List.of("id", "page_no", "seen").contains(column);
                  ValueKind kind = number ? ValueKind.WHOLE : ValueKind.TEXT;
                  return new Column(column, kind, "x", 0, false, false, false);
                })
            .toList();
    return new Table(name, shapes, List.of(0), 0, List.of(), List.of());
  }

  private static Sketch sketch() throws YamlProblem {
    return new Sketch(
        SiteModel.read(
            """
            model: test
            people: {table: people, known-by: [login, mail]}
            tables:
              articles:
                item: {kind: article, name: [title]}
                identity: [title]
                identity-unless: {state: [sketch]}
                references: {page_no: {to: people, unset: "0"}}
                columns: {changed: newer}
                counters: {seen: {of: details, by: page_no}}
                rows:
                  - {when: {state: [auto, "bin*"]}, role: noise}
                  - {when: {state: [machine]}, role: own}
              details:
                part-of: page_no
                word: detail
                identity: [page_no, name]
                references: {page_no: {to: articles, unset: "0"}}
                rows:
                  - {when: {name: [lock]}, role: noise}
              people:
                item: {kind: person, name: [login]}
                role: live
                identity: [login]
                secret: [secret]
              comments:
                item: {kind: comment, name: [text]}
                role: live
                references: {page_no: {to: articles}}
            """),
        ARTICLES,
        DETAILS,
        PEOPLE,
        Sketch.COMMENTS);
  }

  private static Selection with(String... what) {
    return new Selection(
        List.of(),
        List.of(),
        List.of(what),
        List.of(),
        List.of(),
        ThingFilter.ALL,
        MemberFilter.ALL,
        Optional.empty());
  }

  private static Selection items(String... what) {
    return things(List.of(what).stream().map(ItemFilter::parse).toList());
  }

  private static Selection things(List<ItemFilter> items) {
    ThingFilter things =
        new ThingFilter(items, List.of(), List.of(), List.of(), List.of(), List.of(), "", "");
    return new Selection(
        List.of(),
        List.of(),
        List.of(),
        List.of(),
        List.of(),
        things,
        MemberFilter.ALL,
        Optional.empty());
  }

  private static List<String> lines(Sketch site, Selection selection) throws Exception {
    return site.plan(selection).stream().map(Sketch::line).toList();
  }

  @Test
  void noiseAndWhatIsAPartOfItStayOutUnlessAskedFor() throws Exception {
    Sketch site = sketch();
    site.source
        .row("articles", "1, News, shown, 0, d1, 0")
        .row("articles", "2, Untitled, auto, 0, d1, 0")
        .row("details", "1, 1, mood, fine")
        .row("details", "2, 1, lock, me")
        .row("details", "3, 2, mood, blank");
    Plan plan = site.planned(Selection.CONTENT);
    assertThat(Sketch.changes(plan).stream().map(c -> c.table() + " " + c.keyText()))
        .containsExactlyInAnyOrder("articles 1", "details 1");
    assertThat(plan.leftOut()).containsExactly(new LeftOut(Role.NOISE, "article", 3, 0, 0));
    assertThat(site.plan(with("noise"))).hasSize(5);
  }

  @Test
  void aPartIsOfItsOwnThingWhateverTheTargetHasUnderThatNumber() throws Exception {
    Sketch site = sketch();
    // The target's article 2 is the source's article 1, and changes.
    site.source
        .row("articles", "1, News, shown, 0, d1, 0")
        .row("articles", "2, Gone, bin, 0, d1, 0");
    site.target.row("articles", "2, News, old, 0, d1, 0");
    site.source.row("details", "1, 2, mood, blank");
    Plan plan = site.planned(Selection.CONTENT);
    assertThat(Sketch.changes(plan).stream().map(c -> c.table() + " " + c.keyText()))
        .containsExactly("articles 2");
    assertThat(plan.leftOut()).containsExactly(new LeftOut(Role.NOISE, "article", 2, 0, 0));
  }

  @Test
  void whatIsEachCopysOwnIsNamedOneByOneAndTravelsOnlyByName() throws Exception {
    Sketch site = sketch();
    site.source
        .row("articles", "1, Keys, machine, 0, d1, 0")
        .row("articles", "2, Ports, machine, 0, d1, 0")
        .row("details", "1, 2, mood, fine");
    assertThat(site.planned(Selection.CONTENT).leftOut())
        .containsExactly(
            new LeftOut(Role.OWN, "article 'Keys'", 1, 0, 0),
            new LeftOut(Role.OWN, "article 'Ports'", 1, 0, 0),
            new LeftOut(Role.OWN, "detail of article 'Ports'", 1, 0, 0));
    Plan plan = site.planned(with("article:Po*"));
    assertThat(Sketch.changes(plan).stream().map(c -> c.table() + " " + c.keyText()))
        .containsExactlyInAnyOrder("articles 2", "details 1");
    assertThat(plan.brought()).containsKey("article 'Ports'");
    assertThat(site.plan(with("article"))).hasSize(3);
  }

  @Test
  void aRowThatCameToBeNoiseIsStillContent() throws Exception {
    Sketch site = sketch().everywhere("articles", "1, News, shown, 0, d1, 0");
    site.source.row("articles", "1, News, binned, 0, d2, 0").row("details", "1, 1, was, shown");
    assertThat(lines(site, Selection.CONTENT))
        .containsExactly(
            "add details 1: id=new details#1 page_no=1 name=was value=shown",
            "update articles 1: state=binned changed=d2");
  }

  @Test
  void aTimeOfChangeAloneIsNoChangeAndNeverAConflict() throws Exception {
    Sketch site =
        sketch()
            .everywhere("articles", "1, News, shown, 0, d1, 0")
            .everywhere("articles", "2, Fares, shown, 0, d1, 0");
    site.source
        .row("articles", "1, News, shown, 0, d2, 7")
        .row("articles", "2, Fares, late, 0, d2, 0");
    site.target.row("articles", "2, Fares, shown, 5, d3, 4");
    assertThat(lines(site, Selection.CONTENT)).containsExactly("update articles 2: state=late");
  }

  @Test
  void whatACopyCountsForItselfIsNeitherComparedNorExpectedToStay() throws Exception {
    Sketch site = sketch().everywhere("articles", "1, News, shown, 0, d1, 3");
    site.source.without("articles", "1");
    site.target.row("articles", "1, News, shown, 0, d1, 4");
    assertThat(lines(site, Selection.CONTENT)).containsExactly("remove articles 1");
    site.source.row("articles", "1, News, late, 0, d2, 3");
    RowChange change = site.plan(Selection.CONTENT).get(0);
    assertThat(change.before()).doesNotContainKey("seen").containsKey("title");
  }

  @Test
  void whatTheSourceRemovedWithAThingGoesWithIt() throws Exception {
    Sketch site =
        sketch()
            .everywhere("articles", "1, News, shown, 0, d1, 0")
            .everywhere("details", "1, 1, mood, fine")
            .everywhere("comments", "5, Nice, 1");
    site.source.without("articles", "1").without("details", "1").without("comments", "5");
    List<RowChange> changes = site.plan(Selection.CONTENT);
    assertThat(changes.stream().map(c -> c.table())).contains("articles", "details", "comments");
    int article =
        changes.stream().filter(c -> c.table().equals("articles")).findFirst().orElseThrow().id();
    assertThat(changes.stream().filter(c -> c.id() != article))
        .allSatisfy(change -> assertThat(change.with()).contains(article));
    Review review = new Review();
    changes.forEach(review::add);
    assertThat(review.ids())
        .allSatisfy(id -> assertThat(review.standing(id)).isEqualTo(Review.Standing.MADE));
  }

  @Test
  void aKeptThingKeepsItsPartsWithoutAQuestion() throws Exception {
    Sketch site =
        sketch()
            .everywhere("articles", "1, News, shown, 0, d1, 0")
            .everywhere("details", "1, 1, mood, fine")
            .everywhere("comments", "5, Nice, 1");
    site.source.without("articles", "1").without("details", "1").without("comments", "5");
    site.target.row("comments", "6, New, 1");
    List<RowChange> changes = site.plan(Selection.CONTENT);
    Review review = new Review();
    changes.forEach(review::add);
    assertThat(changes)
        .allSatisfy(
            change ->
                assertThat(review.standing(change.id()))
                    .isEqualTo(
                        change.table().equals("articles")
                            ? Review.Standing.OPEN
                            : Review.Standing.NOTHING));
  }

  @Test
  void oneDetailOnEachSideIsOneThingAndSeveralOfANameAreNot() throws Exception {
    Sketch site =
        sketch()
            .everywhere("articles", "1, News, shown, 0, d1, 0")
            .everywhere("details", "1, 1, port, Brae");
    site.source.row("details", "2, 1, cover, 7").row("details", "3, 1, port, Hesk");
    site.target.row("details", "2, 1, port, Norrey").row("details", "3, 1, cover, 8");
    assertThat(lines(site, Selection.CONTENT))
        .containsExactly(
            "add details 3 renumbered: id=new details#3 page_no=1 name=port value=Hesk",
            "update details 3 [both-added value]");
    site.target.row("details", "2, 1, port, Hesk");
    assertThat(lines(site, Selection.CONTENT))
        .containsExactly("update details 3 [both-added value]");
  }

  @Test
  void aRowWithoutAnIdentityIsNeverTheSameThing() throws Exception {
    Sketch site = sketch();
    site.source.row("articles", "1, Plan, sketch, 0, d1, 0");
    site.target.row("articles", "1, Plan, shown, 0, d1, 0");
    assertThat(lines(site, Selection.CONTENT))
        .hasSize(1)
        .allMatch(l -> l.startsWith("add articles 1 renumbered"));
    site.source.row("articles", "1, Plan, shown, 0, d1, 0");
    assertThat(lines(site, Selection.CONTENT)).isEmpty();
  }

  @Test
  void peopleAreKnownByLoginByMailOrByTheConfiguration() throws Exception {
    Sketch site = sketch();
    site.everywhere("people", "1, mira, mira@x, s");
    site.target
        .row("people", "2, kunde, kunde@x, s")
        .row("people", "3, jon, jon@x, s")
        .row("people", "4, kari, kari@x, s");
    site.source
        .row("people", "2, jon, other@x, t")
        .row("people", "3, kari-test, kari@x, t")
        .row("people", "4, tester, tester@x, t")
        .row("articles", "1, A, shown, 2, d1, 0")
        .row("articles", "2, B, shown, 3, d1, 0")
        .row("articles", "3, C, shown, 4, d1, 0");
    site.people.put("tester", "mira");
    assertThat(
            site.plan(Selection.CONTENT).stream()
                .map(
                    c ->
                        c.after().get("title").display()
                            + " "
                            + c.after().get("page_no").display()))
        .containsExactly("A 3", "B 4", "C 1");
  }

  @Test
  void anUnknownPersonIsOfferedAndBringsNoSecretUnlessAskedForByName() throws Exception {
    Sketch site = sketch();
    site.source.row("people", "9, new, new@x, hash").row("articles", "1, A, shown, 9, d1, 0");
    assertThat(lines(site, Selection.CONTENT))
        .anyMatch(line -> line.startsWith("offer add people 9") && line.endsWith("secret="));
    assertThat(lines(site, with("person", "people.secret")))
        .anyMatch(line -> line.startsWith("add people 9") && line.endsWith("secret=hash"));
    assertThat(site.planned(with("people")).brought()).containsEntry("person", 1L);
  }

  @Test
  void aChosenThingBringsItsPartsAndWhatItNeeds() throws Exception {
    Sketch site = sketch();
    site.source
        .row("articles", "1, News, shown, 0, d1, 0")
        .row("articles", "2, Fares, shown, 0, d1, 0")
        .row("details", "1, 2, mood, fine")
        .row("details", "2, 1, mood, fine");
    List<RowChange> changes = site.plan(items("article:F*"));
    assertThat(changes.stream().map(c -> c.item().orElseThrow()))
        .containsExactly(new Item("article", "Fares", ""), new Item("article", "Fares", "detail"));
  }

  @Test
  void whatComesAlongSaysForWhom() throws Exception {
    Sketch site = sketch();
    site.source.row("articles", "2, Fares, shown, 0, d1, 0").row("details", "1, 2, mood, fine");
    Selection details = things(List.of(new ItemFilter("*", "*"))).of("details");
    List<RowChange> changes = site.plan(details);
    assertThat(changes).hasSize(2);
    assertThat(changes.get(0).alongWith()).contains(2);
    assertThat(changes.get(1).alongWith()).isEmpty();
  }
}
