package weftex.core.compare;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.HashSet;
import java.util.List;
import java.util.Set;
import org.junit.jupiter.api.Test;
import weftex.core.row.Table;

class SettlementTest {

  /** Digests of ranges of ten keys, written {@code range, rows, digest} each. */
  private static RangeDigests digests(long... triples) {
    RangeDigests digests = new RangeDigests(10);
    for (int i = 0; i < triples.length; i += 3) {
      digests.add(triples[i], triples[i + 1], triples[i + 2]);
    }
    return digests;
  }

  private static final long[] ALIKE = {
    0, 10, 7, 1, 10, 8, 2, 9, 9, 3, 10, 4, 4, 10, 5, 5, 10, 6, 6, 10, 1, 7, 2, 3
  };

  private static RangeDigests but(int range, long rows, long digest) {
    long[] triples = ALIKE.clone();
    triples[range * 3 + 1] = rows;
    triples[range * 3 + 2] = digest;
    return digests(triples);
  }

  private static final Table TABLE =
      new Table("posts", List.of(), List.of(), -1, List.of(), List.of());

  private final Set<KnownRanges.Digests> known = new HashSet<>();

  private Settlement between(RangeDigests base, RangeDigests source, RangeDigests target) {
    return Settlement.between(TABLE, base, source, target, memory());
  }

  private KnownRanges memory() {
    return new KnownRanges() {
      @Override
      public boolean isAlike(Table table, long width, Digests digests) {
        return known.contains(digests);
      }

      @Override
      public void alike(Table table, long width, Digests digests) {
        known.add(digests);
      }
    };
  }

  @Test
  void whatWasFoundToSayTheSameOnBothIsNotReadAgainUntilOneOfThemChanges() {
    Settlement first = between(digests(ALIKE), but(2, 9, 70), but(2, 9, 71));
    assertThat(first.open()).containsExactly(new KeyRange(20, 29));
    first.tell(TABLE, Set.of(2L), memory());
    assertThat(between(digests(ALIKE), but(2, 9, 70), but(2, 9, 71)).open()).hasSize(1);
    first.tell(TABLE, Set.of(), memory());
    Settlement second = between(digests(ALIKE), but(2, 9, 70), but(2, 9, 71));
    assertThat(second.open()).isEmpty();
    assertThat(second.rows()).isEqualTo(71);
    assertThat(between(digests(ALIKE), but(2, 9, 70), but(2, 9, 72)).open()).hasSize(1);
    assertThat(between(digests(ALIKE), but(2, 8, 70), but(2, 9, 71)).open()).hasSize(1);
  }

  @Test
  void rangesThatAreAlikeOnAllSidesAreCountedAndNotRead() {
    Settlement settlement = between(digests(ALIKE), digests(ALIKE), digests(ALIKE));
    assertThat(settlement.rows()).isEqualTo(71);
    assertThat(settlement.open()).isEmpty();
  }

  @Test
  void aRangeThatDiffersOnEitherSideIsReadAndNeighboursAreJoined() {
    Settlement settlement = between(digests(ALIKE), but(2, 9, 1), but(3, 11, 4));
    assertThat(settlement.open()).containsExactly(new KeyRange(20, 39));
    assertThat(settlement.rows()).isEqualTo(52);
  }

  @Test
  void aRangeThatOneSideLacksOrHasAloneIsRead() {
    RangeDigests more = digests(ALIKE);
    more.add(12, 3, 99);
    Settlement settlement = between(digests(ALIKE), more, digests(ALIKE));
    assertThat(settlement.open()).containsExactly(new KeyRange(120, 129));
  }

  @Test
  void whereMuchDiffersTheWholeTableIsRead() {
    Settlement settlement = between(digests(ALIKE), digests(), digests(ALIKE));
    assertThat(settlement.readsAll()).isTrue();
    assertThat(settlement.rows()).isZero();
  }

  @Test
  void tooManyRangesAreJoinedIntoWiderOnes() {
    RangeDigests fine = new RangeDigests(64);
    for (long i = 0; i < 200_000; i++) {
      fine.add(i, 1, i * 31);
    }
    RangeDigests coarse = fine.bounded();
    assertThat(coarse.width()).isEqualTo(256);
    assertThat(coarse.size()).isEqualTo(50_000);
    assertThat(coarse.rows(1)).isEqualTo(4);
    assertThat(coarse.digest(1)).isEqualTo(4 * 31 ^ 5 * 31 ^ 6 * 31 ^ 7 * 31);
    assertThat(List.of(fine.bounded().range(49_999))).containsExactly(49_999L);
  }
}
