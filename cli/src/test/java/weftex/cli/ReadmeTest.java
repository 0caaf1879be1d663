package weftex.cli;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import weftex.demo.DemoSite;

/** Every example of the README, in its order, on the site of the demo. */
class ReadmeTest {
  private static final Pattern BLOCK = Pattern.compile("```\\n(.*?)```", Pattern.DOTALL);
  private static final Pattern WORD = Pattern.compile("(?:[^\\s']+|'[^']*')+");

  /** What needs a server, or a CMS's config file, or is the demo itself. */
  private static final Pattern ELSEWHERE =
      Pattern.compile("mariadb|wp-config\\.php|weftex demo|mvn ");

  private static final int FEWEST = 20;

  @TempDir Path folder;

  private static List<String> examples() throws Exception {
    List<String> examples = new ArrayList<>();
    Matcher blocks = BLOCK.matcher(Files.readString(Path.of("..", "README.md")));
    while (blocks.find()) {
      String block = blocks.group(1).replace("\\\n", " ");
      if (!ELSEWHERE.matcher(block).find()) {
        block.lines().filter(line -> line.startsWith("weftex ")).forEach(examples::add);
      }
    }
    return examples;
  }

  /** The words of a command line, as a shell takes them; a comment is none. */
  private static String[] words(String line) {
    List<String> words = new ArrayList<>();
    Matcher word = WORD.matcher(line.replaceFirst("\\s#\\s.*", ""));
    while (word.find()) {
      words.add(word.group().replace("'", ""));
    }
    return words.subList(1, words.size()).toArray(String[]::new);
  }

  @Test
  void theExamplesRunOnTheDemoAsTheyStand() throws Exception {
    DemoSite site = DemoPair.marked(folder);
    List<String> examples = examples();
    assertThat(examples).hasSizeGreaterThan(FEWEST).contains("weftex apply", "weftex undo");
    for (String example : examples) {
      Program.Ran ran = new Program(folder).run(words(example));
      assertThat(ran.status()).as(example + "\n" + ran.out() + ran.err()).isIn(0, 1);
      assertThat(ran.err()).as(example).doesNotContain("Nothing was changed");
      if (example.equals("weftex mark")) {
        site.week();
      }
    }
    assertThat(new Program(folder).run("history").out()).contains("apply", "undo", "Mira Tangen");
  }
}
