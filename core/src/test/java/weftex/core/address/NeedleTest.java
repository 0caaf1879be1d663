package weftex.core.address;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.charset.StandardCharsets;
import java.util.Locale;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import net.jqwik.api.constraints.Chars;
import net.jqwik.api.constraints.StringLength;

class NeedleTest {

  private static byte[] latin(String text) {
    return text.getBytes(StandardCharsets.ISO_8859_1);
  }

  @Property
  void findsWhatAPlainSearchFinds(
      @ForAll @Chars({'a', 'b', 'B', '.', 'ÿ'}) @StringLength(max = 40) String text,
      @ForAll @Chars({'a', 'b', '.'}) @StringLength(min = 1, max = 4) String sought) {
    assertThat(new Needle(latin(sought), false).find(latin(text), 0, text.length()))
        .isEqualTo(text.indexOf(sought));
    assertThat(new Needle(latin(sought), true).find(latin(text), 0, text.length()))
        .isEqualTo(text.toLowerCase(Locale.ROOT).indexOf(sought));
  }

  @Property
  void staysWithinItsBounds(
      @ForAll @Chars({'a', 'b'}) @StringLength(min = 6, max = 20) String text,
      @ForAll @Chars({'a', 'b'}) @StringLength(min = 1, max = 3) String sought) {
    int to = text.length() - 2;
    assertThat(new Needle(latin(sought), false).find(latin(text), 2, to))
        .isEqualTo(text.substring(0, to).indexOf(sought, 2));
  }
}
