package weftex.core.value;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.nio.charset.StandardCharsets;
import java.util.Arrays;
import java.util.Optional;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;

class StructureTest {

  private static byte[] latin(String text) {
    return text.getBytes(StandardCharsets.ISO_8859_1);
  }

  /** Puts every text in upper case. */
  private static final Rewriting.Visitor UPPER =
      new Rewriting.Visitor() {
        @Override
        public boolean mayTouch(byte[] bytes) {
          return true;
        }

        @Override
        public Optional<Weaver> text(Place place, byte[] text) {
          String other = new String(text, StandardCharsets.ISO_8859_1).replace("ab", "ABC");
          return Arrays.equals(latin(other), text)
              ? Optional.empty()
              : Optional.of(Weaver.of(latin(other)));
        }
      };

  private static String rewritten(String text) {
    return Rewriting.rewrite(latin(text), UPPER)
        .map(woven -> new String(woven.bytes(), StandardCharsets.ISO_8859_1))
        .orElse("unchanged");
  }

  @ParameterizedTest
  @ValueSource(
      strings = {
        "N;",
        "b:0;",
        "i:-9223372036854775808;",
        "d:0.1;",
        "d:1.0E+25;",
        "d:-INF;",
        "d:NAN;",
        "s:0:\"\";",
        "s:3:\"\u00e5\u00ff\"\";",
        "a:0:{}",
        "a:2:{i:0;a:1:{s:1:\"x\";N;}i:1;R:2;}",
        "O:8:\"stdClass\":1:{s:1:\"a\";r:1;}",
        "O:3:\"P\\Q\":2:{s:4:\"\0*\0a\";i:1;s:6:\"\0P\\Q\0b\";i:2;}",
        "C:11:\"ArrayObject\":21:{x:i:0;a:0:{};m:a:0:{}}",
        "E:11:\"Suit:Hearts\";",
        "S:1:\"\\61\";",
      })
  void everySerialisedTypeIsReadWhole(String text) throws MalformedValue {
    Structure structure = Structure.read(Syntax.SERIALIZED, latin(text));
    assertThat(structure.root().to()).isEqualTo(text.length());
    assertThat(rewritten(text)).isEqualTo("unchanged");
  }

  @ParameterizedTest
  @CsvSource(
      delimiter = '|',
      textBlock =
          """
          a:1:{i:0;i:1;      | 13 | the value is cut short
          a:2:{i:0;i:1;}     | 14 | the value is cut short
          s:4:"abc";         | 9  | '"' was expected
          s:2:"abc";         | 7  | '"' was expected
          a:99999999999:{}   | 2  | the length 1600 goes beyond the end of the value
          a:1:{N;i:1;}       | 5  | a key must be a number or a string
          i:1;i:2;           | 4  | something follows the end of the value
          i:abc;             | 2  | a number was expected
          i:;                | 2  | a whole number was expected
          x:1;               | 0  | there is no type 'x'
          """)
  void whatIsMalformedIsNamedWithItsPlace(String text, int offset, String what) {
    assertThatThrownBy(() -> Structure.read(Syntax.SERIALIZED, latin(text)))
        .isInstanceOfSatisfying(
            MalformedValue.class,
            problem -> {
              assertThat(problem.offset()).isEqualTo(offset);
              assertThat(problem.getMessage())
                  .startsWith(what.substring(0, Math.min(10, what.length())));
            });
  }

  @ParameterizedTest
  @CsvSource(
      delimiter = '|',
      textBlock =
          """
          {"a" : "ab",\\t"n":1.50, "u":"\\u00e9ab\\/"} | {"a" : "ABC",\\t"n":1.50, "u":"\\u00e9ABC\\/"}
          [ "ab" , {"ab":[1,2]} ]                 | [ "ABC" , {"ABC":[1,2]} ]
          s:2:"ab";                               | s:3:"ABC";
          a:1:{s:2:"ab";s:9:"s:2:"ab";";}         | a:1:{s:3:"ABC";s:10:"s:3:"ABC";";}
          a:1:{i:0;s:8:"["ab",1]";}               | a:1:{i:0;s:9:"["ABC",1]";}
          {"a":"s:2:\\"ab\\";"}                   | {"a":"s:3:\\"ABC\\";"}
          ab, not {"ab":1                         | ABC, not {"ABC":1
          a:1:{s:2:"ab";                          | unchanged
          """)
  void onlyWhatIsAskedForChanges(String text, String expected) {
    String tab = text.replace("\\t", "\t");
    assertThat(rewritten(tab)).isEqualTo(expected.replace("\\t", "\t"));
  }

  @Test
  void aDeepValueIsSurvivedAndLeft() {
    String deep = "a:1:{i:0;".repeat(10_000) + "s:2:\"ab\";" + "}".repeat(10_000);
    assertThatThrownBy(() -> Structure.read(Syntax.SERIALIZED, latin(deep)))
        .isInstanceOf(MalformedValue.class)
        .hasMessageContaining("500 levels");
    assertThat(rewritten(deep)).isEqualTo("unchanged");
    String json = "[".repeat(10_000) + "]".repeat(10_000);
    assertThat(Structure.detect(latin(json))).isEmpty();
  }

  @Test
  void aLargeValueIsRewrittenWhole() {
    String big = "x".repeat(16 << 20);
    String value = "a:1:{i:0;s:" + (big.length() + 2) + ":\"" + big + "ab\";}";
    assertThat(rewritten(value))
        .isEqualTo("a:1:{i:0;s:" + (big.length() + 3) + ":\"" + big + "ABC\";}");
  }
}
