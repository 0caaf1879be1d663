package weftex.core.plan;

import static org.assertj.core.api.Assertions.assertThat;

import java.math.BigInteger;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import weftex.core.model.SiteModel;
import weftex.core.row.RowName;
import weftex.core.select.Selection;

/** Two things of one name that stay two. */
class KeptApartTest {
  private static final String MODEL =
      """
      model: test
      tables:
        pages:
          identity: [parent, slug]
          columns: {slug: numbered}
        notes:
          part-of: page
          identity: [page, text]
      """;

  private Sketch site;

  @BeforeEach
  void bothCopiesAddAPageOfOneName() throws Exception {
    site = new Sketch(SiteModel.read(MODEL), Sketch.PAGES, Sketch.NOTES, Sketch.LINKS);
    site.everywhere("pages", "1, home, Home, 0");
    site.source.row("pages", "7, winter, Winter sailings, 1").row("pages", "8, hesk, Hesk, 7");
    site.source.row("notes", "3, port, 7").row("links", "7, snow");
    site.target.row("pages", "9, winter, Winter closing, 1").row("notes", "3, port, 9");
    site.target.row("links", "9, snow");
  }

  private void keptApart(long id) {
    site.apart.add(new RowName("pages", BigInteger.valueOf(id)));
  }

  @Test
  void withoutAWordTheyAreOne() throws Exception {
    assertThat(site.lines())
        .containsExactly(
            "add pages 8: id=new pages#8 slug=hesk title=Hesk parent=9",
            "update pages 9 [both-added title]");
  }

  @Test
  void theSecondGetsAFreeNameWithItsOwnPartsAndWhateverRefersToIt() throws Exception {
    keptApart(7);
    assertThat(site.lines())
        .containsExactly(
            "add pages 7: id=new pages#7 slug=winter-2 title=Winter sailings parent=1",
            "add pages 8: id=new pages#8 slug=hesk title=Hesk parent=new pages#7 needs 1",
            "add notes 3 renumbered: id=new notes#3 text=port page=new pages#7 needs 1",
            "add links 7, snow: page=new pages#7 tag=snow needs 1");
    assertThat(site.plan(Selection.CONTENT).get(0).drafted()).hasToString("{slug='winter'}");
  }

  @Test
  void aNameThatEitherCopyHasIsNotFree() throws Exception {
    site.target.row("pages", "20, winter-2, Another, 1");
    site.source.row("pages", "21, winter-3, Yet another, 1");
    keptApart(7);
    assertThat(site.lines().get(0)).contains("slug=winter-4");
  }

  @Test
  void whatTheSourceDidNotAddIsNamed() throws Exception {
    keptApart(1);
    keptApart(7);
    assertThat(site.planner().notApart()).containsExactly(new RowName("pages", BigInteger.ONE));
  }

  private void same(long id, long other) {
    site.same.put(new RowName("pages", BigInteger.valueOf(id)), BigInteger.valueOf(other));
  }

  @Test
  void whatSomebodyCallsOneThingIsOneWhateverItIsCalled() throws Exception {
    site.target.row("pages", "12, hesk-2, Hesk, 9");
    same(8, 12);
    assertThat(site.lines())
        .contains("update pages 12 [both-added slug]")
        .noneMatch(line -> line.startsWith("add pages"));
    assertThat(site.planner().notSame()).isEmpty();
  }

  @Test
  void whatCanNotBeOneThingIsNamed() throws Exception {
    same(1, 9);
    same(8, 77);
    assertThat(site.planner().notSame())
        .containsExactlyInAnyOrder(
            "pages:1 is no row that is new since the base",
            "there is no pages:77 to be the same as pages:8");
  }
}
