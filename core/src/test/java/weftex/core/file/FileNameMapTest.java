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
  void twoMapsThatSayTheSameAreEqualInWords() {
    String both =
        new FileNameMap(
                Map.of("media/quay.jpg", "media/quay-1.jpg", "media/pier.jpg", "media/pier-1.jpg"))
            .words();
    assertThat(both).contains("media/pier.jpg", "media/quay-1.jpg").isNotEqualTo(map.words());
    assertThat(
            new FileNameMap(
                    Map.of(
                        "media/pier.jpg", "media/pier-1.jpg", "media/quay.jpg", "media/quay-1.jpg"))
                .words())
        .isEqualTo(both);
  }
}
