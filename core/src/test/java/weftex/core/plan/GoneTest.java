package weftex.core.plan;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.ArrayList;
import java.util.List;
import org.junit.jupiter.api.Test;
import weftex.core.change.Alike;
import weftex.core.change.RowChange;
import weftex.core.model.SiteModel;
import weftex.core.row.Table;
import weftex.core.select.Selection;

/** What one copy removed and the other still has a use for. */
class GoneTest {
  private static final Table PARTS =
      Sketch.table("parts", List.of("id", "text", "page"), 0, List.of());
  private static final String INSIDE = "inside: {text: [{refers: [{path: page, to: pages}]}]}";

  private static Sketch sketch(String tables) throws Exception {
    Sketch sketch =
        new Sketch(
            SiteModel.read(
                "model: test\ntables:\n"
                    + tables
                    + (tables.contains(" pages: {") ? "" : "  pages: {}\n")),
            Sketch.PAGES,
            PARTS,
            Sketch.COMMENTS);
    sketch.everywhere("pages", "1, home, Home, NULL").everywhere("pages", "2, fares, Fares, NULL");
    return sketch;
  }

  /** It was a conflict and an offer at once, and staging's side could not be taken. */
  @Test
  void anEditedPageThatNamesItselfAndThatLiveRemovedIsOneQuestion() throws Exception {
    Sketch site = sketch("  pages: {inside: {title: [{refers: [{path: page, to: pages}]}]}}\n");
    site.everywhere("pages", "5, winter, {\"page\":5}, NULL");
    site.source.row("pages", "5, snow, {\"page\":5}, NULL");
    site.target.without("pages", "5");
    assertThat(site.lines())
        .containsExactly(
            "add pages 5: id=5 slug=snow title={\"page\":5} parent=NULL [edited-gone]");
  }

  @Test
  void whoeverRefersToAnEditedPageThatLiveRemovedNeedsThatVeryChange() throws Exception {
    Sketch site = sketch("  parts: {references: {page: {to: pages}}}\n");
    site.source.row("pages", "2, prices, Prices, NULL").row("parts", "7, new, 2");
    site.target.without("pages", "2");
    assertThat(site.lines())
        .containsExactly(
            "add pages 2: id=2 slug=prices title=Prices parent=NULL [edited-gone]",
            "add parts 7: id=new parts#7 text=new page=2 needs 1");
  }

  @Test
  void aReferenceThatTheEditDidNotBringIsNoAffairOfIts() throws Exception {
    Sketch site = sketch("  parts: {" + INSIDE + "}\n");
    site.base.row("parts", "7, {\"page\":2\u0001\"wide\":1}, 1", '\u0001');
    site.target.row("parts", "7, {\"page\":2\u0001\"wide\":1}, 1", '\u0001');
    site.source.row("parts", "7, {\"page\":2\u0001\"wide\":2}, 1", '\u0001');
    site.target.without("pages", "2");
    assertThat(site.lines()).containsExactly("update parts 7: text={\"page\":2,\"wide\":2}");
  }

  @Test
  void aReferenceThatTheEditBroughtOffersItsRow() throws Exception {
    Sketch site = sketch("  parts: {" + INSIDE + "}\n");
    site.everywhere("parts", "7, {\"page\":1}, 1");
    site.source.row("parts", "7, {\"page\":2}, 1");
    site.target.without("pages", "2");
    assertThat(site.lines())
        .containsExactly(
            "offer add pages 2: id=2 slug=fares title=Fares parent=NULL",
            "update parts 7: text={\"page\":2} needs 1");
  }

  /** The reference was left to nothing. */
  @Test
  void aPartThatCameInOnLiveGoesAlongWithItsPage() throws Exception {
    Sketch site = sketch("  parts: {part-of: page, references: {page: {to: pages}}}\n");
    site.source.without("pages", "2");
    site.target.row("parts", "9, live's own, 2");
    assertThat(site.lines())
        .containsExactly("remove parts 9", "remove pages 2 [gone-in-use] needs 1");
    List<RowChange> changes = site.plan(Selection.CONTENT);
    RowChange page = changes.get(1);
    assertThat(changes.get(0).with()).contains(page.id());
    assertThat(page.conflicts().get(0).binding()).isFalse();
    assertThat(page.conflicts().get(0).reason())
        .isEqualTo(
            "1 row of parts that is part of it came in or changed on the other copy, and would go along");
  }

