package weftex.core.reference;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.List;
import java.util.Random;
import org.junit.jupiter.api.Test;

class SignFinderTest {

  @Test
  void findsTheSameStringsAsALookAtEach() {
    Random random = new Random(4711);
    for (int round = 0; round < 2000; round++) {
      List<List<String>> groups = new ArrayList<>();
      for (int group = 0; group < 5; group++) {
        groups.add(
            List.of(text(random, 2 + random.nextInt(3)), text(random, 2 + random.nextInt(4))));
      }
      String text = text(random, random.nextInt(30));
      long expected = 0;
      for (int group = 0; group < groups.size(); group++) {
        if (groups.get(group).stream().anyMatch(text::contains)) {
          expected |= SignFinder.bit(group);
        }
      }
      assertThat(new SignFinder(groups).in(text.getBytes(StandardCharsets.UTF_8)))
          .as("%s in '%s'", groups, text)
          .isEqualTo(expected);
    }
  }

  @Test
  void aStringOfOneByteMayStandAnywhere() {
    SignFinder finder = new SignFinder(List.of(List.of("p"), List.of("", "xy"), List.of("ab")));
    assertThat(finder.in(new byte[0])).isEqualTo(SignFinder.bit(0) | SignFinder.bit(1));
    assertThat(finder.in("cab".getBytes(StandardCharsets.UTF_8)))
        .isEqualTo(SignFinder.bit(0) | SignFinder.bit(1) | SignFinder.bit(2));
  }

  private static String text(Random random, int length) {
    StringBuilder text = new StringBuilder();
    for (int i = 0; i < length; i++) {
      text.append((char) ('a' + random.nextInt(3)));
    }
    return text.toString();
  }
}
