package weftex.core.row;

import static org.assertj.core.api.Assertions.assertThat;

import java.math.BigInteger;
import java.nio.charset.StandardCharsets;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import org.junit.jupiter.api.Test;

class SortKeyTest {

  @Property
  void singleNumbersOrderAsNumbers(@ForAll long one, @ForAll long other) {
    assertThat(Integer.signum(SortKey.ofWhole(one).compareTo(SortKey.ofWhole(other))))
        .isEqualTo(Integer.signum(Long.compare(one, other)));
  }

  @Property
  void twoPartsOrderByTheFirstThenTheSecond(
      @ForAll byte[] a, @ForAll byte[] b, @ForAll long m, @ForAll long n) {
    SortKey one = new SortKey.Builder().add(a).add(BigInteger.valueOf(m)).build();
    SortKey other = new SortKey.Builder().add(b).add(BigInteger.valueOf(n)).build();
    int first = Integer.signum(java.util.Arrays.compareUnsigned(a, b));
    int expected = first != 0 ? first : Long.compare(m, n);
    assertThat(Integer.signum(one.compareTo(other))).isEqualTo(expected);
  }

  @Test
  void unsignedNumbersFollowTheSignedRange() {
    BigInteger largest = new BigInteger("18446744073709551615");
    BigInteger signed = BigInteger.valueOf(Long.MAX_VALUE);
    assertThat(SortKey.ofWhole(signed)).isLessThan(SortKey.ofWhole(signed.add(BigInteger.ONE)));
    assertThat(SortKey.ofWhole(signed.add(BigInteger.ONE))).isLessThan(SortKey.ofWhole(largest));
    assertThat(new SortKey.Builder().add(signed).build())
        .isLessThan(new SortKey.Builder().add(largest).build());
    assertThat(new SortKey.Builder().add(BigInteger.valueOf(-1)).build())
        .isLessThan(new SortKey.Builder().add(BigInteger.ZERO).build());
  }

  @Test
  void nullComesBeforeEverythingAndAPrefixBeforeTheLonger() {
    SortKey nothing = new SortKey.Builder().addNull().add(bytes("z")).build();
    SortKey empty = new SortKey.Builder().add(bytes("")).add(bytes("a")).build();
    SortKey shorter = new SortKey.Builder().add(bytes("a")).add(bytes("z")).build();
    SortKey longer = new SortKey.Builder().add(bytes("a\0")).add(bytes("a")).build();
    assertThat(nothing).isLessThan(empty);
    assertThat(empty).isLessThan(shorter);
    assertThat(shorter).isLessThan(longer);
  }

  private static byte[] bytes(String text) {
    return text.getBytes(StandardCharsets.UTF_8);
  }
}
