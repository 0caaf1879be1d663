package weftex.core.file;

import static org.assertj.core.api.Assertions.assertThat;

import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

class SafePathTest {
  @ParameterizedTest
  @ValueSource(
      strings = {
        "../config.php",
        "media/../../etc/passwd",
        "/etc/passwd",
        "media/./ramp.jpg",
        "media\\..\\ramp.jpg",
        "C:/ramp.jpg",
        "~root/ramp.jpg",
        "media/\u0000ramp.jpg",
        "media/ramp\n.jpg",
        "media/\uff0e\uff0e/ramp.jpg",
        "media\uff0framp.jpg",
        "media/\u202egpj.php",
        "media/ramp\u200b.jpg",
        "media/ /ramp.jpg",
        "media/\ud800.jpg",
        "",
        "/"
      })
  void whatLeadsOutOrReadsInTwoWaysNamesNoFile(String path) {
    assertThat(SafePath.of(path)).isEmpty();
  }

  @Test
  void aNameOfTooManyBytesNamesNoFile() {
    assertThat(SafePath.of("media/" + "é".repeat(127) + "j")).isPresent();
    assertThat(SafePath.of("media/" + "é".repeat(128))).isEmpty();
  }

  @Test
  void usualNamesStayAsTheyAre() {
    assertThat(SafePath.of("media//2026/Fähre am Pier (1).jpg"))
        .contains("media/2026/Fähre am Pier (1).jpg");
    assertThat(SafePath.of("media/..hidden/x..jpg")).isPresent();
    assertThat(SafePath.of("media/渡し船🚢.jpg")).isPresent();
  }

  @ParameterizedTest
  @ValueSource(
      strings = {
        "a.php",
        "a.PHP",
        "a.phtml",
        "a.phar",
        "a.php.jpg",
        "a.php5",
        ".htaccess",
        ".user.ini",
        "web.config",
        "a.pht.",
        "a.php ",
        "x/a.cgi",
        "a.shtml",
        "a.ｐｈｐ"
      })
  void programsAreTold(String path) {
    assertThat(SafePath.isProgram(path)).isTrue();
  }

  @ParameterizedTest
  @ValueSource(strings = {"a.jpg", "php", "php.jpg", "a.pdf", "graph.svg", "example.com.jpg", "a"})
  void otherFilesAreNone(String path) {
    assertThat(SafePath.isProgram(path)).isFalse();
  }
}
