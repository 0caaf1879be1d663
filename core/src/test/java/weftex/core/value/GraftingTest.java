package weftex.core.value;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.charset.StandardCharsets;
import java.util.List;
import java.util.Optional;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** Members of one value in the place of another's. */
class GraftingTest {
  private static byte[] bytes(String text) {
    return text.getBytes(StandardCharsets.UTF_8);
  }

  /** Chooses what is at a path and below it. */
  private static Grafting.Chooser at(String written) {
    List<String> chosen = List.of(written.split("\\."));
    return path -> {
      if (path.size() >= chosen.size()) {
        return path.subList(0, chosen.size()).equals(chosen)
            ? Grafting.Part.ALL
            : Grafting.Part.NONE;
      }
      return chosen.subList(0, path.size()).equals(path) ? Grafting.Part.SOME : Grafting.Part.NONE;
    };
  }

  private static String grafted(String into, String from, String path) {
    return Grafting.graft(
            into.isEmpty() ? Optional.empty() : Optional.of(bytes(into)), bytes(from), at(path))
        .map(bytes -> new String(bytes, StandardCharsets.UTF_8))
        .orElse("nothing");
  }

  @ParameterizedTest(name = "{2} of {1} into {0}")
  @CsvSource(
      delimiter = '|',
      value = {
        "{'a':1,'b':1} | {'a':2,'b':2} | b | {'a':1,'b':2}",
        "{'a':1} | {'b':2} | b | {'a':1,'b':2}",
        "{'a':1,'b':1} | {'a':2} | b | {'a':1}",
        "{'a':{'x':1,'y':1}} | {'a':{'x':2,'y':2}} | a.y | {'a':{'x':1,'y':2}}",
        "{'a':1} | {'a':{'x':2}} | a.x | {'a':1}",
        "{'b':1} | {'a':{'x':2,'y':3}} | a.x | {'b':1,'a':{'x':2}}",
        "{'a':{'x':1}} | {'b':1} | a.x | {'a':{}}",
        "'' | {'a':{'x':2,'y':3},'b':1} | a.x | {'a':{'x':2}}",
        "'' | {'a':1} | b | {}",
        "{'a':[1,2]} | {'a':[3]} | a | {'a':[3]}",
        "{'a':[1,2]} | {'a':[3]} | a.0 | {'a':[1,2]}",
        "{'a':1} | [1] | a | {'a':1}",
        "words | {'a':1} | a | nothing",
        "{'a':1} | words | a | nothing"
      })
  void membersOfJson(String into, String from, String path, String expected) {
    assertThat(
            grafted(
                into.equals("''") ? "" : into.replace('\'', '"'), from.replace('\'', '"'), path))
        .isEqualTo(expected.replace('\'', '"'));
  }

  @Test
  void lengthsOfSerialisedValuesAreRight() {
    String into = "a:2:{s:5:\"title\";s:4:\"Fare\";s:4:\"mail\";a:1:{s:2:\"to\";s:1:\"x\";}}";
    String from =
        "a:3:{s:5:\"title\";s:5:\"Fares\";s:4:\"mail\";a:2:{s:2:\"to\";s:4:\"desk\";s:2:\"cc\";i:1;}"
            + "s:3:\"new\";i:7;}";
    assertThat(grafted(into, from, "mail.cc"))
        .isEqualTo(
            "a:2:{s:5:\"title\";s:4:\"Fare\";s:4:\"mail\";a:2:{s:2:\"to\";s:1:\"x\";s:2:\"cc\";i:1;}}");
    assertThat(grafted(into, from, "new"))
        .isEqualTo(
            "a:3:{s:5:\"title\";s:4:\"Fare\";s:4:\"mail\";a:1:{s:2:\"to\";s:1:\"x\";}s:3:\"new\";i:7;}");
    assertThat(grafted("", from, "mail.to"))
        .isEqualTo("a:1:{s:4:\"mail\";a:1:{s:2:\"to\";s:4:\"desk\";}}");
  }

  @Test
  void whatIsNotChosenKeepsItsSpelling() {
    String into = "{ \"b\" : 1,\n  \"a\" : { \"x\":1 } }";
    assertThat(grafted(into, "{\"b\":2,\"a\":{\"x\":2}}", "c")).isEqualTo(into);
    assertThat(grafted(into, "{\"b\":1,\"a\":{\"x\":3}}", "b")).isEqualTo(into);
    assertThat(grafted(into, "{\"b\":3,\"a\":{\"x\":3}}", "b")).contains("{ \"x\":1 }");
  }

  @Test
  void aValueThatPointsIntoItselfIsLeftAlone() {
    String pointing = "a:2:{s:1:\"a\";i:1;s:1:\"b\";R:2;}";
    assertThat(grafted("a:1:{s:1:\"a\";i:1;}", pointing, "a")).isEqualTo("nothing");
    assertThat(grafted(pointing, "a:1:{s:1:\"a\";i:2;}", "a")).isEqualTo("nothing");
  }
}
