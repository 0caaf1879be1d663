package weftex.core.plan;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.util.List;
import org.junit.jupiter.api.Test;
import weftex.core.model.SiteModel;
import weftex.core.select.Selection;
import weftex.core.yaml.YamlProblem;

/**
 * The merge table, and what goes beyond one row: numbers, references, identities, unique values.
 */
class PlannerTest {

  private static Sketch pages() {
    return new Sketch(Sketch.PAGES, Sketch.NOTES, Sketch.LINKS)
        .everywhere("pages", "1, home, Home, NULL")
        .everywhere("pages", "2, fares, Fares, NULL");
  }

  @Test
  void aCopyComparedToItselfPlansNothing() throws IOException {
    assertThat(pages().lines()).isEmpty();
  }

  @Test
  void editsOfTheSourceAreUpdatesAndEditsOfTheTargetAreKept() throws IOException {
    Sketch site = pages();
    site.source.row("pages", "1, home, Welcome, NULL");
    site.target.row("pages", "2, fares, Fares 2027, NULL");
    assertThat(site.lines()).containsExactly("update pages 1: title=Welcome");
  }

  @Test
  void editsOfDifferentColumnsAreMergedAndOfTheSameAreAConflict() throws IOException {
    Sketch site = pages();
    site.source.row("pages", "1, start, Welcome, NULL");
    site.target.row("pages", "1, home, Hello, NULL");
    assertThat(site.lines()).containsExactly("update pages 1: slug=start [both-edited title]");
  }

  @Test
  void theSameEditOnBothSidesIsThereAlready() throws IOException {
    Sketch site = pages();
    site.source.row("pages", "1, home, Welcome, NULL");
    site.target.row("pages", "1, home, Welcome, NULL");
    assertThat(site.lines()).isEmpty();
  }

  @Test
  void removalsMeetEdits() throws IOException {
    Sketch site =
        pages()
            .everywhere("pages", "3, jobs, Jobs, NULL")
            .everywhere("pages", "4, pets, Pets, NULL");
    site.source.row("pages", "1, home, Welcome, NULL");
    site.target.without("pages", "1");
    site.source.without("pages", "2");
    site.target.row("pages", "2, fares, Fares 2027, NULL");
    site.source.without("pages", "3");
    site.source.without("pages", "4");
    site.target.without("pages", "4");
    assertThat(site.lines())
        .containsExactly(
            "remove pages 2 [gone-edited]",
            "remove pages 3",
            "add pages 1: id=1 slug=home title=Welcome parent=NULL [edited-gone]");
  }

  @Test
  void anAddedRowKeepsItsNumberWhereItIsFree() throws IOException {
    Sketch site = pages();
    site.source.row("pages", "9, winter, Winter, 2");
    assertThat(site.lines())
        .containsExactly("add pages 9: id=new pages#9 slug=winter title=Winter parent=2");
  }

  @Test
  void aTakenNumberIsRenumberedAndEveryReferenceFollows() throws IOException {
    Sketch site = pages();
    site.source.row("pages", "3, winter, Winter, NULL");
    site.source.row("pages", "4, hesk, Winter in Hesk, 3");
    site.source.row("notes", "1, ask the harbour, 3");
    site.source.row("links", "3, winter");
    site.source.row("pages", "2, fares, Fares, 3");
    site.target.row("pages", "3, storm, Storm, NULL");
    assertThat(site.lines())
        .containsExactlyInAnyOrder(
            "add pages 3 renumbered: id=new pages#3 slug=winter title=Winter parent=NULL",
            "add pages 4: id=new pages#4 slug=hesk title=Winter in Hesk parent=new pages#3 needs 1",
            "add notes 1: id=new notes#1 text=ask the harbour page=new pages#3 needs 1",
            "add links 3, winter: page=new pages#3 tag=winter needs 1",
            "update pages 2: parent=new pages#3 needs 1");
  }