  @Test
  void whateverElseCameInOnLiveKeepsThePage() throws Exception {
    Sketch site = sketch("  comments: {role: live, references: {page_no: {to: pages}}}\n");
    site.source.without("pages", "2");
    site.target.row("comments", "9, A visitor's, 2");
    List<RowChange> changes = site.plan(Selection.CONTENT);
    assertThat(changes).hasSize(1);
    assertThat(changes.get(0).conflicts().get(0).binding()).isTrue();
    assertThat(changes.get(0).conflicts().get(0).reason())
        .isEqualTo("1 row of comments refers to it and would lose it");
  }

  /** What live's own texts show of it would be left to nothing. */
  @Test
  void whatLiveNamesInsideOfANewOrChangedRowIsAQuestion() throws Exception {
    Sketch site = sketch("  parts: {" + INSIDE + "}\n");
    site.everywhere("parts", "7, {\"page\":1}, 1").everywhere("parts", "8, {\"page\":2}, 1");
    site.source.without("pages", "2");
    // What was there before is as it is on the source.
    assertThat(site.lines()).containsExactly("remove pages 2");
    site.target.row("parts", "8, {\"page\":2}, 3");
    assertThat(site.lines()).containsExactly("remove pages 2");
    site.target.row("parts", "7, {\"page\":2}, 1").row("parts", "9, {\"page\":2}, 1");
    assertThat(site.lines()).containsExactly("remove pages 2 [gone-in-use]");
    assertThat(site.plan(Selection.CONTENT).get(0).conflicts())
        .singleElement()
        .satisfies(
            conflict -> {
              assertThat(conflict.binding()).isFalse();
              assertThat(conflict.reason())
                  .isEqualTo(
                      "2 rows of parts that came in or changed on the other copy name it inside, and would lose it");
            });
  }

  @Test
  void aPictureGoesOnlyWithTheEditOfThePageThatLiveEditedToo() throws Exception {
    Sketch site = sketch("  parts: {" + INSIDE + "}\n");
    site.base.row("parts", "7, {\"page\":2\u0001\"wide\":1}, 1", '\u0001');
    site.source.row("parts", "7, {\"page\":1\u0001\"wide\":1}, 1", '\u0001');
    site.target.row("parts", "7, {\"page\":2\u0001\"wide\":5}, 1", '\u0001');
    site.source.without("pages", "2");
    assertThat(site.lines())
        .containsExactly("update parts 7: text={\"page\":1,\"wide\":5}", "remove pages 2 needs 1");
  }

  /** What a rule depends on stands with the new page, which live can't be asked about. */
  @Test
  void whatMovedToANewPageIsReadByTheRulesOfItsOwnCopy() throws Exception {
    Sketch site =
        sketch(
            "  parts: {references: {page: {to: pages}}, inside: {text: [{sibling: {same: [page],"
                + " with: {text: kind}}, refers: [{path: page, to: pages}]}]}}\n");
    site.everywhere("parts", "8, kind, 1");
    site.base.row("parts", "7, {\"page\":2\u0001\"wide\":1}, 1", '\u0001');
    site.target.row("parts", "7, {\"page\":2\u0001\"wide\":5}, 1", '\u0001');
    site.target.row("pages", "3, other, Other, NULL");
    site.source.row("parts", "7, {\"page\":1\u0001\"wide\":1}, 3", '\u0001');
    site.source.row("parts", "10, kind, 3").row("pages", "3, new, New, NULL").without("pages", "2");
    assertThat(site.lines())
        .containsExactly(
            "add pages 3 renumbered: id=new pages#3 slug=new title=New parent=NULL",
            "update parts 7: text={\"page\":1,\"wide\":5} page=new pages#3 needs 1",
            "remove pages 2 needs 2",
            "add parts 10: id=new parts#10 text=kind page=new pages#3 needs 1");
  }

