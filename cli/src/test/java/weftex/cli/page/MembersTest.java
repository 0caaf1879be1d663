package weftex.cli.page;

import static org.assertj.core.api.Assertions.assertThat;

import java.math.BigInteger;
import java.nio.charset.StandardCharsets;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;
import weftex.core.row.Part;
import weftex.core.row.RowName;
import weftex.core.row.Value;

class MembersTest {
  @Test
  void membersOfMembersStandByTheirPath() {
    assertThat(
            Members.of(
                Value.text(
                    "{\"colour\":\"blue\",\"menu\":{\"pages\":[3,4],\"open\":true,\"none\":{}}}")))
        .contains(
            Map.of(
                "colour", "blue",
                "menu › pages › 0", "3",
                "menu › pages › 1", "4",
                "menu › open", "true",
                "menu › none", "empty"));
  }

  @Test
  void serialisedValuesInsideOfOthersAreOpenedToo() {
    assertThat(Members.of(Value.text("a:1:{s:4:\"logo\";s:17:\"a:1:{i:0;s:0:\"\";}\";}")))
        .contains(Map.of("logo › 0", ""));
  }

  @Test
  void aNumberThatIsNotKnownYetIsShownAsItsRow() {
    Value pending =
        new Value.Pending(
            List.of(
                literal("a:2:{s:4:\"page\";i:"),
                new Part.Number(new RowName("pages", BigInteger.valueOf(13))),
                literal(";s:3:\"css\";"),
                literal("s:"),
                new Part.Sized(
                    List.of(
                        literal("picture-"),
                        new Part.Number(new RowName("pictures", BigInteger.valueOf(6))))),
                literal(";}")));
    assertThat(Members.of(pending))
        .hasValueSatisfying(
            members ->
                assertThat(members.values())
                    .containsExactly("new pages#13", "picture-new pictures#6"));
  }

  private static Part literal(String text) {
    return new Part.Literal(text.getBytes(StandardCharsets.UTF_8));
  }

  @ParameterizedTest
  @ValueSource(strings = {"", "Fares", "12", "<p>{\"a\":1}</p>", "a:1:{broken"})
  void whatIsNotStructuredHasNone(String text) {
    assertThat(Members.of(Value.text(text))).isEmpty();
  }
}