  @Test
  void parentsStandBeforeChildrenEvenIfTheirNumbersAreHigher() throws IOException {
    Sketch site = pages();
    site.source.row("pages", "5, leaf, Leaf, 6");
    site.source.row("pages", "6, branch, Branch, 7");
    site.source.row("pages", "7, root, Root, NULL");
    assertThat(site.plan(Selection.CONTENT).stream().map(change -> change.keyText()))
        .containsExactly("7", "6", "5");
  }

  @Test
  void rowsThatReferToThemselvesAndToEachOther() throws IOException {
    Sketch site = pages();
    site.source.row("pages", "5, self, Self, 5");
    site.source.row("pages", "6, egg, Egg, 7");
    site.source.row("pages", "7, hen, Hen, 6");
    site.target.row("pages", "5, other, Other, NULL");
    assertThat(site.lines())
        .contains("add pages 5 renumbered: id=new pages#5 slug=self title=Self parent=new pages#5")
        .hasSize(3);
  }

  @Test
  void equalNumbersOfDifferentNewThingsAreNoAgreement() throws IOException {
    Sketch site = pages();
    site.source
        .row("pages", "3, winter, Winter, NULL")
        .row("pages", "2, fares, Fares, 3")
        .row("links", "3, winter");
    site.target
        .row("pages", "3, storm, Storm, NULL")
        .row("pages", "2, fares, Fares, 3")
        .row("links", "3, winter");
    assertThat(site.lines())
        .contains(
            "add links 3, winter: page=new pages#3 tag=winter needs 1",
            "update pages 2: [both-edited parent] needs 1".replace(":", ""));
  }

  @Test
  void theSameThingUnderTwoNumbersIsOneThing() throws IOException {
    Sketch site = pages();
    site.source.row("pages", "3, winter, Winter, NULL").row("notes", "1, snow, 3");
    site.target.row("pages", "8, winter, Winter, NULL");
    assertThat(site.lines()).containsExactly("add notes 1: id=new notes#1 text=snow page=8");
  }

  @Test
  void theSameThingWithDifferentValuesIsAConflict() throws IOException {
    Sketch site = pages();
    site.source.row("pages", "3, winter, Winter, NULL");
    site.target.row("pages", "8, winter, Winter 2027, NULL");
    assertThat(site.lines()).containsExactly("update pages 8 [both-added title]");
  }

  @Test
  void aThingRemovedAndMadeAnewUnderAnotherNumberIsAnEdit() throws IOException {
    Sketch site = pages().everywhere("notes", "5, on fares, 2").everywhere("links", "2, money");
    site.source.without("pages", "2").row("pages", "40, fares, Fares and cards, NULL");
    site.source.row("notes", "5, on fares, 40");
    site.source.without("links", "2, money").row("links", "40, money");
    site.target.row("pages", "2, fares, Fares, 1");
    assertThat(site.lines()).containsExactly("update pages 2: title=Fares and cards");
  }

  @Test
  void aRowThatSomethingHangsOnIsNotRemoved() throws IOException {
    Sketch site = pages();
    site.source.without("pages", "2");
    site.target.row("notes", "7, new on live, 2");
    assertThat(site.lines()).containsExactly("remove pages 2 [gone-in-use]");
  }

  @Test
  void childrenAreRemovedBeforeTheirParent() throws IOException {
    Sketch site = pages().everywhere("notes", "5, on fares, 2");
    site.source.without("pages", "2").without("notes", "5");
    assertThat(site.lines()).containsExactly("remove notes 5", "remove pages 2 needs 1");
  }

  @Test
  void aReferenceOfTheModelSpeaksUpOnlyForWhatIsNewOnTheTarget() throws IOException, YamlProblem {
    SiteModel model =
        SiteModel.read(
            "model: t\ntables:\n  pages: {}\n  comments:\n    role: live\n    references:\n      page_no: {to: pages, unset: \"0\"}\n");
    Sketch quiet = new Sketch(model, Sketch.PAGES, Sketch.COMMENTS);
    quiet.everywhere("pages", "2, fares, Fares, NULL").everywhere("comments", "1, old, 2");
    quiet.source.without("pages", "2");
    assertThat(quiet.lines()).containsExactly("remove pages 2");
    quiet.target.row("comments", "2, new, 2");
    assertThat(quiet.lines()).containsExactly("remove pages 2 [gone-in-use]");
  }