  /** A picture's page is above it, and shows it: the database wants the picture to go first. */
  @Test
  void aPageAndThePictureThatItShowsGoInTheOrderOfTheDatabase() throws Exception {
    Sketch site =
        sketch(
            "  pages: {references: {parent: {to: pages}}, inside: {title: [{refers: [{path: shows, to: pages}]}]}}\n");
    site.everywhere("pages", "5, album, {\"shows\":6}, NULL");
    site.everywhere("pages", "6, picture, Picture, 5");
    site.target.row("pages", "5, album, {\"shows\":6\u0001\"of\":1}, NULL", '\u0001');
    site.source.without("pages", "5").without("pages", "6");
    assertThat(site.lines())
        .containsExactly("remove pages 6 needs 2", "remove pages 5 [gone-edited] needs 1");
  }

  /** A page with a detail that both copies removed. */
  private static Sketch removedDetail() throws Exception {
    Sketch site =
        new Sketch(
            SiteModel.read(
                """
                model: test
                tables:
                  pages: {}
                  details:
                    part-of: page
                    identity: [page, name]
                    references: {page: {to: pages}}
                """),
            Sketch.PAGES,
            Sketch.table("details", List.of("id", "page", "name", "value"), 0, List.of()));
    site.everywhere("pages", "1, home, Home, NULL");
    site.base.row("details", "4, 1, subtitle, Welcome");
    return site;
  }

  @Test
  void aDetailThatBothRemovedAndTheSourceMadeAnewWithOtherWordsIsAQuestion() throws Exception {
    Sketch site = removedDetail();
    site.source.row("details", "9, 1, subtitle, Hello");
    assertThat(site.lines())
        .containsExactly("add details 9: id=9 page=1 name=subtitle value=Hello [edited-gone]");
  }

  @Test
  void aDetailThatWasMadeAnewAsItWasStaysRemoved() throws Exception {
    Sketch site = removedDetail();
    site.source.row("details", "9, 1, subtitle, Welcome");
    assertThat(site.lines()).isEmpty();
  }

  /** A CMS that writes all details of a page anew with each save. */
  @Test
  void ofSeveralDetailsOfOneNameNoneIsTakenForOneThatIsGone() throws Exception {
    Sketch site = removedDetail();
    site.source.row("details", "9, 1, subtitle, Welcome").row("details", "10, 1, subtitle, Ice");
    site.target.row("details", "12, 1, subtitle, Welcome");
    assertThat(site.lines())
        .containsExactly("add details 10: id=new details#10 page=1 name=subtitle value=Ice");
  }

  @Test
  void aDetailThatBothMadeAnewIsOneThatBothAdded() throws Exception {
    Sketch site = removedDetail();
    site.source.row("details", "9, 1, subtitle, Hello");
    site.target.row("details", "12, 1, subtitle, Good day");
    assertThat(site.lines()).containsExactly("update details 12 [both-added value]");
  }

  /** It was left as it is, without a word: only its number tells it from an edit. */
  @Test
  void aDetailThatBothRemovedAndTheTargetMadeAnewWithOtherWordsIsAQuestion() throws Exception {
    Sketch site = removedDetail();
    site.target.row("details", "12, 1, subtitle, Good day");
    assertThat(site.lines()).containsExactly("remove details 12 [gone-edited]");
  }

  @Test
  void aDetailThatTheTargetMadeAnewAsItWasGoes() throws Exception {
    Sketch site = removedDetail();
    site.target.row("details", "12, 1, subtitle, Welcome");
    assertThat(site.lines()).containsExactly("remove details 12");
    site.target.row("details", "13, 1, subtitle, Ice");
    assertThat(site.lines()).as("nobody can say which one it is").isEmpty();
  }

  @Test
  void anotherDetailIsNew() throws Exception {
    Sketch site = removedDetail();
    site.source.row("details", "9, 1, footer, Hello");
    assertThat(site.lines())
        .containsExactly("add details 9: id=new details#9 page=1 name=footer value=Hello");
  }

  @Test
  void whatBothRemovedIsNotedForLaterMerges() throws Exception {
    Sketch site = removedDetail();
    List<Alike> alike = new ArrayList<>();
    site.planned(Selection.CONTENT).forEachAlike(alike::add);
    assertThat(alike)
        .singleElement()
        .satisfies(
            row -> {
              assertThat(row.isGone()).isTrue();
              assertThat(row.table()).isEqualTo("details");
              assertThat(row.key().get("id").display()).isEqualTo("4");
            });
  }
}
