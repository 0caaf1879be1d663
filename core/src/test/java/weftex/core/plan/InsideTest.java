package weftex.core.plan;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.util.ArrayList;
import java.util.List;
import org.junit.jupiter.api.Test;
import weftex.core.change.Alike;
import weftex.core.change.Conflict;
import weftex.core.change.RowChange;
import weftex.core.model.SiteModel;
import weftex.core.moving.Malformed;
import weftex.core.select.Selection;
import weftex.core.yaml.YamlProblem;

/** What a plan makes of the inside of values. */
class InsideTest {

  private static Sketch sketch() throws YamlProblem {
    return new Sketch(
        SiteModel.read(
            """
            model: test
            tables:
              notes:
                inside:
                  text:
                    - refers: [{path: page, to: pages}]
            """),
        Sketch.PAGES,
        Sketch.NOTES);
  }

  /** Page 12 was added on both copies: staging's gets another number. */
  private static Sketch renumbered() throws YamlProblem {
    Sketch sketch = sketch();
    sketch.everywhere("pages", "1, home, Home, NULL");
    sketch.source.row("pages", "12, winter, Winter, NULL");
    sketch.target.row("pages", "12, storm, Storm, NULL");
    return sketch;
  }

  @Test
  void aDeclaredNumberIsOpenAndAnUndeclaredOneIsSuspicious() throws Exception {
    Sketch sketch = renumbered();
    sketch.source.row("notes", "1, {\"page\":12\u0001\"width\":12}, 1", '\u0001');
    Plan plan = sketch.planned(Selection.CONTENT);
    List<RowChange> changes = Sketch.changes(plan);
    RowChange note =
        changes.stream().filter(c -> c.table().equals("notes")).findFirst().orElseThrow();
    assertThat(note.after().get("text").display()).isEqualTo("{\"page\":‹pages#12›,\"width\":12}");
    assertThat(plan.suspicions())
        .singleElement()
        .satisfies(
            suspicion -> {
              assertThat(suspicion.place()).isEqualTo("width");
              assertThat(suspicion.number()).isEqualTo("12");
              assertThat(suspicion.row()).isEqualTo("pages 12");
              assertThat(suspicion.rule())
                  .isEqualTo("inside: {text: [{refers: [{path: \"width\", to: pages}]}]}");
            });
  }

  @Test
  void aClashInsideAValueIsNamedAndTheRestIsMergedEitherWay() throws Exception {
    Sketch sketch = sketch();
    sketch.everywhere("pages", "1, home, Home, NULL");
    sketch.base.row("notes", "1, {\"a\":1\u0001\"b\":1\u0001\"c\":1}, 1", '\u0001');
    sketch.source.row("notes", "1, {\"a\":2\u0001\"b\":2\u0001\"c\":1}, 1", '\u0001');
    sketch.target.row("notes", "1, {\"a\":3\u0001\"b\":1\u0001\"c\":3}, 1", '\u0001');
    RowChange change = Sketch.changes(sketch.planned(Selection.CONTENT)).get(0);
    Conflict conflict = change.conflicts().get(0);
    assertThat(conflict.reason()).isEqualTo("both copies edited the same place inside a value");
    assertThat(conflict.places()).containsExactly("a");
    assertThat(conflict.source().get("text").display()).isEqualTo("{\"a\":2,\"b\":2,\"c\":3}");
    assertThat(conflict.otherwise().get("text").display()).isEqualTo("{\"a\":3,\"b\":2,\"c\":3}");
  }

  @Test
  void aValueThatTheModelCallsOneThingIsTakenAsAWholeOrNotAtAll() throws Exception {
    Sketch sketch =
        new Sketch(
            SiteModel.read(
                "model: test\ntables: {notes: {inside: {text: [{when: {id: 1}, units: ['']}]}}}"),
            Sketch.NOTES);
    for (int id = 1; id <= 2; id++) {
      sketch.base.row("notes", id + ", {\"w\":1\u0001\"h\":1}, 1", '\u0001');
      sketch.source.row("notes", id + ", {\"w\":2\u0001\"h\":1}, 1", '\u0001');
      sketch.target.row("notes", id + ", {\"w\":1\u0001\"h\":3}, 1", '\u0001');
    }
    List<RowChange> changes = Sketch.changes(sketch.planned(Selection.CONTENT));
    Conflict conflict = changes.get(0).conflicts().get(0);
    assertThat(conflict.places()).isEmpty();
    assertThat(conflict.source().get("text").display()).isEqualTo("{\"w\":2,\"h\":1}");
    assertThat(changes.get(1).conflicts()).isEmpty();
    assertThat(changes.get(1).after().get("text").display()).isEqualTo("{\"w\":2,\"h\":3}");
  }

  @Test
  void anOpenNumberIsMergedToo() throws IOException, YamlProblem {
    Sketch sketch = renumbered();
    sketch.base.row("notes", "1, {\"page\":1\u0001\"c\":1}, 1", '\u0001');
    sketch.source.row("notes", "1, {\"page\":12\u0001\"c\":1}, 1", '\u0001');
    sketch.target.row("notes", "1, {\"page\":1\u0001\"c\":3}, 1", '\u0001');
    RowChange note =
        Sketch.changes(sketch.planned(Selection.CONTENT)).stream()
            .filter(c -> c.table().equals("notes"))
            .findFirst()
            .orElseThrow();
    assertThat(note.conflicts()).isEmpty();
    assertThat(note.after().get("text").display()).isEqualTo("{\"page\":‹pages#12›,\"c\":3}");
  }

  @Test
  void aMovingValueThatIsMalformedIsNamedWithItsPlace() throws Exception {
    Sketch sketch = sketch();
    sketch.everywhere("pages", "1, home, Home, NULL");
    sketch.source.row("notes", "7, a:1:{s:4:\"page\";s:99:\"12\";}, 1");
    assertThat(sketch.planned(Selection.CONTENT).malformed())
        .containsExactly(
            new Malformed(
                "notes", "7", "text", 18, "the length 99 goes beyond the end of the value"));
  }

  @Test
  void whatBothCopiesEditedAlikeInsideAValueIsSettled() throws Exception {
    Sketch sketch = sketch();
    sketch.everywhere("pages", "1, home, Home, NULL");
    sketch.base.row("notes", "1, {\"a\":1\u0001\"b\":1}, 1", '\u0001');
    sketch.source.row("notes", "1, {\"a\":2\u0001\"b\":1}, 1", '\u0001');
    sketch.target.row("notes", "1, {\"a\":2\u0001\"b\":3}, 1", '\u0001');
    Plan plan = sketch.planned(Selection.CONTENT);
    assertThat(Sketch.changes(plan)).isEmpty();
    List<Alike> alike = new ArrayList<>();
    plan.forEachAlike(alike::add);
    // Else an edit back on the source would not be one.
    assertThat(alike)
        .singleElement()
        .satisfies(
            row -> assertThat(row.values().get("text").display()).isEqualTo("{\"a\":2,\"b\":1}"));
  }
}
