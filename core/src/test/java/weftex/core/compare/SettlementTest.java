package weftex.core.compare;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.List;
import java.util.Optional;
import org.junit.jupiter.api.Test;

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

  @Test
  void rangesThatAreAlikeOnAllSidesAreCountedAndNotRead() {
    Settlement settlement =
        Settlement.between(digests(ALIKE), digests(ALIKE), digests(ALIKE)).orElseThrow();
    assertThat(settlement.rows()).isEqualTo(71);
    assertThat(settlement.open()).isEmpty();
  }

  @Test
  void aRangeThatDiffersOnEitherSideIsReadAndNeighboursAreJoined() {
    Settlement settlement =
        Settlement.between(digests(ALIKE), but(2, 9, 1), but(3, 11, 4)).orElseThrow();
    assertThat(settlement.open()).containsExactly(new KeyRange(20, 39));
    assertThat(settlement.rows()).isEqualTo(52);
  }

  @Test
  void aRangeThatOneSideLacksOrHasAloneIsRead() {
    RangeDigests more = digests(ALIKE);
    more.add(12, 3, 99);
    Settlement settlement = Settlement.between(digests(ALIKE), more, digests(ALIKE)).orElseThrow();
    assertThat(settlement.open()).containsExactly(new KeyRange(120, 129));
  }

  @Test
  void whereMuchDiffersTheWholeTableIsRead() {
    assertThat(Settlement.between(digests(ALIKE), digests(), digests(ALIKE)))
        .isEqualTo(Optional.empty());
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
