package weftex.core.file;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.Map;
import org.junit.jupiter.api.Test;

class FileNameMapTest {
  private final FileNameMap map = new FileNameMap(Map.of("media/pier.jpg", "media/pier-1.jpg"));

  @Test
  void aPathThatIsNotRenamedIsTheSameOnBothCopies() {
    assertThat(map.onTarget("media/quay.jpg")).isEqualTo("media/quay.jpg");
    assertThat(map.onSource("media/quay.jpg")).contains("media/quay.jpg");
    assertThat(FileNameMap.SAME.isNothing()).isTrue();
  }

  @Test
  void aRenamedPathIsFoundInBothDirections() {
    assertThat(map.onTarget("media/pier.jpg")).isEqualTo("media/pier-1.jpg");
    assertThat(map.onSource("media/pier-1.jpg")).contains("media/pier.jpg");
  }

  @Test
  void theTargetsOwnFileOfThatNameIsNoneOfTheSource() {
    assertThat(map.onSource("media/pier.jpg")).isEmpty();
  }

  @Test
  void furtherNamesAreAddedAndTwoMapsThatSayTheSameAreEqualInWords() {
    FileNameMap both = map.and(Map.of("media/quay.jpg", "media/quay-1.jpg"));
    assertThat(both.onTarget("media/pier.jpg")).isEqualTo("media/pier-1.jpg");
    assertThat(both.onTarget("media/quay.jpg")).isEqualTo("media/quay-1.jpg");
    assertThat(map.onTarget("media/quay.jpg"))
        .as("the first one stays")
        .isEqualTo("media/quay.jpg");
    FileNameMap otherWay =
        new FileNameMap(Map.of("media/quay.jpg", "media/quay-1.jpg"))
            .and(Map.of("media/pier.jpg", "media/pier-1.jpg"));
    assertThat(otherWay.words()).isEqualTo(both.words());
    assertThat(map.words()).isNotEqualTo(both.words());
  }
}
