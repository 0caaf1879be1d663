package weftex.core.row;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.regex.Pattern;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import net.jqwik.api.constraints.CharRange;
import net.jqwik.api.constraints.Chars;
import net.jqwik.api.constraints.StringLength;
import org.junit.jupiter.api.Test;

class GlobTest {

  @Property
  void matchesWhatAnExpressionWould(
      @ForAll @StringLength(max = 8) @Chars({'*', '?', 'a', 'b'}) String pattern,
      @ForAll @StringLength(max = 10) @CharRange(from = 'a', to = 'c') String name) {
    String expression = pattern.replace("*", ".*").replace('?', '.');
    assertThat(Glob.matches(pattern, name)).isEqualTo(Pattern.matches(expression, name));
  }

  /** It took longer than anybody waits. */
  @Test
  void manyStarsOverALongTextTakeNoTime() {
    String text = "a".repeat(200_000);
    assertThat(Glob.matches("*a*a*a*a*a*a*a*a*b", text)).isFalse();
    assertThat(Glob.matches("*a*a*a*a*a*a*a*a*", text)).isTrue();
    assertThat(Glob.matches("*" + "?*".repeat(200) + "b", text)).isFalse();
  }
}
