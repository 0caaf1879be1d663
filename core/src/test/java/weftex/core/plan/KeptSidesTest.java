package weftex.core.plan;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.ArrayList;
import java.util.List;
import java.util.concurrent.atomic.AtomicInteger;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import weftex.core.change.Action;
import weftex.core.match.Sides;
import weftex.core.merge.RowMerger;
import weftex.core.row.Value;
import weftex.core.select.MemberFilter;

class KeptSidesTest {
  private final Sketch site = new Sketch(Sketch.PAGES, Sketch.NOTES);
  private final List<Long> at = new ArrayList<>();

  @BeforeEach
  void editPagesOnBothCopies() {
    for (int page = 1; page <= 3; page++) {
      site.everywhere("pages", page + ", page" + page + ", Title, NULL");
      site.source.row("pages", page + ", page" + page + ", Winter, NULL");
      site.target.row("pages", page + ", page" + page + ", Summer, NULL");
    }
  }

  private static List<Object> contents(Sides sides) {
    return List.of(
        sides.base().values(),
        sides.source(),
        sides.rawSource(),
        sides.target().values(),
        sides.fresh());
  }

  private static int merges(KeptSides rows, long position) throws Exception {
    AtomicInteger merges = new AtomicInteger();
    for (int i = 0; i < 3; i++) {
      rows.whole(position)
          .merged(
              () -> {
                merges.incrementAndGet();
                return RowMerger.Merged.NOTHING;
              });
    }
    return merges.get();
  }

  @Test
  void aRowThatIsKeptIsReadAndMergedOnce() throws Exception {
    KeptSides rows = site.rows(KeptSides.BYTES, at);
    assertThat(at).hasSize(3);
    for (long position : at) {
      assertThat(rows.whole(position)).isSameAs(rows.whole(position));
      assertThat(merges(rows, position)).isEqualTo(1);
    }
  }

  @Test
  void aRowBeyondTheBoundIsReadAgainUntilItIsSettled() throws Exception {
    KeptSides kept = site.rows(KeptSides.BYTES, at);
    KeptSides none = site.rows(0, new ArrayList<>());
    for (long position : at) {
      assertThat(none.whole(position)).isNotSameAs(none.whole(position));
      assertThat(contents(none.whole(position))).isEqualTo(contents(kept.whole(position)));
      assertThat(merges(none, position)).isEqualTo(3);
      none.whole(position).merged(() -> RowMerger.Merged.NOTHING);
      none.settle(position);
      assertThat(contents(none.whole(position))).isEqualTo(contents(kept.whole(position)));
    }
  }

  @Test
  void aSettledRowBeyondTheBoundIsNotMergedAgain() throws Exception {
    KeptSides none = site.rows(0, at);
    for (long position : at) {
      none.whole(position).merged(() -> RowMerger.Merged.NOTHING);
      none.settle(position);
      assertThat(merges(none, position)).isZero();
    }
  }

  @Test
  void onlyTheRowThatWasReadLastIsSettled() throws Exception {
    KeptSides none = site.rows(0, at);
    none.whole(at.get(0)).merged(() -> RowMerger.Merged.NOTHING);
    none.whole(at.get(1));
    none.settle(at.get(0));
    assertThat(merges(none, at.get(0))).isEqualTo(3);
  }

  @Test
  void theFirstRowsAreKeptAndOneThatIsForgottenMakesRoom() throws Exception {
    // Between what one of these rows takes and what two do.
    KeptSides rows = site.rows(1500, at);
    Sides first = rows.whole(at.get(0));
    Sides second = rows.whole(at.get(1));
    assertThat(rows.whole(at.get(0))).isSameAs(first);
    assertThat(rows.whole(at.get(1))).isNotSameAs(second);
    rows.forget(at.get(0));
    assertThat(rows.whole(at.get(2))).isSameAs(rows.whole(at.get(2)));
    assertThat(rows.whole(at.get(0))).isNotSameAs(rows.whole(at.get(0)));
  }

  @Test
  void whatIsNotChosenOfARowIsAsTheSourceHadLeftItAndTheRowStaysWhole() throws Exception {
    KeptSides rows = site.rows(KeptSides.BYTES, at);
    Planned planned = new Planned(0, at.get(0), Action.UPDATE);
    assertThat(rows.chosen(planned)).isSameAs(rows.whole(at.get(0)));
    planned.members = new MemberFilter(List.of("fares.*"), List.of());
    Sides chosen = rows.chosen(planned);
    assertThat(chosen.source().get(2)).isEqualTo(Value.text("Title"));
    assertThat(rows.chosen(planned)).isSameAs(chosen);
    assertThat(rows.whole(at.get(0)).source().get(2)).isEqualTo(Value.text("Winter"));
    planned.members = MemberFilter.ALL;
    assertThat(rows.chosen(planned).source().get(2)).isEqualTo(Value.text("Winter"));
  }
}
