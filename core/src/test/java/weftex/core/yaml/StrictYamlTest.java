package weftex.core.yaml;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.catchThrowableOfType;

import java.util.List;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class StrictYamlTest {
  record Ferry(String name, Integer seats, List<String> calls, Engine engine) {}

  record Engine(Integer power, Boolean quiet) {}

  @Test
  void readsWhatItKnows() throws YamlProblem {
    Ferry ferry = StrictYaml.read("name: Selkie\nseats: 120\ncalls: [BRA, HES]\n", Ferry.class);
    assertThat(ferry).isEqualTo(new Ferry("Selkie", 120, List.of("BRA", "HES"), null));
  }

  @ParameterizedTest(name = "{0}")
  @CsvSource(
      delimiter = '|',
      value = {
        "name: Selkie\\nseets: 120 | line 2: unknown key 'seets'; did you mean 'seats'?",
        "name: Selkie\\nseats: many | line 2: wrong kind of value at 'seats': a whole number is needed",
        "name: Selkie\\nengine:\\n  power: 3\\n  quite: true | line 4: unknown key 'quite' at 'engine'; did you mean 'quiet'?",
        "name: Selkie\\nname: Tern | line 2: Duplicate field 'name'",
        "name: Selkie\\n\\tseats: 3 | line 2: a tab can't indent YAML: use spaces",
        "name: [Selkie | line 1",
      })
  void saysWhereAndWhat(String yaml, String sentence) {
    YamlProblem problem =
        catchThrowableOfType(
            YamlProblem.class,
            () -> StrictYaml.read(yaml.replace("\\n", "\n").replace("\\t", "\t"), Ferry.class));
    assertThat(problem.sentence()).startsWith(sentence);
  }

  @Test
  void anEmptyFileIsAProblem() {
    YamlProblem problem =
        catchThrowableOfType(YamlProblem.class, () -> StrictYaml.read("", Ferry.class));
    assertThat(problem.sentence()).contains("empty");
  }

  @Test
  void suggestsOnlyWhatIsNear() {
    assertThat(Nearest.to("pagse", List.of("pages", "settings"))).contains("pages");
    assertThat(Nearest.to("zebra", List.of("pages", "settings"))).isEmpty();
  }
}
