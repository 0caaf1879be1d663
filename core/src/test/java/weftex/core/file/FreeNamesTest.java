package weftex.core.file;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.io.IOException;
import java.util.Map;
import java.util.Set;
import org.junit.jupiter.api.Test;

class FreeNamesTest {
  private final FreeNames names = new FreeNames(path -> !path.contains("pier-1"));

  @Test
  void aNameThatIsTakenGetsTheFirstFreeNumber() throws IOException {
    names.collide("media/pier.jpg");
    names.collide("media/quay.jpg");
    assertThat(names.renames())
        .containsExactlyInAnyOrderEntriesOf(
            Map.of("media/pier.jpg", "media/pier-2.jpg", "media/quay.jpg", "media/quay-1.jpg"));
  }

  @Test
  void whatDoesNotCollideKeepsItsName() throws IOException {
    names.together(Set.of("media/pier.jpg", "media/pier-300x200.jpg"));
    assertThat(names.renames()).isEmpty();
  }

  @Test
  void aPictureAndItsSizesGetOneStem() throws IOException {
    names.together(Set.of("media/quay.jpg", "media/quay-300x200.jpg"));
    names.collide("media/quay-300x200.jpg");
    assertThat(names.renames())
        .containsExactlyInAnyOrderEntriesOf(
            Map.of(
                "media/quay.jpg",
                "media/quay-1.jpg",
                "media/quay-300x200.jpg",
                "media/quay-1-300x200.jpg"));
  }

  @Test
  void familiesThatShareAFileAreOne() throws IOException {
    names.together(Set.of("media/quay.jpg", "media/quay-300x200.jpg"));
    names.together(Set.of("media/quay-300x200.jpg", "media/quay-600x400.jpg"));
    names.collide("media/quay.jpg");
    assertThat(names.renames())
        .containsKeys("media/quay.jpg", "media/quay-300x200.jpg", "media/quay-600x400.jpg");
  }

  @Test
  void aFileInAnotherFolderIsNoneOfTheFamily() throws IOException {
    names.together(Set.of("media/quay.jpg", "small/quay.jpg"));
    names.collide("media/quay.jpg");
    assertThat(names.renames())
        .containsExactlyEntriesOf(Map.of("media/quay.jpg", "media/quay-1.jpg"));
  }

  @Test
  void filesWithoutACommonBeginningAreRenamedAlone() throws IOException {
    names.together(Set.of("media/quay.jpg", "media/harbour.jpg"));
    names.collide("media/quay.jpg");
    assertThat(names.renames())
        .containsExactlyEntriesOf(Map.of("media/quay.jpg", "media/quay-1.jpg"));
  }

  @Test
  void ofFilesThatNobodyTellsApartThoseBelongTogetherThatBeginAlike() throws IOException {
    names.collideAll(Set.of("media/quay.jpg", "media/quay-300x200.jpg", "media/fares.pdf"));
    assertThat(names.renames())
        .containsEntry("media/quay.jpg", "media/quay-1.jpg")
        .containsEntry("media/quay-300x200.jpg", "media/quay-1-300x200.jpg")
        .containsEntry("media/fares.pdf", "media/fares-1.pdf");
  }

  @Test
  void twoThatBecomeTheSameNeverDo() throws IOException {
    names.collide("media/quay");
    names.collide("media/quay.jpg");
    assertThat(names.renames().values()).doesNotHaveDuplicates().hasSize(2);
  }

  @Test
  void whereNoNameIsFreeItIsSaidAfterManyTries() {
    FreeNames none = new FreeNames(path -> false);
    none.collide("media/quay.jpg");
    assertThatThrownBy(none::renames)
        .isInstanceOf(IOException.class)
        .hasMessage("no free name for media/quay was found");
  }
}