  @Test
  void aUniqueValueThatLiveHasIsAConflictUnlessTheHolderGivesItUp() throws IOException {
    Sketch site = pages();
    site.source.row("pages", "1, welcome, Home, NULL");
    site.target.row("pages", "9, welcome, Another, NULL");
    assertThat(site.lines()).containsExactly("update pages 1: slug=welcome [taken slug]");

    Sketch passedOn = pages();
    passedOn.source.row("pages", "1, fares, Home, NULL").without("pages", "2");
    assertThat(passedOn.lines())
        .containsExactly("remove pages 2", "update pages 1: slug=fares needs 1");
  }

  @Test
  void twoRowsThatSwapAUniqueValueCanNotBothWait() throws IOException {
    Sketch site = pages();
    site.source.row("pages", "1, fares, Home, NULL").row("pages", "2, home, Fares, NULL");
    assertThat(site.lines()).anyMatch(line -> line.contains("[taken slug]"));
  }

  @Test
  void whatAChosenRowNeedsIsOffered() throws IOException {
    Sketch site = pages();
    site.source.row("pages", "3, winter, Winter, NULL").row("notes", "1, snow, 3");
    List<String> lines =
        site.plan(Selection.CONTENT.of("notes")).stream().map(Sketch::line).toList();
    assertThat(lines)
        .containsExactly(
            "offer add pages 3: id=new pages#3 slug=winter title=Winter parent=NULL",
            "add notes 1: id=new notes#1 text=snow page=new pages#3 needs 1");
  }

  @Test
  void aParentThatLiveRemovedIsOfferedToo() throws IOException {
    Sketch site = pages();
    site.source.row("notes", "1, snow, 2");
    site.target.without("pages", "2");
    assertThat(site.lines())
        .containsExactly(
            "offer add pages 2: id=2 slug=fares title=Fares parent=NULL",
            "add notes 1: id=new notes#1 text=snow page=2 needs 1");
  }

  @Test
  void rowsThatBelongToTheirCopyNeverTravel() throws IOException, YamlProblem {
    SiteModel model = SiteModel.read("model: t\ntables:\n  pages: {stays: {slug: [home]}}\n");
    Sketch site = new Sketch(model, Sketch.PAGES).everywhere("pages", "1, home, Here, NULL");
    site.source.row("pages", "1, home, There, NULL");
    assertThat(site.lines()).isEmpty();
  }

  @Test
  void withoutABaseEverythingIsAQuestionAndNothingIsRemoved() throws IOException {
    Sketch site = new Sketch(Sketch.PAGES);
    site.source.row("pages", "1, home, Here, NULL").row("pages", "2, new, New, NULL");
    site.target.row("pages", "1, home, There, NULL").row("pages", "3, own, Own, NULL");
    assertThat(site.planTwoWay().stream().map(Sketch::line))
        .containsExactly(
            "add pages 2: id=new pages#2 slug=new title=New parent=NULL [no-base]",
            "update pages 1: title=Here [no-base]");
  }

  /** Both copies gave the number 2 away since they parted, and live made the same thing, too. */
  @Test
  void withoutABaseThingsPairByWhatTheyAreBeforeTheirNumber() throws IOException {
    Sketch site = new Sketch(Sketch.PAGES, Sketch.NOTES);
    site.source
        .row("pages", "2, fares, Fares 2027, NULL")
        .row("pages", "5, dogs, Dogs, NULL")
        .row("notes", "1, on fares, 2");
    site.target
        .row("pages", "2, storm, Storm, NULL")
        .row("pages", "3, fares, Fares, NULL")
        .row("pages", "5, cats, Cats, NULL");
    assertThat(site.planTwoWay().stream().map(Sketch::line))
        .containsExactly(
            "add pages 5: id=new pages#5 slug=dogs title=Dogs parent=NULL [no-base]",
            "add notes 1: id=new notes#1 text=on fares page=3 [no-base]",
            "update pages 3: title=Fares 2027 [no-base]");
  }
}
