package weftex.core.file;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.charset.StandardCharsets;
import java.util.Arrays;
import java.util.List;
import java.util.Set;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class FileMentionsTest {
  private final FileMentions mentions =
      new FileMentions(
          List.of("wp-content/uploads", "media/"),
          Set.of("skerrow.example", "staging.skerrow.example"));

  private Set<String> in(String text) {
    return mentions.in(text.getBytes(StandardCharsets.UTF_8));
  }

  @ParameterizedTest
  @CsvSource(
      delimiter = '|',
      quoteCharacter = '~',
      value = {
        "<img src=\"https://skerrow.example/media/ramp.jpg\"> | media/ramp.jpg",
        "<a href='/media/a b.pdf'> | ",
        "<a href='/media/a%20b.pdf'> | media/a b.pdf",
        "url(//Skerrow.Example/media/x.png) | media/x.png",
        "{\"u\":\"https:\\/\\/skerrow.example\\/media\\/2026\\/x.png?w=2\"} | media/2026/x.png",
        "s:50:\"https://skerrow.example/wp-content/uploads/y.jpeg\"; | wp-content/uploads/y.jpeg",
        "https://skerrow.example/blog/media/a+b.gif | media/a+b.gif",
        "https://elsewhere.example/media/ramp.jpg | ",
        "social media/ramp.jpg | ",
        "https://skerrow.example/media/folder/ | ",
        "/multimedia/x.png | ",
        "/media/x.png, /media/y.png and /media/x.png | media/x.png media/y.png",
      })
  void pathsOfTheSiteItself(String text, String paths) {
    List<String> expected =
        paths == null
            ? List.of()
            : paths.contains("a b") ? List.of(paths) : Arrays.asList(paths.split(" "));
    assertThat(in(text)).containsExactlyElementsOf(expected);
  }

  @Test
  void aTextWithoutAFolderIsPassedOver() {
    byte[] text = "Nothing here.".getBytes(StandardCharsets.UTF_8);
    assertThat(mentions.mayBeIn(text, 0, text.length)).isFalse();
  }
}
